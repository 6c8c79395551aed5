import {
  requestTimeOff,
  upcomingChanges,
  decideTimeOff,
  editSchedule,
  listTimeOffRequests,
  previewSchedule,
  scheduleWeek,
  visitsToMove,
  type WireEdit,
} from '@zaguan/contracts/availability';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** A Tuesday on which Dr. Amaya works at Canal Street, and Dr. Dray at Mesa Court. */
const DATE = '2026-12-08';
const MONDAY = '2026-12-07';

describe('cover for time off', () => {
  let world: World;
  let desk: Client;
  let provider: Client;
  beforeAll(async () => {
    world = await makeWorld('cover');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    provider = await signedIn(world.servers[0].url, 'provider');
    // What Dr. Dray has booked elsewhere that day would be in the way until it is moved.
    const mine = `select id from appointment where provider_id = '${PROVIDERS.dray}' and site_date = '${DATE}'`;
    await world.sql.query(`delete from occupancy where appointment_id in (${mine})`);
    await world.sql.query('delete from kept_free where resource_id = $1', [PROVIDERS.dray]);
    await world.sql.query(`update appointment set status = 'entered-in-error' where id in (${mine})`);
  });
  afterAll(() => world.close());

  const span = {
    siteId: null,
    startDate: DATE,
    startMinute: 0,
    endDate: DATE,
    endMinute: 1440,
    reason: 'Moving house',
  };
  const off = (coverId: string | null): WireEdit => ({
    do: 'time-off',
    resourceIds: [PROVIDERS.amaya],
    coverId: coverId as never,
    ...span,
  });
  const laneOf = async (resourceId: string, siteId: string) =>
    dataOf(await desk.call(scheduleWeek, { from: MONDAY })).lanes.find(
      (lane) => lane.resourceId === resourceId && lane.siteId === siteId,
    )?.days[1];
  const coverHours = async () =>
    (await laneOf(PROVIDERS.dray, SITES.canal))?.hours.map(({ fromMinute, toMinute }) => [fromMinute, toMinute]) ?? [];
  /** Dr. Dray has nothing to do that day. */
  async function freeDray(): Promise<string> {
    const week = dataOf(await desk.call(scheduleWeek, { from: MONDAY }));
    const edits = week.hours
      .filter((row) => row.subject.id === PROVIDERS.dray && row.weekdays.includes(2))
      .map(
        (row): WireEdit => ({
          do: 'end-hours',
          hoursId: row.id as never,
          version: row.version,
          reach: { of: 'date', date: DATE },
        }),
      );
    return dataOf(await desk.call(editSchedule, { edits, agreed: true })).undo.id;
  }

  it('is refused where whoever covers works elsewhere, and saves nothing', async () => {
    const { faults, impact } = dataOf(await desk.call(previewSchedule, { edits: [off(PROVIDERS.dray)] }));
    expect(faults.map(({ code }) => code)).toContain('overlap');
    expect(impact).toBeNull();
    expect(refusalOf(await desk.call(editSchedule, { edits: [off(PROVIDERS.dray)], agreed: true })).codes).toContain(
      'overlap',
    );
    expect(refusalOf(await desk.call(editSchedule, { edits: [off(PROVIDERS.amaya)], agreed: true })).codes).toEqual([
      'covers-themselves',
    ]);
    expect(refusalOf(await desk.call(editSchedule, { edits: [off(crypto.randomUUID())], agreed: true })).tag).toBe(
      'NotFound',
    );
    expect(await coverHours()).toEqual([]);
  });

  it('gives them the hours of that day, proposes them to the visits, and all of it is undone in one press', async () => {
    const freed = await freeDray();
    const own = (await laneOf(PROVIDERS.amaya, SITES.canal))?.hours.map(({ fromMinute, toMinute }) => [
      fromMinute,
      toMinute,
    ]);
    expect(own?.length).toBeGreaterThan(0);
    const saved = dataOf(await desk.call(editSchedule, { edits: [off(PROVIDERS.dray)], agreed: true }));
    expect(await coverHours()).toEqual(own);
    const { changes } = dataOf(await desk.call(upcomingChanges, { from: DATE, days: 1 }));
    expect(changes.find(({ what }) => what === 'time-off')).toMatchObject({
      coveredBy: expect.stringContaining('Dray'),
    });
    const all = dataOf(await desk.call(visitsToMove, {})).visits;
    const visits = all.filter(({ providerId }) => providerId === PROVIDERS.amaya);
    expect(visits.length).toBe(saved.toMove);
    const asArranged = visits.filter(
      ({ start, proposed }) => proposed?.start === start && proposed.providerId === PROVIDERS.dray,
    );
    expect(asArranged.length).toBeGreaterThan(0);
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    expect(await coverHours()).toEqual([]);
    dataOf(await desk.call(undo, { id: freed }));
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
  });

  it('is nobody’s to name for their own time off: it gives somebody else hours', async () => {
    const own = { ...off(PROVIDERS.lund), startDate: '2027-02-06', endDate: '2027-02-06' } as WireEdit;
    expect(refusalOf(await provider.call(editSchedule, { edits: [own], agreed: true })).tag).toBe('NotAllowed');
    const alone = { ...own, coverId: null } as WireEdit;
    // One's own time off is asked for, by this way and no other.
    expect(refusalOf(await provider.call(editSchedule, { edits: [alone], agreed: true })).tag).toBe('NotAllowed');
    const { siteId, startDate, startMinute, endDate, endMinute, reason } = span;
    const asked = dataOf(
      await provider.call(requestTimeOff, { siteId, startDate, startMinute, endDate, endMinute, reason }),
    );
    dataOf(await provider.call(undo, { id: asked.undo.id }));
  });

  it('can’t be suggested where it is nobody, or oneself, or for no site; and a refusal leaves the suggestion', async () => {
    const ask = (more: object) => provider.call(requestTimeOff, { ...span, ...more });
    expect(refusalOf(await ask({ coverId: crypto.randomUUID() })).tag).toBe('NotFound');
    expect(refusalOf(await ask({ siteId: crypto.randomUUID() })).tag).toBe('NotFound');
    expect(refusalOf(await ask({ coverId: PROVIDERS.amaya })).codes).toEqual(['covers-themselves']);
    expect(dataOf(await desk.call(listTimeOffRequests, {})).requests).toEqual([]);
    const asked = dataOf(await ask({ coverId: PROVIDERS.dray }));
    // Dr. Dray works elsewhere: what approving it without cover would leave to move is told all the same.
    const [request] = dataOf(await desk.call(listTimeOffRequests, {})).requests;
    expect(request.visitsToMove.length).toBeGreaterThan(0);
    for (const coverId of [PROVIDERS.amaya, crypto.randomUUID()]) {
      const declined = dataOf(
        await desk.call(decideTimeOff, { id: asked.id, approve: false, answer: 'No', coverId: coverId as never }),
      );
      dataOf(await desk.call(undo, { id: declined.undo.id }));
      expect(dataOf(await desk.call(listTimeOffRequests, {})).requests[0].coverId).toBe(PROVIDERS.dray);
    }
    const unknown = await desk.call(decideTimeOff, {
      ...{ id: asked.id, approve: true, answer: '', agreed: true, coverId: crypto.randomUUID() as never },
    });
    expect(refusalOf(unknown).tag).toBe('NotFound');
    dataOf(await provider.call(undo, { id: asked.undo.id }));
  });

  it('is suggested with a request, settled with the approval, and gone with its undo', async () => {
    const asked = dataOf(await provider.call(requestTimeOff, { ...span, coverId: PROVIDERS.dray as never }));
    const request = async () => dataOf(await desk.call(listTimeOffRequests, {})).requests[0];
    expect((await request()).coverId).toBe(PROVIDERS.dray);
    const approve = (more: object = {}) =>
      desk.call(decideTimeOff, { id: asked.id, approve: true, answer: '', agreed: true, ...more });
    // As long as they work elsewhere the request stays open.
    expect(refusalOf(await approve()).codes).toContain('overlap');
    expect((await request()).status).toBe('requested');
    const freed = await freeDray();
    const decided = dataOf(await approve());
    expect((await coverHours()).length).toBeGreaterThan(0);
    dataOf(await desk.call(undo, { id: decided.undo.id }));
    expect([await coverHours(), (await request()).coverId]).toEqual([[], PROVIDERS.dray]);
    const without = dataOf(await approve({ coverId: null }));
    expect(await coverHours()).toEqual([]);
    dataOf(await desk.call(undo, { id: without.undo.id }));
    dataOf(await desk.call(undo, { id: freed }));
    expect((await request()).coverId).toBe(PROVIDERS.dray);
  });
});
