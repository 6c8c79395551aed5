import { cellsOfSpan } from '../../availability/index.ts';
import { hasCell, isEmpty, NO_CELLS, touchedWithin } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** A closure of the site meets any minute of the visit. First in precedence: closure > time off > single-date change > hours. */
export const siteClosed: StartRule = {
  code: 'site-closed',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: ({ index, site, day, lengthCells }) => {
    const { closed } = index.siteDay(site.id, day.date);
    return isEmpty(closed) ? NO_CELLS : touchedWithin(closed, lengthCells);
  },
  facts: ({ index, site, day, lengthCells }, cell) =>
    index.plan.closures
      .filter(
        (closure) => closure.siteId === site.id && hasCell(touchedWithin(cellsOfSpan(day, closure), lengthCells), cell),
      )
      .map((closure) => ({
        closureId: closure.id,
        startDate: closure.startDate,
        startMinute: closure.startMinute,
        endDate: closure.endDate,
        endMinute: closure.endMinute,
      })),
};
