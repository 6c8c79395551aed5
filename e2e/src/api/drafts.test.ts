import {
  addToDraft,
  compareDraft,
  createDraft,
  discardDraft,
  dropFromDraft,
  listDrafts,
  publishDraft,
  scheduleWeek,
  type WireEdit,
} from '@zaguan/contracts/availability';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

const WEEK = '2027-02-01';

describe('draft schedules', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('drafts');
    desk = await signedIn(world.servers[0].url, 'manager');
  });
  afterAll(() => world.close());

  const begin = async (name = 'From February') => dataOf(await desk.call(createDraft, { name })).draft;
  const week = async (draftId?: string) =>
    dataOf(await desk.call(scheduleWeek, { from: WEEK, ...(draftId && { draftId }) }));
  const amaya = async (draftId?: string) =>
    (await week(draftId)).hours.filter(
      (row) => row.subject.id === PROVIDERS.amaya && (row.effectiveUntil ?? '9') >= WEEK,
    );
  const shorter = async (toMinute: number, draftId?: string): Promise<WireEdit> => {
    const morning = (await amaya(draftId)).find((row) => row.fromMinute === 480);
    return {
      do: 'change-hours',
      hoursId: (morning?.id ?? '') as never,
      version: morning?.version ?? 0,
      reach: { of: 'all' },
      to: { toMinute },
    };
  };

  it('hold nothing until published, are compared with today’s, and then hold from their date on, with undo', async () => {
    const before = (await week()).hours;
    const draft = await begin();
    const added = dataOf(
      await desk.call(addToDraft, { id: draft.id, version: draft.version, edits: [await shorter(660)] }),
    ).draft;
    expect((await week()).hours).toEqual(before);
    expect((await amaya(draft.id)).map((row) => row.toMinute)).toContain(660);
    // What the draft itself made can be changed in it again.
    const again = dataOf(
      await desk.call(addToDraft, { id: draft.id, version: added.version, edits: [await shorter(630, draft.id)] }),
    ).draft;
    expect((await amaya(draft.id)).map((row) => row.toMinute)).toContain(630);
    const compared = dataOf(await desk.call(compareDraft, { id: draft.id, from: WEEK }));
    expect([compared.edits.length, compared.faults]).toEqual([2, []]);
    expect(compared.impact?.types.some(({ online, desk: atDesk }) => online.lost + atDesk.lost > 0)).toBe(true);
    const published = dataOf(
      await desk.call(publishDraft, { id: draft.id, version: again.version, from: WEEK, agreed: true }),
    );
    const lane = async (from: string) =>
      dataOf(await desk.call(scheduleWeek, { from })).lanes.find(
        (row) => row.resourceId === PROVIDERS.amaya && row.siteId === SITES.canal,
      )?.days[0].hours[0].toMinute;
    expect([await lane('2027-01-25'), await lane(WEEK)]).toEqual([720, 630]);
    expect(dataOf(await desk.call(listDrafts, {})).drafts).toEqual([]);
    expect((await desk.call(undo, { id: published.undo.id })).status).toBe(200);
    expect(await lane(WEEK)).toBe(720);
  });

  it('whose weeks have visits say so, and leave no visit to move unseen', async () => {
    const draft = await begin('No more mornings');
    const morning = (await amaya()).find((row) => row.fromMinute === 480);
    const end: WireEdit = {
      do: 'end-hours',
      hoursId: (morning?.id ?? '') as never,
      version: morning?.version ?? 0,
      reach: { of: 'all' },
    };
    const { version } = dataOf(await desk.call(addToDraft, { id: draft.id, version: 1, edits: [end] })).draft;
    const { impact } = dataOf(await desk.call(compareDraft, { id: draft.id, from: TEST_DAY }));
    expect(impact?.visitsToMove.length).toBeGreaterThan(0);
    const refused = refusalOf(await desk.call(publishDraft, { id: draft.id, version, from: TEST_DAY }));
    expect(refused).toMatchObject({ tag: 'AgreementNeeded', facts: { visits: impact?.visitsToMove.length } });
    const thrown = dataOf(await desk.call(discardDraft, { id: draft.id, version }));
    expect(dataOf(await desk.call(listDrafts, {})).drafts).toEqual([]);
    expect((await desk.call(undo, { id: thrown.undo.id })).status).toBe(200);
    expect(dataOf(await desk.call(listDrafts, {})).drafts.map(({ name, editCount }) => [name, editCount])).toEqual([
      ['No more mornings', 1],
    ]);
  });

  it('refuse an edit that can’t be, a second hand at an older version, and taking out what others lean on', async () => {
    const draft = await begin();
    const add = (version: number, edits: WireEdit[]) => desk.call(addToDraft, { id: draft.id, version, edits });
    expect(refusalOf(await add(1, [{ do: 'drop-time-off', id: crypto.randomUUID() }])).codes).toEqual(['gone']);
    const one = dataOf(await add(1, [await shorter(660)])).draft;
    expect(refusalOf(await add(1, [await shorter(650, draft.id)])).tag).toBe('ChangedMeanwhile');
    const two = dataOf(await add(one.version, [await shorter(650, draft.id)])).draft;
    expect(refusalOf(await desk.call(dropFromDraft, { id: draft.id, at: 0, version: two.version })).codes).toEqual([
      'gone',
    ]);
    expect(dataOf(await desk.call(dropFromDraft, { id: draft.id, at: 1, version: two.version })).draft.editCount).toBe(
      1,
    );
    expect(refusalOf(await desk.send('post', createDraft.path, { name: ' ' })).issues).toEqual([
      { path: 'name', code: 'needed' },
    ]);
  });

  it('are nobody’s who may not change everybody’s hours', async () => {
    const provider = await signedIn(world.servers[0].url, 'provider');
    expect(refusalOf(await provider.call(listDrafts, {})).tag).toBe('NotAllowed');
    const [draft] = dataOf(await desk.call(listDrafts, {})).drafts;
    expect(refusalOf(await provider.call(scheduleWeek, { from: WEEK, draftId: draft.id })).tag).toBe('NotAllowed');
  });
});
