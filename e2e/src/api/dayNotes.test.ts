import {
  changeNote,
  daybookDay,
  unfoldDay,
  daySheet,
  LONGEST_NOTE,
  removeNote,
  writeNote,
} from '@zaguan/contracts/daybook';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('notes on a day', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('day_notes');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const ALL_DAY = { fromMinute: null, toMinute: null };
  const write = (more: object, who = desk) =>
    who.call(writeNote, {
      ...{ siteId: SITES.canal, resourceId: PROVIDERS.amaya, date: TEST_DAY, text: 'Student along', ...ALL_DAY },
      ...more,
    } as never);
  const change = (id: string, version: number, text: string, times: object = ALL_DAY) =>
    desk.call(changeNote, { id, version, text, ...times } as never);
  const remove = (id: string, version: number) => desk.call(removeNote, { id, version } as never);
  const canal = async () =>
    unfoldDay(dataOf(await desk.call(daybookDay, { date: TEST_DAY, siteId: SITES.canal }))).sites[0];
  const ofLane = async () =>
    (await canal()).lanes.find(({ resourceId }) => resourceId === PROVIDERS.amaya)?.notes ?? [];

  it('stand on the site, on a lane, or on a stretch of it, that day and no other, and on the day sheet', async () => {
    dataOf(await write({ resourceId: null, text: '  Fire drill at noon ' }));
    dataOf(await write({}));
    dataOf(await write({ text: 'On the phone', fromMinute: 600, toMinute: 630 }));
    expect((await canal()).notes.map(({ text, by }) => [text, by])).toEqual([
      ['Fire drill at noon', expect.any(String)],
    ]);
    expect((await ofLane()).map(({ text, fromMinute, toMinute }) => [text, fromMinute, toMinute])).toEqual([
      ['Student along', null, null],
      ['On the phone', 600, 630],
    ]);
    const next = unfoldDay(dataOf(await desk.call(daybookDay, { date: '2026-12-02' })));
    expect(next.sites.flatMap(({ notes, lanes }) => [...notes, ...lanes.flatMap((lane) => lane.notes)])).toEqual([]);
    const sheet = async (more: object) =>
      dataOf(await desk.call(daySheet, { date: TEST_DAY, siteId: SITES.canal, ...more } as never)).notes.map(
        ({ text }) => text,
      );
    expect(await sheet({})).toEqual(['Fire drill at noon']);
    expect(await sheet({ resourceId: PROVIDERS.amaya })).toEqual([
      'Fire drill at noon',
      'Student along',
      'On the phone',
    ]);
  });

  it('are changed and taken off, each with undo, and never over what somebody else wrote meanwhile', async () => {
    const [note] = await ofLane();
    const changed = dataOf(
      await change(note.id, note.version, 'Student along until noon', { fromMinute: 480, toMinute: 720 }),
    );
    expect(refusalOf(await change(note.id, note.version, 'Something else'))).toMatchObject({
      ...{ tag: 'ChangedMeanwhile', facts: { version: changed.version } },
    });
    expect(refusalOf(await remove(note.id, note.version)).tag).toBe('ChangedMeanwhile');
    expect((await desk.call(undo, { id: changed.undo.id })).status).toBe(200);
    const [back] = await ofLane();
    expect(back).toMatchObject({ text: 'Student along', fromMinute: null, toMinute: null });
    const gone = dataOf(await remove(back.id, back.version));
    expect((await ofLane()).map(({ text }) => text)).toEqual(['On the phone']);
    expect(refusalOf(await change(back.id, back.version + 1, 'Too late')).tag).toBe('ChangedMeanwhile');
    expect((await desk.call(undo, { id: gone.undo.id })).status).toBe(200);
    expect((await ofLane()).map(({ text }) => text)).toEqual(['Student along', 'On the phone']);
  });

  it('say something, of a length that can be read, for a stretch that begins before it ends', async () => {
    for (const [more, path] of [
      [{ text: '   ' }, 'text'],
      [{ text: 'x'.repeat(LONGEST_NOTE + 1) }, 'text'],
      [{ fromMinute: 600, toMinute: null }, 'toMinute'],
      [{ fromMinute: 600, toMinute: 600 }, 'toMinute'],
      [{ fromMinute: 603, toMinute: 660 }, 'fromMinute'],
      [{ fromMinute: 600, toMinute: 1500 }, 'toMinute'],
      [{ date: '2026-02-30' }, 'date'],
    ] as const) {
      const refused = refusalOf(await write(more));
      expect([more, refused.tag, refused.issues?.map((issue) => issue.path)]).toEqual([more, 'InvalidInput', [path]]);
    }
    await expect(
      world.sql.query(
        "insert into day_note (id, site_id, site_date, from_minute, text, written_by, written_at) select gen_random_uuid(), $1, $2, 600, 'half a stretch', id, now() from account limit 1",
        [SITES.canal, TEST_DAY],
      ),
    ).rejects.toMatchObject({ constraint: 'day_note_minutes_in_order' });
  });

  it('are written by who may, where there is such a lane', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect(refusalOf(await write({ resourceId: nobody })).tag).toBe('NotFound');
    expect(refusalOf(await write({ siteId: nobody, resourceId: null })).tag).toBe('NotFound');
    expect(refusalOf(await write({}, await signedIn(base, 'read-only'))).tag).toBe('NotAllowed');
    const frontDesk = await signedIn(base, 'front-desk');
    expect(refusalOf(await write({ siteId: SITES.mesa, resourceId: null }, frontDesk)).tag).toBe('NotAllowed');
    dataOf(await write({ text: 'Keys are at the front desk' }, frontDesk));
    const { id } = dataOf(await write({ siteId: SITES.mesa, resourceId: null, text: 'At Mesa' }));
    const foreign = await frontDesk.call(removeNote, { id, version: 1 } as never);
    expect(refusalOf(foreign).tag).toBe('NotAllowed');
    expect(refusalOf(await remove(nobody, 1)).tag).toBe('NotFound');
  });
});
