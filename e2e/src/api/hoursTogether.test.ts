import {
  addToDraft,
  compareDraft,
  createDraft,
  editSchedule,
  previewSchedule,
  publishDraft,
  scheduleWeek,
  type WireEdit,
} from '@zaguan/contracts/availability';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** A Monday far enough ahead that nothing is booked in its week. */
const QUIET = '2027-02-01';

describe('hours of several people changed together', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('hours_together');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());

  const hoursFrom = async (from = QUIET) =>
    dataOf(await desk.call(scheduleWeek, { from })).hours.filter((row) => (row.effectiveUntil ?? from) >= from);
  const mornings = async () => (await hoursFrom()).filter((row) => row.fromMinute === 480);
  const later = (row: { id: string; version: number }, fromMinute: number): WireEdit => ({
    do: 'change-hours',
    hoursId: row.id as never,
    version: row.version,
    reach: { of: 'from', date: QUIET },
    to: { fromMinute },
  });
  const said = (rows: Awaited<ReturnType<typeof mornings>>) =>
    rows.map(({ id, fromMinute, toMinute, weekdays }) => [id, fromMinute, toMinute, weekdays]).sort();

  it('are judged as one edit: what they do is the sum, and one undo brings all of it back', async () => {
    const before = await mornings();
    expect(before.length).toBeGreaterThan(2);
    const edits = before.map((row) => later(row, 510));
    const one = dataOf(await desk.call(previewSchedule, { edits: [edits[0]] })).impact;
    const all = dataOf(await desk.call(previewSchedule, { edits })).impact;
    const lost = (impact: typeof all) => impact?.types.reduce((sum, { desk: starts }) => sum + starts.lost, 0) ?? 0;
    expect(lost(one)).toBeGreaterThan(0);
    expect(lost(all)).toBeGreaterThan(lost(one));
    const saved = dataOf(await desk.call(editSchedule, { edits, agreed: true }));
    expect((await hoursFrom()).filter((row) => row.fromMinute === 510)).toHaveLength(before.length);
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    expect(said(await mornings())).toEqual(said(before));
  });

  it('are all refused if one of them was changed by somebody else meanwhile, or is not there', async () => {
    const before = await mornings();
    const stale = [
      ...before.slice(1).map((row) => later(row, 510)),
      later({ ...before[0], version: before[0].version + 1 }, 510),
    ];
    expect(refusalOf(await desk.call(editSchedule, { edits: stale, agreed: true })).tag).toBe('ChangedMeanwhile');
    const gone = [...before.map((row) => later(row, 510)), later({ id: crypto.randomUUID(), version: 1 }, 510)];
    expect((await desk.call(editSchedule, { edits: gone, agreed: true })).status).toBe(409);
    expect(said(await mornings())).toEqual(said(before));
  });

  it('name the one that can’t be: an overlap of a single person stops them all', async () => {
    const lund = (await hoursFrom()).filter((row) => row.subject.id === PROVIDERS.lund);
    const elsewhere = lund.find((row) => row.siteId === SITES.mesa);
    const there = lund.find((row) => row.siteId === SITES.canal);
    if (!elsewhere || !there) throw new Error('Teo Lund works at two sites.');
    const dray = (await mornings()).find((row) => row.subject.id === PROVIDERS.dray);
    if (!dray) throw new Error('Dr. Dray works in the mornings.');
    const both: WireEdit = {
      do: 'change-hours',
      hoursId: there.id as never,
      version: there.version,
      reach: { of: 'from', date: QUIET },
      to: { weekdays: elsewhere.weekdays as never },
    };
    const before = said(await hoursFrom());
    const refused = refusalOf(await desk.call(editSchedule, { edits: [later(dray, 510), both], agreed: true }));
    expect(refused.tag).toBe('ScheduleRefused');
    expect(refused.issues?.every(({ path }) => path === 'edits.1')).toBe(true);
    expect(said(await hoursFrom())).toEqual(before);
  });

  it('stand in a draft like any edit, with cover for time off, and hold once it is published', async () => {
    const { draft } = dataOf(await desk.call(createDraft, { name: 'Late mornings' }));
    const rows = (await mornings()).filter((row) => row.subject.id !== PROVIDERS.dray);
    const off: WireEdit = {
      ...{ do: 'time-off', resourceIds: [PROVIDERS.dray], siteId: null, reason: '', coverId: PROVIDERS.amaya as never },
      // A Saturday: nobody else works, and nobody needs to.
      ...{ startDate: '2027-02-06', startMinute: 0, endDate: '2027-02-06', endMinute: 1440 },
    };
    const saturday: WireEdit = {
      do: 'extra-hours',
      subject: { of: 'resource', id: PROVIDERS.dray },
      date: '2027-02-06',
      hours: {
        ...{ siteId: SITES.mesa, fromMinute: 540, toMinute: 660, places: 1, online: true },
        accepts: { visitTypeIds: null, kinds: null, invitedOnly: false },
      },
    };
    const edits = [...rows.map((row) => later(row, 540)), saturday, off];
    const added = dataOf(await desk.call(addToDraft, { id: draft.id, version: draft.version, edits }));
    const compared = dataOf(await desk.call(compareDraft, { id: draft.id, from: QUIET }));
    expect([compared.faults, compared.edits.length]).toEqual([[], edits.length]);
    expect(compared.impact?.types.some(({ desk: starts }) => starts.lost > 0)).toBe(true);
    // Nothing holds yet.
    expect((await hoursFrom()).filter((row) => row.fromMinute === 540)).toEqual([]);
    const published = dataOf(
      await desk.call(publishDraft, { id: draft.id, version: added.draft.version, from: QUIET, agreed: true }),
    );
    expect((await hoursFrom()).filter((row) => row.fromMinute === 540)).toHaveLength(rows.length);
    const week = dataOf(await desk.call(scheduleWeek, { from: QUIET }));
    const cover = week.lanes.find((lane) => lane.resourceId === PROVIDERS.amaya && lane.siteId === SITES.mesa);
    expect(cover?.days[5].hours.map(({ fromMinute, toMinute }) => [fromMinute, toMinute])).toEqual([[540, 660]]);
    dataOf(await desk.call(undo, { id: published.undo.id }));
    expect((await hoursFrom()).filter((row) => row.fromMinute === 540)).toEqual([]);
  });
});
