import { touchedWithin } from '../../time/index.ts';
import { cellsOfSpan } from '../../availability/index.ts';
import { hasCell } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** A closure of the site meets any minute of the visit. First in precedence: closure > time off > single-date change > hours. */
export const siteClosed: StartRule = {
  code: 'site-closed',
  scope: 'start',
  binds: 'everyone',
  hide: ({ index, site, day, lengthCells }) => touchedWithin(index.siteDay(site.id, day.date).closed, lengthCells),
  facts: ({ index, site, day, lengthCells }, cell) =>
    index.snapshot.closures
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
