import {
  type HoursPattern,
  ROW_KINDS,
  type RowChanges,
  type ScheduleEdit,
  type ScheduleRows,
} from '@zaguan/core/schedule';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { mayEditOwnHours } from './availability.repository.ts';

/** Whose hours the caller may change: everybody's, their own alone where the manager allows it, or nobody's. */
export async function mayEdit(ctx: Ctx): Promise<'all' | 'own' | 'none'> {
  const scope = ctx.scope('availability.edit');
  if (scope === 'all') return 'all';
  const own = ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null;
  return scope === 'own-hours' && own && (await mayEditOwnHours(ctx.em, own)) ? 'own' : 'none';
}

/** Whether the caller may change one person's hours. */
export async function mayEditHoursOf(ctx: Ctx, resourceId: string): Promise<boolean> {
  const may = await mayEdit(ctx);
  return may === 'all' || (may === 'own' && ctx.actor.kind === 'staff' && ctx.actor.resourceId === resourceId);
}

/** One's own time off is asked for and approved, never just taken. */
const ASKED_FOR: ReadonlySet<ScheduleEdit['do']> = new Set(['time-off', 'drop-time-off']);

/** Whether some edits keep to what the caller may change. */
export async function mayMakeEdits(ctx: Ctx, edits: readonly ScheduleEdit[], rows: ScheduleRows): Promise<boolean> {
  const may = await mayEdit(ctx);
  if (may === 'all') return true;
  const own = ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null;
  return may === 'own' && edits.every((edit) => !ASKED_FOR.has(edit.do) && whose(edit, rows).every((id) => id === own));
}

/** The resources (or pools, or sites, by id) that an edit is about. What is not there is found out later. */
function whose(edit: ScheduleEdit, rows: ScheduleRows): string[] {
  const rowOf = <T extends { id: string }>(list: readonly T[], id: string) => list.filter((row) => row.id === id);
  switch (edit.do) {
    case 'add-hours':
    case 'extra-hours':
    case 'copy-day':
      return [edit.subject.id];
    case 'change-hours':
    case 'end-hours':
      return rowOf(rows.workingHours, edit.hoursId).map(({ subject }) => subject.id);
    case 'drop-date-change':
      return rowOf(rows.dateChanges, edit.changeId).map(({ subject }) => subject.id);
    case 'time-off':
      // Whoever covers gets hours by it.
      return [...edit.resourceIds, ...(edit.coverId ? [edit.coverId] : [])];
    case 'keep-free':
      return [...edit.resourceIds];
    case 'drop-time-off':
      return rowOf(rows.timeOff, edit.id).map(({ resourceId }) => resourceId);
    case 'drop-kept-free':
      return rowOf(rows.keptFree, edit.id).map(({ resourceId }) => resourceId);
    case 'brush':
      return edit.strokes.map(({ resourceId }) => resourceId);
    case 'copy-week':
      return [edit.of, ...edit.to];
    case 'close-site':
      return [edit.siteId];
    case 'drop-closure':
      return rowOf(rows.closures, edit.id).map(({ siteId }) => siteId);
  }
}

/** Whether everything that edits name is there: sites, people, rooms, pools, visit types. */
export function referencesExist(edits: readonly ScheduleEdit[], plan: Known): boolean {
  const ids = new Set([...plan.sites, ...plan.resources, ...plan.pools, ...plan.visitTypes].map(({ id }) => id));
  return edits.flatMap(named).every((id) => !id || ids.has(id));
}

/** The ids an edit names, but for those of rows of the schedule. */
function named(edit: ScheduleEdit): readonly (string | null | undefined)[] {
  switch (edit.do) {
    case 'add-hours':
      return [edit.subject.id, ...ofPattern(edit.pattern)];
    case 'change-hours':
      return ofPattern(edit.to);
    case 'extra-hours':
      return [edit.subject.id, ...ofPattern(edit.hours)];
    case 'time-off':
      return [edit.siteId, edit.coverId, ...edit.resourceIds];
    case 'keep-free':
      return [edit.siteId, ...edit.resourceIds];
    case 'brush':
      return [edit.siteId, ...edit.strokes.map(({ resourceId }) => resourceId)];
    case 'copy-day':
      return [edit.subject.id];
    case 'copy-week':
      return [edit.of, ...edit.to];
    case 'close-site':
      return [edit.siteId];
    case 'end-hours':
    case 'drop-date-change':
    case 'drop-time-off':
    case 'drop-kept-free':
    case 'drop-closure':
      return [];
  }
}

function ofPattern({
  siteId,
  accepts,
  release,
  preferredRoomIds,
}: Partial<HoursPattern>): readonly (string | undefined)[] {
  return [
    siteId,
    ...(accepts?.visitTypeIds ?? []),
    ...(release?.accepts.visitTypeIds ?? []),
    ...(preferredRoomIds ?? []),
  ];
}

type Named = readonly { readonly id: string }[];
interface Known {
  readonly sites: Named;
  readonly resources: Named;
  readonly pools: Named;
  readonly visitTypes: Named;
}

/** Whether an inverse keeps to what the caller may change now: their own rows alone, or anybody's. */
export async function mayPutBack(ctx: Ctx, changes: readonly RowChanges[]): Promise<boolean> {
  const may = await mayEdit(ctx);
  if (may !== 'own') return may === 'all';
  const own = ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null;
  return changes.every((change) =>
    ROW_KINDS.every((kind) => (change[kind]?.put ?? []).every((row) => subjectOf(row) === own)),
  );
}

/** Whom a row of the schedule is about; a closure is about nobody. */
function subjectOf(row: ScheduleRows[keyof ScheduleRows][number]): string | null {
  if ('subject' in row) return row.subject.id;
  return 'resourceId' in row ? row.resourceId : null;
}
