import { addRangeInto, CELL_MIN, emptyMask, epochOfCell, NO_CELLS } from '../../time/index.ts';
import { type BookedVisit, providerSpan } from '../../visits/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function travelMin({ index }: Frame, fromSiteId: string, toSiteId: string): number {
  if (fromSiteId === toSiteId) return 0;
  return index.plan.travel.find((row) => row.fromSiteId === fromSiteId && row.toSiteId === toSiteId)?.minutes ?? 0;
}

/** False where every gap asked would be 0: no buffer on either side, and all visits at this site. */
function mayBeTooShort({ index, type, providerId, site }: Frame): boolean {
  if (providerId === null) return false;
  return type.beforeMin > 0 || type.afterMin > 0 || index.store.taken.mayAskGap(providerId, site.id);
}

/** The provider's other visits with the gaps asked on either side, in minutes. */
function neighbours(frame: Frame): { visit: BookedVisit; gapAfterIt: number; gapBeforeIt: number }[] {
  const { index, type, providerId, site, day, wish } = frame;
  if (providerId === null) return [];
  return index
    .visitsNear(providerId, day)
    .filter((visit) => visit.id !== wish.ignoreVisitId)
    .map((visit) => ({
      visit,
      gapAfterIt: Math.max(visit.afterMin, type.beforeMin, travelMin(frame, visit.siteId, site.id)),
      gapBeforeIt: Math.max(type.afterMin, visit.beforeMin, travelMin(frame, site.id, visit.siteId)),
    }));
}

/**
 * The gap between two visits of a provider is at least the larger of the first's "after" and the second's "before",
 * and of the travel time between their sites. It counts from the provider's last part and to the first; a visit
 * that lies inside another one's pause asks no gap.
 */
export const gapTooShort: StartRule = {
  code: 'gap-too-short',
  scope: 'start',
  variesBy: 'provider-date',
  binds: 'everyone',
  hide: (frame) => {
    const span = providerSpan(frame.type);
    if (!span || !mayBeTooShort(frame)) return NO_CELLS;
    const mask = emptyMask();
    for (const { visit, gapAfterIt, gapBeforeIt } of neighbours(frame)) {
      // Starts with visit.end <= provider's start < visit.end + gap …
      const first = visit.providerEnd - span.fromMin - frame.day.start;
      addRangeInto(mask, Math.ceil(first / CELL_MIN), Math.ceil((first + gapAfterIt) / CELL_MIN));
      // … and starts with visit.start - gap < provider's end <= visit.start.
      const last = visit.providerStart - span.toMin - frame.day.start;
      addRangeInto(mask, Math.floor((last - gapBeforeIt) / CELL_MIN) + 1, Math.floor(last / CELL_MIN) + 1);
    }
    return mask;
  },
  facts: (frame, cell) => {
    const span = providerSpan(frame.type);
    if (!span) return [];
    const start = epochOfCell(frame.day, cell) + span.fromMin;
    const end = epochOfCell(frame.day, cell) + span.toMin;
    return neighbours(frame).flatMap<Facts>(({ visit, gapAfterIt, gapBeforeIt }) => {
      if (start >= visit.providerEnd && start < visit.providerEnd + gapAfterIt)
        return [
          {
            side: 'after',
            gapMin: gapAfterIt,
            haveMin: start - visit.providerEnd,
            freeFrom: visit.providerEnd + gapAfterIt,
          },
        ];
      if (end <= visit.providerStart && end > visit.providerStart - gapBeforeIt)
        return [
          { side: 'before', gapMin: gapBeforeIt, haveMin: visit.providerStart - end, nextStart: visit.providerStart },
        ];
      return [];
    });
  },
};
