import {
  changeView,
  daybookLanes,
  daybookViews,
  orderViews,
  removeView,
  saveView,
  setDefaultView,
  STANDARD_VIEW,
  visitInShort,
} from '@zaguan/contracts/daybook';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

const NOBODY = '00000000-0000-4000-8000-000000000000';

describe('ways of drawing the Daybook', () => {
  let world: World;
  let coordinator: Client;
  let frontDesk: Client;
  let readOnly: Client;
  beforeAll(async () => {
    world = await makeWorld('daybook_views');
    const base = world.servers[0].url;
    coordinator = await signedIn(base, 'coordinator');
    frontDesk = await signedIn(base, 'front-desk');
    readOnly = await signedIn(base, 'read-only');
  });
  afterAll(() => world.close());

  const BODY = { scope: 'personal', siteId: null, hotkey: null, settings: STANDARD_VIEW } as const;
  const save = (who: Client, more: object) => who.call(saveView, { name: 'Mine', ...BODY, ...more } as never);
  const change = (who: Client, id: string, version: number, more: object) =>
    who.call(changeView, { id, version, name: 'Mine', ...BODY, ...more } as never);
  const list = async (who: Client) => dataOf(await who.call(daybookViews, {}));
  const names = async (who: Client) => (await list(who)).views.map(({ name }) => name);
  const undone = async (who: Client, id: unknown) => expect((await who.call(undo, { id } as never)).status).toBe(200);

  it('are one’s own, a site’s or everyone’s; nobody sees another one’s own', async () => {
    dataOf(await save(coordinator, { name: 'Everyone', scope: 'shared', hotkey: 1 }));
    dataOf(await save(coordinator, { name: 'At Mesa', scope: 'site', siteId: SITES.mesa }));
    dataOf(await save(frontDesk, { name: 'At Canal', scope: 'site', siteId: SITES.canal, hotkey: 1 }));
    const own = dataOf(await save(readOnly, { name: 'Read only’s' }));
    expect(await names(coordinator)).toEqual(['At Canal', 'At Mesa', 'Everyone']);
    // The front desk works at Canal Row alone.
    expect(await names(frontDesk)).toEqual(['At Canal', 'Everyone']);
    expect(await names(readOnly)).toEqual(['Read only’s', 'At Canal', 'At Mesa', 'Everyone']);
    const mayChange = async (who: Client) => (await list(who)).views.map((view) => view.mayChange);
    expect(await mayChange(frontDesk)).toEqual([true, false]);
    expect(await mayChange(readOnly)).toEqual([true, false, false, false]);
    expect(refusalOf(await change(coordinator, own.id, 1, {})).tag).toBe('NotFound');
    expect(refusalOf(await coordinator.call(removeView, { id: own.id, version: 1 } as never)).tag).toBe('NotFound');
  });

  it('are shared only by who may share, where they may', async () => {
    expect(refusalOf(await save(frontDesk, { scope: 'shared' })).tag).toBe('NotAllowed');
    expect(refusalOf(await save(frontDesk, { scope: 'site', siteId: SITES.mesa })).tag).toBe('NotAllowed');
    expect(refusalOf(await save(readOnly, { scope: 'site', siteId: SITES.canal })).tag).toBe('NotAllowed');
    expect(refusalOf(await save(coordinator, { scope: 'site', siteId: NOBODY })).tag).toBe('NotFound');
    const own = dataOf(await save(frontDesk, { name: 'To be shared' }));
    expect(refusalOf(await change(frontDesk, own.id, 1, { scope: 'shared' })).tag).toBe('NotAllowed');
    dataOf(await frontDesk.call(removeView, { id: own.id, version: 1 } as never));
  });

  it('are changed and removed with undo, and never over what somebody else changed meanwhile', async () => {
    const { id, version } = dataOf(await save(coordinator, { name: 'Before', hotkey: 3 }));
    const settings = { ...STANDARD_VIEW, axis: 'down', only: [PROVIDERS.amaya] };
    const changed = dataOf(await change(coordinator, id, version, { name: 'After', settings }));
    expect((await list(coordinator)).views[0]).toMatchObject({ name: 'After', settings, hotkey: null });
    expect(refusalOf(await change(coordinator, id, version, { name: 'Late' }))).toMatchObject({
      ...{ tag: 'ChangedMeanwhile', facts: { version: changed.version } },
    });
    await undone(coordinator, changed.undo.id);
    expect((await list(coordinator)).views[0]).toMatchObject({ name: 'Before', hotkey: 3 });
    const removed = dataOf(await coordinator.call(removeView, { id, version: changed.version + 1 } as never));
    expect(await names(coordinator)).not.toContain('Before');
    expect(refusalOf(await change(coordinator, id, changed.version + 2, {})).tag).toBe('ChangedMeanwhile');
    // Meanwhile another one took its key: it comes back without.
    dataOf(await save(coordinator, { name: 'Quicker', hotkey: 3 }));
    await undone(coordinator, removed.undo.id);
    const keys = Object.fromEntries((await list(coordinator)).views.map((view) => [view.name, view.hotkey]));
    expect(keys).toMatchObject({ Before: null, Quicker: 3 });
  });

  it('have a key each that no other of the list has, whoever is quicker', async () => {
    const taken = refusalOf(await save(coordinator, { name: 'Same key', scope: 'shared', hotkey: 1 }));
    expect([taken.tag, taken.issues]).toEqual(['InvalidInput', [{ path: 'hotkey', code: 'hotkey-taken' }]]);
    const two = await Promise.all(
      ['One', 'Two'].map((name) => save(coordinator, { name, scope: 'site', siteId: SITES.canal, hotkey: 7 })),
    );
    expect(two.map(({ status }) => status).toSorted()).toEqual([200, 400]);
    const own = [];
    for (const name of ['X', 'Y']) own.push(dataOf(await save(coordinator, { name })).id);
    const both = await Promise.all(own.map((id) => change(coordinator, id, 1, { hotkey: 5 })));
    expect(both.map(({ status }) => status).toSorted()).toEqual([200, 400]);
    await expect(
      world.sql.query(
        "insert into daybook_view (id, name, scope, settings, position) values (gen_random_uuid(), 'x', 'site', '{}', 0)",
      ),
    ).rejects.toMatchObject({ constraint: 'daybook_view_whose' });
  });

  it('stand in an order of their own', async () => {
    const shared = [];
    for (const name of ['A', 'B', 'C']) shared.push(dataOf(await save(coordinator, { name, scope: 'shared' })).id);
    const [a, b, c] = shared;
    const ordered = dataOf(await coordinator.call(orderViews, { ids: [c, a, b] } as never));
    const now = async () => (await names(readOnly)).filter((name) => 'ABC'.includes(name)).join('');
    expect(await now()).toBe('CAB');
    await undone(coordinator, ordered.undo.id);
    expect(await now()).toBe('ABC');
    expect(refusalOf(await frontDesk.call(orderViews, { ids: [a, b] } as never)).tag).toBe('NotAllowed');
    expect(refusalOf(await coordinator.call(orderViews, { ids: [a, NOBODY] } as never)).tag).toBe('NotFound');
    const own = (await list(coordinator)).views.find(({ scope }) => scope === 'personal')?.id;
    const mixed = refusalOf(await coordinator.call(orderViews, { ids: [a, own] } as never));
    expect(mixed.issues).toEqual([{ path: 'ids', code: 'of-several-lists' }]);
  });

  it('give each role one to begin with, as long as it is there', async () => {
    const view = (await list(coordinator)).views.find(({ name }) => name === 'Everyone');
    const set = (who: Client, viewId: unknown) => who.call(setDefaultView, { role: 'front-desk', viewId } as never);
    const { undo: back } = dataOf(await set(coordinator, view?.id));
    expect((await list(frontDesk)).defaults).toEqual([{ role: 'front-desk', viewId: view?.id }]);
    expect(refusalOf(await set(frontDesk, view?.id)).tag).toBe('NotAllowed');
    const own = (await list(coordinator)).views.find(({ scope }) => scope === 'personal')?.id;
    expect(refusalOf(await set(coordinator, own)).tag).toBe('NotFound');
    const gone = dataOf(await coordinator.call(removeView, { id: view?.id, version: view?.version } as never));
    expect((await list(frontDesk)).defaults).toEqual([]);
    await undone(coordinator, gone.undo.id);
    expect((await list(frontDesk)).defaults).toHaveLength(1);
    await undone(coordinator, back.id);
    expect((await list(frontDesk)).defaults).toEqual([]);
  });

  it('say which lanes there are to list, and where a visit is that a link names, at one’s own sites only', async () => {
    const lanes = async (who: Client) => dataOf(await who.call(daybookLanes, {})).lanes;
    const all = await lanes(coordinator);
    expect(all.find(({ resourceId }) => resourceId === PROVIDERS.amaya)?.siteIds).toContain(SITES.canal);
    expect(new Set(all.map(({ resourceId }) => resourceId)).size).toBe(all.length);
    expect((await lanes(frontDesk)).every(({ siteIds }) => siteIds.every((id) => id === SITES.canal))).toBe(true);
    const { rows } = await world.sql.query('select id, site_id from appointment where site_date = $1', [TEST_DAY]);
    const place = (who: Client, id: string) => who.call(visitInShort, { id } as never);
    const atMesa = rows.find((row) => row.site_id === SITES.mesa);
    expect(dataOf(await place(coordinator, atMesa.id))).toMatchObject({ siteId: SITES.mesa, date: TEST_DAY });
    const { steps } = dataOf(await place(coordinator, atMesa.id));
    expect([Date.parse(steps.booked) > 0, steps.cancelled]).toEqual([true, null]);
    expect(refusalOf(await place(frontDesk, atMesa.id)).tag).toBe('NotFound');
    expect(refusalOf(await place(coordinator, NOBODY)).tag).toBe('NotFound');
  });
});
