import { addDays } from '@zaguan/core/time';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadSnapshot } from '../../../server/src/features/openings/index.ts';
import type { Orm } from '../../../server/src/platform/db/orm.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { comingVisits, refusedAnew } from '../fixtures/comingVisits.ts';
import { fullClinic } from '../fixtures/fullClinic.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';

/** Loaded once: the whole clinic takes a while. */
describe('the demo clinic, whole', () => {
  let orm: Orm;
  let sql: pg.Pool;
  let now: Date;
  const count = async (query: string) => Number((await sql.query<{ n: string }>(query)).rows[0].n);

  beforeAll(async () => {
    const clinic = await fullClinic('t_full_demo');
    const { url } = clinic;
    now = clinic.now;
    orm = await prepareDatabase(url);
    sql = new pg.Pool({ connectionString: url, max: 2 });
  }, 480_000);
  afterAll(async () => {
    await sql.end();
    await orm.close(true);
  });

  it('has the sites, people and places of the scenario', async () => {
    const { rows } = await sql.query('select time_zone from site order by sort_order');
    expect(rows.map((row) => row.time_zone)).toEqual([
      'America/Chicago',
      'America/Chicago',
      'America/Denver',
      'America/Phoenix',
    ]);
    expect(await count(`select count(*) as n from resource where kind = 'provider'`)).toBe(11);
    expect(await count('select count(*) as n from patient')).toBe(2600);
    expect(await count('select count(distinct household_id) as n from patient')).toBe(1500);
    expect(await count(`select count(*) as n from pool where kind = 'observation-chair'`)).toBe(4);
    expect(
      await count(
        `select count(*) as n from pool_member m join pool p on p.id = m.pool_id where p.kind = 'observation-chair'`,
      ),
    ).toBe(8 + 6 + 5 + 3);
    expect(
      await count(`select count(*) as n from patient_contact c join contact_point p on p.id = c.contact_point_id
      where p.kind = 'phone' and p.value !~ '^\\+1[2-9][0-9]{2}55501[0-9]{2}$'`),
    ).toBe(0);
  });

  it('has about 38,000 visits in a year and eight weeks, each with what it takes', async () => {
    const visits = await count(`select count(*) as n from appointment where status <> 'cancelled'`);
    expect(visits).toBeGreaterThan(34_000);
    expect(visits).toBeLessThan(46_000);
    expect(
      await count(`select count(*) as n from appointment a where status <> 'cancelled'
        and not exists (select 1 from occupancy o where o.appointment_id = a.id)`),
    ).toBe(0);
    const missed = await count(`select count(*) as n from appointment where status = 'noshow'`);
    expect(missed / visits).toBeGreaterThan(0.03);
    expect(missed / visits).toBeLessThan(0.15);
    // A person misses more often what was booked long before: the law that measures will look for.
    const share = (days: string) =>
      count(
        `select avg((status = 'noshow')::int) * 1e6 as n from appointment where status in ('noshow','fulfilled') and starts_at - created_at ${days}`,
      );
    expect(await share(`> interval '40 days'`)).toBeGreaterThan(1.3 * (await share(`< interval '3 days'`)));
  });

  it('has the messages of its visits as the reminder rules plan them', async () => {
    const by = async (where: string) => count(`select count(*) as n from message where ${where}`);
    expect(await by("status = 'delivered'")).toBeGreaterThan(5000);
    expect(await by("kind = 'reminder' and status = 'planned'")).toBeGreaterThan(5000);
    for (const code of ['too-close', 'already-past', 'opted-out'])
      expect([code, await by(`dropped_code = '${code}'`)]).not.toEqual([code, 0]);
    // Nothing waits that was due before the demo's present, and nothing is due at night where the visit is.
    expect(
      await count(`select count(*) as n from message where status = 'planned' and send_at <= '${now.toISOString()}'`),
    ).toBe(0);
    expect(
      await count(`select count(*) as n from message m join appointment a on a.id = m.appointment_id join site s on s.id = a.site_id
        where m.kind = 'reminder' and m.status in ('planned','delivered')
          and (m.send_at at time zone s.time_zone)::time not between '08:00' and '20:59:59'`),
    ).toBe(0);
    // 12 hours apart at least, a visit's reminders.
    expect(
      await count(`select count(*) as n from message a join message b on a.appointment_id = b.appointment_id and a.id < b.id
        where a.kind = 'reminder' and b.kind = 'reminder' and a.status <> 'dropped' and b.status <> 'dropped'
          and abs(extract(epoch from a.send_at - b.send_at)) < 12 * 3600`),
    ).toBe(0);
  });

  it('holds no coming visit that the rules would refuse if it were booked now', async () => {
    const visits = await comingVisits(sql, 'site_date between $1 and $2 order by a.id limit 400', [
      addDays(TEST_DAY, 1),
      addDays(TEST_DAY, 50),
    ]);
    expect(visits.length).toBe(400);
    const range = { from: addDays(TEST_DAY, -3), until: addDays(TEST_DAY, 56) };
    const snapshot = await loadSnapshot(orm.em.fork(), range, now);
    // Booked early, some were kept for new patients and released since: judged as they could have been booked at best.
    expect(refusedAnew(snapshot, visits, ({ start }) => [now.getTime() / 60_000, start - 60])).toEqual([]);
  }, 240_000);

  it('tells the day’s story: the Vestibule, a red flag, tomorrow about two thirds ready', async () => {
    expect(await count(`select count(*) as n from appointment where identity = 'unknown'`)).toBe(3);
    expect(
      await count(
        'select count(*) as n from red_flag f where not exists (select 1 from red_flag_clearing k where k.red_flag_id = f.id)',
      ),
    ).toBe(1);
    const done = await count(
      `select count(*) as n from form_response r join appointment a on a.id = r.appointment_id where a.site_date = '${addDays(TEST_DAY, 1)}'`,
    );
    const visits = await count(`select count(*) as n from appointment a join visit_type t on t.id = a.visit_type_id
      where a.site_date = '${addDays(TEST_DAY, 1)}' and a.status = 'booked' and t.code in ('consult','follow','skin','challenge','drug','dietitian','injection','venom','biologic','asthma')`);
    expect(done / visits).toBeGreaterThan(0.6);
    expect(done / visits).toBeLessThan(0.85);
  });

  it('tells the morning: a sick call over nine visits, two times given up, a carrier that was down', async () => {
    const toMove =
      await count(`select count(*) as n from appointment a join site s on s.id = a.site_id join time_off t on t.resource_id = a.provider_id
      where t.reason = 'Called in sick' and a.status = 'booked' and a.site_date = t.start_date
        and extract(hour from a.starts_at at time zone s.time_zone) * 60 + extract(minute from a.starts_at at time zone s.time_zone) >= t.start_minute`);
    expect(toMove).toBe(9);
    const { rows } = await sql.query<{ free: boolean; at: Date }>(
      `select not exists (select 1 from occupancy o where o.appointment_id = a.id) as free, a.cancelled_at as at
         from appointment a where a.site_date = $1 and a.status = 'cancelled' and a.cancel_reason = 'patient-asked' and a.cancelled_at > $2`,
      [TEST_DAY, new Date(now.getTime() - 3_600_000)],
    );
    expect(rows.map((row) => row.free)).toEqual([true, true]);
    expect(
      await count(`select count(*) as n from message where fail_reason = 'carrier-down' and handled_at is null`),
    ).toBe(4);
  });

  it('gives every child somebody of age who may sign, and nobody to themselves', async () => {
    expect(await count('select count(*) as n from relationship where related_patient_id = patient_id')).toBe(0);
    expect(
      await count(`select count(*) as n from relationship r join patient p on p.id = r.related_patient_id
        where p.birth_date > date '${TEST_DAY}' - interval '18 years'`),
    ).toBe(0);
    expect(
      await count(`select count(*) as n from patient p where p.birth_date > date '${TEST_DAY}' - interval '17 years'
        and not exists (select 1 from relationship r where r.patient_id = p.id and r.may_sign)`),
    ).toBe(0);
  });

  it('has payers, questions before booking and fields of its own, and coverage that waits to be verified', async () => {
    expect(await count('select count(*) as n from payer')).toBeGreaterThan(3);
    expect(await count(`select count(*) as n from custom_field where "of" = 'booking'`)).toBe(1);
    expect(await count(`select count(*) as n from custom_field where "of" = 'patient'`)).toBe(2);
    expect(
      await count(`select count(*) as n from visit_coverage c join appointment a on a.id = c.appointment_id
        where c.state = 'to-verify' and a.status = 'booked' and a.origin = 'self'`),
    ).toBe(3);
    expect(await count('select count(*) as n from site where latitude is null or longitude is null')).toBe(0);
  });
});
