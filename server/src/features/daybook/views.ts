import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  changeView as changeContract,
  daybookLanes as lanesContract,
  daybookViews as listContract,
  orderViews as orderContract,
  removeView as removeContract,
  saveView as saveContract,
  setDefaultView as defaultContract,
} from '@zaguan/contracts/daybook';
import { accountIdOf, coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { DaybookView } from '../../schema/index.ts';
import { siteRows } from '../clinic/index.ts';
import { laneRows } from './daybook.sql.ts';
import {
  defaultRows,
  insertView,
  putDefault,
  putInOrder,
  updateView,
  viewForUpdate,
  viewRows,
  viewsForUpdate,
  viewsOf,
  type Whose,
} from './views.repository.ts';

/** One's own is one's own whatever the role; a site's and everyone's are for who may share. */
function mayChange(ctx: Ctx, { scope, accountId, siteId }: Whose): boolean {
  if (scope === 'personal') return accountId !== null && accountId === accountIdOf(ctx);
  if (scope === 'shared') return ctx.scope('daybook.share-views') === 'all';
  return siteId !== null && coversSite(ctx, 'daybook.share-views', siteId);
}

/** What somebody else keeps for themselves is not told from nothing. */
function maySee(ctx: Ctx, { scope, accountId, siteId }: Whose): boolean {
  if (scope === 'personal') return accountId === accountIdOf(ctx);
  return scope === 'shared' || (siteId !== null && coversSite(ctx, 'daybook.view', siteId));
}

const LISTED = { personal: 0, site: 1, shared: 2 } as const;

export async function daybookViews(ctx: Ctx): Promise<OutputOf<typeof listContract>> {
  const rows = (await viewRows(ctx.em, accountIdOf(ctx) ?? '')).filter((row) => maySee(ctx, row));
  const siteOrder = (await siteRows(ctx.em)).map(({ id }) => id);
  const placeOf = ({ siteId }: DaybookView) => (siteId === null ? 0 : siteOrder.indexOf(siteId));
  const listed = rows.toSorted((a, b) => LISTED[a.scope] - LISTED[b.scope] || placeOf(a) - placeOf(b));
  const there = new Set(listed.flatMap(({ id, scope }) => (scope === 'shared' ? id : [])));
  return {
    views: listed.map((row) => ({
      ...{ id: row.id, name: row.name, scope: row.scope, siteId: row.siteId, hotkey: row.hotkey },
      ...{ settings: row.settings, version: row.version, mayChange: mayChange(ctx, row) },
    })),
    defaults: (await defaultRows(ctx.em))
      .filter(({ viewId }) => there.has(viewId))
      .map(({ role, viewId }) => ({ role, viewId })),
    unreadable: [],
  };
}

/** People first, then rooms and equipment; each once, wherever it is. */
export async function daybookLanes(ctx: Ctx): Promise<OutputOf<typeof lanesContract>> {
  const lanes = new Map<string, { resourceId: string; name: string; siteIds: string[] }>();
  for (const { resourceId, siteId, name } of await laneRows(ctx.em)) {
    if (!coversSite(ctx, 'daybook.view', siteId)) continue;
    const lane = lanes.get(resourceId) ?? { resourceId, name, siteIds: [] };
    lane.siteIds.push(siteId);
    lanes.set(resourceId, lane);
  }
  return { lanes: [...lanes.values()] };
}

function noted(ctx: Ctx, id: string, after: object): void {
  ctx.emit({ type: 'views-changed' });
  ctx.wrote({ subjects: [{ kind: 'daybook-view', id }], after: { ...after } });
}

const TAKEN = { issues: [{ path: 'hotkey', code: 'hotkey-taken' }] };

/** Whether another one of the list has this key already. */
async function isTaken(ctx: Ctx, whose: Whose, hotkey: number | null, but?: string): Promise<boolean> {
  if (hotkey === null) return false;
  return (await viewsOf(ctx.em, whose)).some((row) => row.hotkey === hotkey && row.id !== but);
}

/** Whose it will be; a refusal where the caller may not put it there. */
async function whoseOf(
  ctx: Ctx,
  { scope, siteId }: Pick<DaybookView, 'scope' | 'siteId'>,
): Promise<Whose | Failure<'NotFound' | 'NotAllowed'>> {
  if (siteId !== null && !(await siteRows(ctx.em)).some(({ id }) => id === siteId)) return ctx.fail('NotFound');
  const whose = { scope, siteId, accountId: scope === 'personal' ? accountIdOf(ctx) : null };
  return mayChange(ctx, whose) ? whose : ctx.fail('NotAllowed');
}

export async function saveView(
  ctx: Ctx,
  { name, scope, siteId, hotkey, settings }: InputOf<typeof saveContract>,
): Promise<AnswerOf<typeof saveContract>> {
  const whose = await whoseOf(ctx, { scope, siteId });
  if (whose instanceof Failure) return whose;
  const others = await viewsOf(ctx.em, whose);
  const id = ctx.newId();
  const position = Math.max(-1, ...others.map((row) => row.position)) + 1;
  if (!(await insertView(ctx.em, { id, ...whose, name, hotkey, settings, position })))
    return ctx.fail('InvalidInput', TAKEN);
  noted(ctx, id, { name, scope });
  const input = { id, version: 1 };
  return {
    id,
    version: 1,
    undo: await ctx.undoable({ command: 'daybook.removeView', input, label: { what: 'view' } }),
  };
}

/** One for the caller to change, locked; a refusal if it is somebody else's, or somebody was quicker. */
async function openView(
  ctx: Ctx,
  id: string,
  version: number,
): Promise<DaybookView | Failure<'NotFound' | 'NotAllowed' | 'ChangedMeanwhile'>> {
  const row = await viewForUpdate(ctx.em, id);
  if (!row || !maySee(ctx, row)) return ctx.fail('NotFound');
  if (!mayChange(ctx, row)) return ctx.fail('NotAllowed');
  return row.version === version ? row : ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
}

export async function changeView(
  ctx: Ctx,
  { id, version, name, scope, siteId, hotkey, settings }: InputOf<typeof changeContract>,
): Promise<AnswerOf<typeof changeContract>> {
  const row = await openView(ctx, id, version);
  if (row instanceof Failure) return row;
  if (row.removedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  const whose = await whoseOf(ctx, { scope, siteId });
  if (whose instanceof Failure) return whose;
  if (await isTaken(ctx, whose, hotkey, id)) return ctx.fail('InvalidInput', TAKEN);
  const next = await updateView(ctx.em, row, { ...whose, name, hotkey, settings });
  if (next === 'hotkey-taken') return ctx.fail('InvalidInput', TAKEN);
  noted(ctx, id, { name, scope });
  const before = { name: row.name, scope: row.scope, siteId: row.siteId, hotkey: row.hotkey, settings: row.settings };
  const input = { id, version: next, ...before };
  return {
    version: next,
    undo: await ctx.undoable({ command: 'daybook.changeView', input, label: { what: 'view' } }),
  };
}

export async function removeView(
  ctx: Ctx,
  { id, version }: InputOf<typeof removeContract>,
): Promise<AnswerOf<typeof removeContract>> {
  const row = await openView(ctx, id, version);
  if (row instanceof Failure) return row;
  if (row.removedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  const next = row.version + 1;
  await updateView(ctx.em, row, { removedAt: ctx.now });
  noted(ctx, id, { removed: true });
  const input = { id, version: next };
  return { undo: await ctx.undoable({ command: 'daybook.restoreView', input, label: { what: 'view-off' } }) };
}

/** Inverse of taking one off the list: it stands there again, without its key if another one has it by now. */
export async function restoreView(ctx: Ctx, { id, version }: { id: string; version: number }): Promise<UndoAnswer> {
  const row = await openView(ctx, id, version);
  if (row instanceof Failure) return row;
  const hotkey = (await isTaken(ctx, row, row.hotkey, id)) ? null : row.hotkey;
  if ((await updateView(ctx.em, row, { removedAt: null, hotkey })) === 'hotkey-taken')
    return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  noted(ctx, id, { removed: false });
  return {};
}

export async function orderViews(
  ctx: Ctx,
  { ids }: InputOf<typeof orderContract>,
): Promise<AnswerOf<typeof orderContract>> {
  const rows = await viewsForUpdate(ctx.em, ids);
  if (rows.length !== new Set(ids).size || !rows.every((row) => maySee(ctx, row))) return ctx.fail('NotFound');
  if (!rows.every((row) => mayChange(ctx, row))) return ctx.fail('NotAllowed');
  const [{ scope, siteId }] = rows;
  if (!rows.every((row) => row.scope === scope && row.siteId === siteId))
    return ctx.fail('InvalidInput', { issues: [{ path: 'ids', code: 'of-several-lists' }] });
  const before = rows.toSorted((a, b) => a.position - b.position).map(({ id }) => id);
  await putInOrder(ctx.em, ids);
  noted(ctx, ids[0], { order: [...ids] });
  const input = { ids: before };
  return { undo: await ctx.undoable({ command: 'daybook.orderViews', input, label: { what: 'view' } }) };
}

export async function setDefaultView(
  ctx: Ctx,
  { role, viewId }: InputOf<typeof defaultContract>,
): Promise<AnswerOf<typeof defaultContract>> {
  if (ctx.scope('daybook.share-views') !== 'all') return ctx.fail('NotAllowed');
  const view = viewId === null ? null : await viewForUpdate(ctx.em, viewId);
  // What one person or one site has would be nothing to others of the role.
  if (viewId !== null && (view?.scope !== 'shared' || view.removedAt !== null)) return ctx.fail('NotFound');
  const before = (await defaultRows(ctx.em)).find((row) => row.role === role)?.viewId ?? null;
  await putDefault(ctx.em, role, viewId);
  noted(ctx, viewId ?? before ?? role, { default: role });
  const input = { role, viewId: before };
  return { undo: await ctx.undoable({ command: 'daybook.setDefaultView', input, label: { what: 'view' } }) };
}
