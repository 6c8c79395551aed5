import { cellsOfSpan, type TimeOff } from '../../availability/index.ts';
import { and, andNot, datesFrom, isEmpty, type Mask, rangeMask, wallSpansOf } from '../../time/index.ts';
import type { EditContext } from './context.ts';

/**
 * Extra hours for whoever covers: all that the absent person would have worked in the span, on the same terms, less
 * what the cover works at that site anyway. Limits and release stay with the hours of the absent.
 */
export function coverHours(ctx: EditContext, away: Omit<TimeOff, 'id'>, coverId: string): void {
  const { store } = ctx;
  if (coverId === away.resourceId) {
    ctx.refuse('covers-themselves', { resourceId: coverId });
    return;
  }
  const first = away.startDate < ctx.today ? ctx.today : away.startDate;
  for (const date of datesFrom(first, away.endDate))
    for (const { id: siteId } of store.plan.sites) {
      if (away.siteId !== null && away.siteId !== siteId) continue;
      const day = store.day(siteId, date);
      const planned = store.planOn(store.lane(away.resourceId, siteId), day);
      const own = store.planOn(store.lane(coverId, siteId), day);
      const worked = andNot(andNot(planned.hours, planned.timeOff), planned.keptFree);
      const missing = andNot(and(worked, cellsOfSpan(day, away)), own.hours);
      if (!isEmpty(and(missing, own.timeOff))) ctx.refuse('cover-away', { resourceId: coverId, siteId, date });
      planned.stretches.forEach(({ places, accepts, online, fromCell, toCell }, i) => {
        const wins = (cell: number) => planned.stretchOfCell[cell] === i;
        const mine: Mask = and(missing, onlyWhere(rangeMask(fromCell, toCell), fromCell, toCell, wins));
        for (const { fromMinute, toMinute } of wallSpansOf(day, mine))
          ctx.changes.put('dateChanges', {
            id: ctx.newId(),
            subject: { of: 'resource', id: coverId },
            workingHoursId: null,
            date,
            hours: { siteId, fromMinute, toMinute, places, accepts, online },
          });
      });
    }
}

/** The cells of a range for which something holds. */
function onlyWhere(range: Mask, fromCell: number, toCell: number, holds: (cell: number) => boolean): Mask {
  let kept = range;
  for (let cell = fromCell; cell < toCell; cell++) if (!holds(cell)) kept = andNot(kept, rangeMask(cell, cell + 1));
  return kept;
}
