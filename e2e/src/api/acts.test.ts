import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setStatus } from '@zaguan/contracts/booking';
import { writeNote } from '@zaguan/contracts/daybook';
import { listActs, undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { actWords } from '../../../web/src/staff/words.acts.en.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { ROOT } from '../fixtures/cluster.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('what one did and can take back', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('acts');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());

  const acts = async (who: Client) => dataOf(await who.call(listActs, {})).acts;
  const arrive = async (id: string, version: number) =>
    dataOf(await desk.call(setStatus, { id, version, to: 'arrived' } as never));

  it('lists the latest first, with the visit it was about, until it is taken back; of others nothing', async () => {
    const { rows } = await world.sql.query<{ id: string; version: number; family_name: string }>(
      `select a.id, a.version, p.family_name from appointment a join patient p on p.id = a.patient_id
       where a.site_id = $1 and a.site_date = $2 and a.status = 'booked' order by a.starts_at limit 1`,
      [SITES.canal, TEST_DAY],
    );
    const [visit] = rows;
    await arrive(visit.id, visit.version);
    const said = { siteId: SITES.canal, resourceId: null, date: TEST_DAY, fromMinute: null, toMinute: null };
    dataOf(await desk.call(writeNote, { ...said, text: 'Fire drill' } as never));
    const [note, status] = await acts(desk);
    expect([note.what, note.visit]).toEqual(['note', null]);
    expect(status).toMatchObject({ what: 'status', visit: { id: visit.id, date: TEST_DAY } });
    expect(status.visit?.patient).toContain(visit.family_name);
    expect(await acts(await signedIn(world.servers[0].url, 'manager'))).toEqual([]);
    expect((await desk.call(undo, { id: status.id } as never)).status).toBe(200);
    expect((await acts(desk)).map(({ what }) => what)).not.toContain('status');
    // Once, and only by who did it.
    expect(refusalOf(await desk.call(undo, { id: status.id } as never)).tag).toBe('UndoGone');
  });

  it('says of somebody restricted no name to who may not open the record', async () => {
    const { rows } = await world.sql.query<{ id: string }>(
      `update patient set restricted = true, restricted_because = 'staff' where id =
         (select patient_id from appointment where site_id = $1 and site_date = $2 and patient_id is not null and status = 'booked' order by starts_at desc limit 1)
       returning (select a.id from appointment a where a.patient_id = patient.id and a.site_date = $2 limit 1) as id`,
      [SITES.canal, TEST_DAY],
    );
    const frontDesk = await signedIn(world.servers[0].url, 'front-desk');
    const { version } = (await world.sql.query('select version from appointment where id = $1', [rows[0].id])).rows[0];
    await world.sql.query(
      `insert into undo_entry (id, account_id, command, input, label, created_at, expires_at)
       select gen_random_uuid(), id, 'booking.setStatus', $1::jsonb, '{"what":"status"}', '2026-12-01T16:00:00Z', '2026-12-05T00:00:00Z' from account where role = 'provider' limit 1`,
      [JSON.stringify({ id: rows[0].id, version })],
    );
    const provider = await signedIn(world.servers[0].url, 'provider');
    const [act] = await acts(provider);
    expect(act.visit?.patient ?? 'Restricted').toMatch(/^Restricted/);
    expect(await acts(frontDesk)).toEqual([]);
  });

  it('is nothing to who is not signed in', async () => {
    expect(refusalOf(await new Client(world.servers[0].url).call(listActs, {})).tag).toBe('NotSignedIn');
  });

  it('has words for everything that can be taken back', () => {
    const folder = join(ROOT, 'server/src/features');
    const source = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((file) => file.endsWith('.ts'))
      .map((file) => readFileSync(join(folder, file), 'utf8'))
      .join('\n');
    const codes = [...source.matchAll(/label: \{ what: ([^,}]+(?:\$\{\w+\}`)?)/g)].flatMap(([, said]) => {
      const template = /^`([\w-]+):/.exec(said);
      return template ? [template[1]] : [...said.matchAll(/'([\w-]+)'/g)].map(([, code]) => code);
    });
    expect(codes.length).toBeGreaterThan(30);
    expect(codes.filter((code) => !(code in actWords.acts.what))).toEqual([]);
  });
});
