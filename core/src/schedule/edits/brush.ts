import type { BrushStroke } from '../../availability/index.ts';
import { and, cellOfWall, countCells, isEmpty, rangeMask } from '../../time/index.ts';
import type { ScheduleEdit } from '../edits.ts';
import { notShown } from '../warnings.ts';
import type { EditContext } from './context.ts';

type Edit = Extract<ScheduleEdit, { do: 'brush' }>;

/** Paints over the schedule. It goes with the date, not with the hours, so that it stays where it was painted. */
export function brush(ctx: EditContext, { siteId, strokes, value }: Edit): void {
  let order = ctx.rows.brush.reduce((max, row) => Math.max(max, row.order), 0);
  const put: BrushStroke[] = [];
  let partly = false;
  // The hours may be worked while the site is closed to patients: showing them shows nothing.
  let beyond: ReturnType<typeof notShown> = null;
  for (const stroke of strokes) {
    const day = ctx.store.day(siteId, stroke.date);
    const plan = ctx.store.planOn(ctx.store.lane(stroke.resourceId, siteId), day);
    const painted = rangeMask(cellOfWall(day, stroke.fromMinute), cellOfWall(day, stroke.toMinute));
    const worked = and(painted, plan.hours);
    const row: BrushStroke = { ...stroke, id: ctx.newId(), siteId, value, order: ++order };
    if (isEmpty(worked)) continue;
    if (countCells(worked) < countCells(painted)) partly = true;
    beyond ??= value === 'shown' ? notShown(ctx.store, siteId, stroke.date, worked) : null;
    put.push(row);
  }
  if (!put.length) {
    ctx.refuse('nothing-to-brush', { siteId });
    return;
  }
  for (const row of put) {
    // What lies wholly under the new stroke decides nothing any more.
    for (const old of ctx.rows.brush)
      if (
        old.resourceId === row.resourceId &&
        old.siteId === siteId &&
        old.date === row.date &&
        old.fromMinute >= row.fromMinute &&
        old.toMinute <= row.toMinute
      )
        ctx.changes.drop('brush', old.id);
    ctx.changes.put('brush', row);
  }
  if (beyond) ctx.warn(beyond.code, beyond.facts);
  if (partly || put.length < strokes.length)
    ctx.warn('brush-outside-hours', { painted: strokes.length, inHours: put.length });
}
