import { createHash } from 'node:crypto';
import { ClinicIndex, ClinicStore, searchOpenings } from '@zaguan/core/openings';
import { addDays, wallToEpoch } from '@zaguan/core/time';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { idOf, makeRandom } from '../../../demo/src/random.ts';
import { loadSnapshot } from '../../../server/src/features/openings/openings.sql.ts';
import { ResidentClinic } from '../../../server/src/features/openings/residentClinic.ts';
import { openOrm, type Orm } from '../../../server/src/platform/db/orm.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

const ZONE = 'America/Chicago';
const NOW = new Date(wallToEpoch(ZONE, TEST_DAY, 620) * 60_000);
const DATES = { from: TEST_DAY, until: addDays(TEST_DAY, 13) };

/** Every start of every type that the clinic would offer over two weeks: how many, and a hash of them all. */
function everyStart(store: ClinicStore, now: Date): string {
  const index = new ClinicIndex(store, Math.ceil(now.getTime() / 60_000));
  const found: string[] = [];
  for (const visitTypeId of Object.values(TYPES))
    for (const { siteId, providerId, start } of searchOpenings(
      index,
      { visitTypeId, kind: 'established', channel: 'desk' },
      { siteIds: [SITES.canal], providerIds: null, ...DATES },
    ))
      found.push(`${visitTypeId}|${siteId}|${providerId}|${start}`);
  return `${found.length} ${createHash('sha256').update(found.join('\n')).digest('hex')}`;
}

describe('the clinic a process keeps', () => {
  let world: World;
  let orm: Orm;
  let pool: pg.Pool;
  let itsOwn: pg.Pool;
  let clinic: ResidentClinic;
  beforeAll(async () => {
    world = await makeWorld('resident', { processes: 0 });
    orm = await openOrm({ url: world.url, connections: 2 });
    pool = new pg.Pool({ connectionString: world.url, max: 4 });
    itsOwn = new pg.Pool({ connectionString: world.url, max: 2 });
    clinic = new ResidentClinic(itsOwn);
  });
  afterAll(async () => {
    // A test that failed in the middle of a transaction holds its connection: it is not waited for.
    void pool.end();
    await itsOwn.end();
    await orm.close(true);
    await world.close();
  });

  const kept = async (now = NOW) => everyStart(await clinic.read(orm.em.fork(), DATES, now), now);
  const fresh = async (now = NOW) => everyStart(new ClinicStore(await loadSnapshot(orm.em.fork(), DATES, now)), now);

  /** A hold of one provider for half an hour; `false` when somebody has that time. */
  async function hold(sql: pg.ClientBase, id: string, providerId: string, start: Date, minutes = 10): Promise<boolean> {
    const end = new Date(start.getTime() + 30 * 60_000);
    await sql.query('savepoint before_hold');
    try {
      await sql.query(
        `insert into hold (id, browser_hash, site_id, visit_type_id, provider_id, patient_kind, starts_at, ends_at, provider_starts_at, provider_ends_at, before_min, after_min, site_date, expires_at, created_at)
         values ($1, decode($9, 'hex'), $2, $3, $4, 'established', $5, $6, $5, $6, 0, 0, ($5::timestamptz at time zone '${ZONE}')::date, $7, $8)`,
        [
          id,
          SITES.canal,
          TYPES.follow,
          providerId,
          start,
          end,
          new Date(NOW.getTime() + minutes * 60_000),
          NOW,
          id.replaceAll('-', ''),
        ],
      );
      await sql.query(
        `insert into occupancy (resource_id, place, places, during, hold_id) values ($1, 0, 1, tstzrange($2, $3), $4)`,
        [providerId, start, end, id],
      );
      return true;
    } catch (error) {
      if ((error as { code?: string }).code !== '23P01') throw error;
      await sql.query('rollback to savepoint before_hold');
      return false;
    }
  }

  /** Starts that a provider has open at Canal Row. */
  const offered = async (providerId: string) => {
    const index = new ClinicIndex(await clinic.read(orm.em.fork(), DATES, NOW), Math.ceil(NOW.getTime() / 60_000));
    const criteria = { visitTypeId: TYPES.follow, kind: 'established', channel: 'desk' } as const;
    const range = { siteIds: [SITES.canal], providerIds: [providerId], ...DATES };
    return [...searchOpenings(index, criteria, range)].map(({ start }) => new Date(start * 60_000));
  };
  const slot = (day: number, n: number) => new Date(wallToEpoch(ZONE, addDays(TEST_DAY, day), 480 + n * 30) * 60_000);
  let made = 0;
  const newId = () => idOf(`hold ${++made}`);

  it('equals one read afresh, through 140 steps of transactions that overlap, are committed late or not at all', async () => {
    const random = makeRandom(7);
    const writers = await Promise.all([0, 1].map(() => pool.connect()));
    const open = [false, false];
    const mine: string[][] = [[], []];
    let changes = 0;
    let last = await kept();
    try {
      for (let step = 0; step < 140; step++) {
        const n = random.int(0, 1);
        const sql = writers[n];
        if (!open[n]) await sql.query('begin');
        open[n] = true;
        const dice = random.int(0, 99);
        // Each writer keeps to a provider of its own, so that none waits for another's uncommitted time.
        const provider = [PROVIDERS.amaya, PROVIDERS.lund][n];
        if (dice < 50) {
          const id = newId();
          if (await hold(sql, id, provider, random.pick(await offered(provider)))) mine[n].push(id);
        } else if (dice < 70 && mine[n].length > 0) {
          await sql.query('delete from hold where id = $1', [mine[n].splice(0, 1)[0]]);
        } else if (dice < 78) {
          // What is planned changes in the same transactions as what is taken.
          await sql.query(
            'update working_hours set to_minute = to_minute + case when to_minute % 10 = 0 then -5 else 5 end where resource_id = $1',
            [provider],
          );
        } else {
          await sql.query(dice < 90 ? 'commit' : 'rollback');
          open[n] = false;
        }
        const now = await kept();
        expect(now).toBe(await fresh());
        if (now !== last) changes++;
        last = now;
      }
    } finally {
      for (const sql of writers) {
        await sql.query('rollback');
        sql.release();
      }
    }
    expect(await kept()).toBe(await fresh());
    // What was compared did change, many times.
    expect(changes).toBeGreaterThan(5);
  });

  it('sees a transaction that wrote before a look and was committed after it', async () => {
    const sql = await pool.connect();
    await sql.query('begin');
    const before = await kept();
    expect(await hold(sql, newId(), PROVIDERS.amaya, (await offered(PROVIDERS.amaya))[3])).toBe(true);
    // Others come and go meanwhile, so that the database's mark moves past the open one.
    for (let n = 0; n < 3; n++) await pool.query('update site set name = name where id = $1', [SITES.canal]);
    await kept();
    await sql.query('commit');
    sql.release();
    const after = await kept();
    expect(after).not.toBe(before);
    expect(after).toBe(await fresh());
  });

  it('takes up changes of hours, closures and rules at once', async () => {
    const before = await kept();
    const { rows } = await pool.query<{ id: string }>(
      `update working_hours set to_minute = to_minute - 60 where resource_id = $1 returning id`,
      [PROVIDERS.lund],
    );
    expect(rows.length).toBeGreaterThan(0);
    const changed = await kept();
    expect(changed).not.toBe(before);
    expect(changed).toBe(await fresh());
    await pool.query(
      `insert into closure (id, site_id, reason, start_date, start_minute, end_date, end_minute) values (gen_random_uuid(), $1, 'water', $2, 0, $2, 1440)`,
      [SITES.canal, addDays(TEST_DAY, 3)],
    );
    expect(await kept()).not.toBe(changed);
    expect(await kept()).toBe(await fresh());
  });

  it('counts what is booked anew when a limit changes, and keeps what is taken when hours do', async () => {
    const limit = (max: number) => pool.query('update booking_cap set max = $1', [max]);
    const { rows } = await pool.query<{ max: number }>('select max from booking_cap limit 1');
    const before = await kept();
    const { taken } = await clinic.read(orm.em.fork(), DATES, NOW);
    await limit(0);
    expect(await kept()).not.toBe(before);
    expect(await kept()).toBe(await fresh());
    const counted = await clinic.read(orm.em.fork(), DATES, NOW);
    expect(counted.taken).not.toBe(taken);
    await pool.query('update working_hours set online = not online where resource_id = $1', [PROVIDERS.lund]);
    const replanned = await clinic.read(orm.em.fork(), DATES, NOW);
    expect(replanned).not.toBe(counted);
    expect(replanned.taken).toBe(counted.taken);
    expect(await kept()).toBe(await fresh());
    await pool.query('update working_hours set online = not online where resource_id = $1', [PROVIDERS.lund]);
    await limit(rows[0].max);
    expect(await kept()).toBe(before);
  });

  it('gives a hold’s time back when it has run out, without a word from the database', async () => {
    const sql = await pool.connect();
    await sql.query('begin');
    await hold(sql, newId(), PROVIDERS.amaya, (await offered(PROVIDERS.amaya))[5], 3);
    await sql.query('commit');
    sql.release();
    const held = await kept();
    const later = new Date(NOW.getTime() + 3 * 60_000);
    expect(await kept(later)).not.toBe(held);
    expect(await kept(later)).toBe(await fresh(later));
  });

  it('answers many at once with what was committed before each asked', async () => {
    const visits = async () => {
      const { taken } = await clinic.read(orm.em.fork(), DATES, NOW);
      return Array.from({ length: 12 }, (_, n) => taken.visitsOn(addDays(TEST_DAY, n)).length).reduce((a, b) => a + b);
    };
    const before = await visits();
    const sql = await pool.connect();
    const asked: Promise<number>[] = [];
    const committed: number[] = [];
    for (let n = 0; n < 24; n++) {
      await sql.query('begin');
      const done = await hold(sql, newId(), PROVIDERS.dray, slot(1 + (n % 9), 16 + n));
      await sql.query('commit');
      committed.push((committed.at(-1) ?? 0) + (done ? 1 : 0));
      asked.push(visits().then((count) => count - before));
    }
    sql.release();
    const seen = await Promise.all(asked);
    expect(committed.at(-1)).toBe(24);
    for (const [n, count] of seen.entries()) expect(count).toBeGreaterThanOrEqual(committed[n]);
  });

  it('reads everything anew after the database refused it once', async () => {
    const broken = new pg.Pool({ connectionString: world.url, max: 2 });
    const own = new ResidentClinic(broken);
    const starts = async () => everyStart(await own.read(orm.em.fork(), DATES, NOW), NOW);
    expect(await starts()).toBe(await fresh());
    await pool.query('alter table openings_change rename to openings_change_away');
    await expect(starts()).rejects.toThrow();
    await pool.query('alter table openings_change_away rename to openings_change');
    expect(await starts()).toBe(await fresh());
    await broken.end();
  });

  it('reads dates that are not kept for the one question', async () => {
    const far = { from: '2028-02-01', until: '2028-02-03' };
    const store = await clinic.read(orm.em.fork(), far, NOW);
    expect(store).not.toBe(await clinic.read(orm.em.fork(), DATES, NOW));
    const index = new ClinicIndex(store, Math.ceil(NOW.getTime() / 60_000));
    const starts = searchOpenings(
      index,
      { visitTypeId: TYPES.follow, kind: 'established', channel: 'desk' },
      { siteIds: [SITES.canal], providerIds: null, ...far },
    );
    expect(starts.next().done).toBe(false);
  });
});
