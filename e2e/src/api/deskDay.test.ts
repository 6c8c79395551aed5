import { confirmVisit, setStatus } from '@zaguan/contracts/booking';
import { board } from '@zaguan/contracts/intake';
import { patientRecord } from '@zaguan/contracts/patients';
import { countWork, todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { addDays } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

describe('the day at the desk', () => {
  let world: World;
  let desk: Client;
  let frontDesk: Client;
  beforeAll(async () => {
    world = await makeWorld('desk_day');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    frontDesk = await signedIn(world.servers[0].url, 'front-desk');
  });
  afterAll(() => world.close());

  const visitAt = async (siteId: string) =>
    (
      await world.sql.query<{ id: string; version: number; patient_id: string }>(
        `select id, version, patient_id from appointment where site_id = $1 and status = 'booked' and confirmed_at is null
           and patient_id is not null and starts_at > now() + (select offset_ms * interval '1 millisecond' from domain_clock)
         order by starts_at limit 1`,
        [siteId],
      )
    ).rows[0];
  const confirmedAt = async (id: string) =>
    (await world.sql.query<{ at: Date | null }>('select confirmed_at as at from appointment where id = $1', [id]))
      .rows[0].at;

  it('notes that a patient told the desk they come, undoes it, and tells it in the trail', async () => {
    const { id, version, patient_id } = await visitAt(SITES.canal);
    const done = dataOf(await desk.call(confirmVisit, { id: id as never, confirmed: true, version }));
    expect(done).toMatchObject({ confirmed: true, version: version + 1 });
    expect(await confirmedAt(id)).not.toBeNull();
    const { trail } = dataOf(await desk.call(patientRecord, { id: patient_id })).record;
    expect(trail.find(({ command }) => command === 'booking.confirmVisit')?.changes).toEqual([
      { field: 'confirmed', label: null, before: false, after: true },
    ]);
    dataOf(await desk.call(undo, { id: done.undo.id }));
    expect(await confirmedAt(id)).toBeNull();
  });

  it('gives a confirmation that was removed by mistake back with its moment', async () => {
    const { id } = await visitAt(SITES.canal);
    const { rows } = await world.sql.query<{ version: number; at: Date }>(
      `update appointment set confirmed_at = '2026-11-30T15:00:00Z' where id = $1 returning version, confirmed_at as at`,
      [id],
    );
    const [{ version, at }] = rows;
    const removed = dataOf(await desk.call(confirmVisit, { id: id as never, confirmed: false, version }));
    expect(await confirmedAt(id)).toBeNull();
    dataOf(await desk.call(undo, { id: removed.undo.id }));
    expect(await confirmedAt(id)).toEqual(at);
    await world.sql.query('update appointment set confirmed_at = null where id = $1', [id]);
  });

  it('refuses to confirm what somebody else changed, what is not booked, and another site’s visit', async () => {
    const { id, version } = await visitAt(SITES.canal);
    const call = (client: Client, of: string, at: number) =>
      client.call(confirmVisit, { id: of as never, confirmed: true, version: at });
    expect(refusalOf(await call(desk, id, version + 5)).tag).toBe('ChangedMeanwhile');
    const elsewhere = await visitAt(SITES.mesa);
    expect(refusalOf(await call(frontDesk, elsewhere.id, elsewhere.version)).tag).toBe('NotAllowed');
    const arrived = dataOf(await desk.call(setStatus, { id: id as never, to: 'arrived', version }));
    expect(refusalOf(await call(desk, id, arrived.version)).tag).toBe('WrongStatus');
    expect(await confirmedAt(id)).toBeNull();
  });

  it('shows for Intake today and the next working day: on a Friday Monday, and a closed day that has visits', async () => {
    const daysOf = async (date?: string) =>
      dataOf(await desk.call(board, date ? { date } : {})).sites.find(({ id }) => id === SITES.canal)?.days;
    expect(await daysOf()).toEqual([TEST_DAY, addDays(TEST_DAY, 1)]);
    expect(await daysOf(addDays(TEST_DAY, 9))).toEqual([addDays(TEST_DAY, 9)]);
    const friday = addDays(TEST_DAY, 3);
    await passMinutes(world, 3 * 1440);
    const later = await signedIn(world.servers[0].url, 'coordinator');
    const { sites } = dataOf(await later.call(board, {}));
    const canal = sites.find(({ id }) => id === SITES.canal);
    expect([canal?.days[0], canal?.days.at(-1)]).toEqual([friday, addDays(friday, 3)]);
    for (const day of canal?.days.slice(1, -1) ?? []) expect(canal?.visits.some(({ date }) => date === day)).toBe(true);
    expect(refusalOf(await desk.call(board, { date: '2026-02-31' })).issues?.[0]).toEqual({
      path: 'date',
      code: 'no-such-date',
    });
  });

  it('counts for the menu what Today lists, without naming anybody', async () => {
    const { work } = dataOf(await desk.call(todaysWork, {}));
    const counted = dataOf(await desk.call(countWork, {}));
    const of = (...kinds: string[]) => work.filter(({ kind }) => kinds.includes(kind)).length;
    expect(counted).toEqual({
      redFlags: of('red-flag'),
      identityReview: of('identity-review', 'approval'),
      work: work.length - of('not-ready'),
    });
    expect(refusalOf(await (await signedIn(world.servers[0].url, 'read-only')).call(countWork, {})).tag).toBe(
      'NotAllowed',
    );
  });
});
