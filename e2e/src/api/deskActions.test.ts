import { cancelVisit, placeHold, setStatus } from '@zaguan/contracts/booking';
import { daybookDay } from '@zaguan/contracts/daybook';
import { whyNot } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP } from '../fixtures/patient.ts';
import { at, makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

describe('what the desk does', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('desk');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const statusOf = async (id: string) =>
    (
      await world.sql.query<{ status: string; version: number; arrived_at: Date | null }>(
        'select status, version, arrived_at from appointment where id = $1',
        [id],
      )
    ).rows[0];

  it('moves a visit to arrived, and undoes it', async () => {
    const { id } = await bookedVisit(base, 0);
    const moved = dataOf(await desk.call(setStatus, { id, to: 'arrived', version: 1 }));
    expect(await statusOf(id)).toMatchObject({ status: 'arrived', version: 2, arrived_at: expect.any(Date) });
    expect((await desk.call(undo, { id: moved.undo.id })).status).toBe(200);
    expect(await statusOf(id)).toMatchObject({ status: 'booked', arrived_at: null });
    expect(refusalOf(await desk.call(undo, { id: moved.undo.id })).tag).toBe('UndoGone');
  });

  it('refuses a status that can’t follow, an old version, and an undo of what has changed since', async () => {
    const { id } = await bookedVisit(base, 1);
    expect(refusalOf(await desk.call(setStatus, { id, to: 'fulfilled', version: 1 })).tag).toBe('WrongStatus');
    const moved = dataOf(await desk.call(setStatus, { id, to: 'arrived', version: 1 }));
    expect(refusalOf(await desk.call(setStatus, { id, to: 'noshow', version: 1 })).facts).toMatchObject({
      version: 2,
      status: 'arrived',
    });
    expect(refusalOf(await desk.call(setStatus, { id, to: 'checked-in', version: 2 })).tag).toBe('NeedsCheckIn');
    await desk.call(setStatus, { id, to: 'noshow', version: 2 });
    expect(refusalOf(await desk.call(undo, { id: moved.undo.id })).tag).toBe('ChangedMeanwhile');
  });

  it('lets nobody undo another account’s act, nor after 24 hours', async () => {
    const { id } = await bookedVisit(base, 2);
    const moved = dataOf(await desk.call(setStatus, { id, to: 'arrived', version: 1 }));
    const manager = await signedIn(base, 'manager');
    expect(refusalOf(await manager.call(undo, { id: moved.undo.id })).tag).toBe('UndoGone');
    await passMinutes(world, 24 * 60 + 1);
    expect(refusalOf(await desk.call(undo, { id: moved.undo.id })).tag).toBe('UndoGone');
    await passMinutes(world, -(24 * 60 + 1));
  });

  it('cancels with a reason, frees the time at once, and brings it back if it is still free', async () => {
    const { id, requested } = await bookedVisit(base, 3);
    const cancelled = dataOf(await desk.call(cancelVisit, { id, reason: 'patient-asked', note: '', version: 1 }));
    expect((await desk.call(undo, { id: cancelled.undo.id })).status).toBe(200);
    expect(await statusOf(id)).toMatchObject({ status: 'booked' });
    expect(refusalOf(await new Client(base).call(placeHold, requested)).tag).toBe('TimeTaken');

    const again = dataOf(await desk.call(cancelVisit, { id, reason: 'not-genuine', note: 'joke', version: 3 }));
    expect((await new Client(base).call(placeHold, requested)).status).toBe(200);
    const refused = refusalOf(await desk.call(undo, { id: again.undo.id }));
    expect(refused).toMatchObject({ tag: 'TimeTaken', codes: ['busy'] });
    expect(await statusOf(id)).toMatchObject({ status: 'cancelled' });
  });

  it('writes who did what into the audit, which nobody can change', async () => {
    const { id } = await bookedVisit(base, 4);
    await desk.call(setStatus, { id, to: 'arrived', version: 1 });
    await desk.call(daybookDay, { date: TEST_DAY });
    const { rows } = await world.sql.query(
      'select kind, command, actor_kind, before, after from audit_entry where subjects @> $1::jsonb order by id',
      [JSON.stringify([{ id }])],
    );
    expect(rows.map((row) => [row.command, row.actor_kind])).toEqual([
      ['booking.bookHeld', 'patient'],
      ['booking.setStatus', 'staff'],
    ]);
    expect(rows[1]).toMatchObject({ before: { status: 'booked' }, after: { status: 'arrived' } });
    const reads = await world.sql.query(
      "select jsonb_array_length(subjects) as n from audit_entry where kind = 'read' and command = 'daybook.day'",
    );
    expect(reads.rows[0].n).toBeGreaterThan(5);
    await expect(world.sql.query("update audit_entry set command = 'x'")).rejects.toThrow(/append-only/);
    await expect(world.sql.query('delete from audit_entry')).rejects.toThrow(/append-only/);
    await expect(world.sql.query('truncate audit_entry')).rejects.toThrow(/append-only/);
  });

  it('answers Why not? for any start: every rule, with the values of those that failed', async () => {
    const ask = (start: string, change: object = {}) =>
      desk.call(whyNot, { ...FOLLOW_UP, providerId: PROVIDERS.amaya, channel: 'online', start, ...change });
    const lunch = dataOf(await ask(at('America/Chicago', 1, 725)));
    expect(lunch.offered).toBe(false);
    expect(lunch.answers).toHaveLength(35);
    expect(lunch.answers.filter((answer) => !answer.passed).map((answer) => answer.code)).toEqual([
      'off-grid',
      'no-hours',
    ]);
    const afternoon = dataOf(await ask(at('America/Chicago', 6, 800))).answers.find(
      (answer) => answer.code === 'kind-not-accepted',
    );
    expect(afternoon?.facts[0]).toMatchObject({ kind: 'established', accepted: ['new'] });
    expect(
      dataOf(await ask(at('America/Chicago', 0, 630))).answers.find((answer) => answer.code === 'too-soon')?.facts[0],
    ).toMatchObject({ by: 'minutes', leadMin: 120, level: 'type' });
    expect(refusalOf(await ask(at('America/Chicago', 1, 725), { providerId: undefined })).tag).toBe('InvalidInput');
    const consult = dataOf(
      await ask(at('America/Denver', 1, 600), {
        siteId: SITES.mesa,
        providerId: PROVIDERS.dray,
        visitTypeId: TYPES.consult,
        kind: 'new',
      }),
    );
    expect(consult.answers.filter((answer) => !answer.passed).map((answer) => answer.code)).toContain('kept-free');
  });
});
