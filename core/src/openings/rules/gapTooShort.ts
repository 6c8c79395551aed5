import { addRangeInto, CELL_MIN, emptyMask, epochOfCell, NO_CELLS } from '../../time/index.ts';
import { type BookedVisit, providerSpan } from '../../visits/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { ProviderDateRule } from '../rule.ts';

function travelMin({ index }: Frame, fromSiteId: string, toSiteId: string): number {
  if (fromSiteId === toSiteId) return 0;
  return index.plan.travel.find((row) => row.fromSiteId === fromSiteId && row.toSiteId === toSiteId)?.minutes ?? 0;
}

/** False where every gap asked would be 0: no buffer on either side, and no way between sites. */
function mayBeTooShort(frame: Frame): boolean {
  const { index, type, providerId, site } = frame;
  if (providerId === null) return false;
  const { taken } = index.store;
  if (type.beforeMin > 0 || type.afterMin > 0 || taken.asksGaps(providerId)) return true;
  if (!index.plan.travel.length) return false;
  for (const other of taken.sitesOf(providerId))
    if (travelMin(frame, other, site.id) > 0 || travelMin(frame, site.id, other) > 0) return true;
  return false;
}

/** The provider's other visits that may be near. */
function neighbors({ index, providerId, day, criteria }: Frame): BookedVisit[] {
  if (providerId === null) return [];
  const visits = index.visitsNear(providerId, day);
  return criteria.ignoreVisitId ? visits.filter((visit) => visit.id !== criteria.ignoreVisitId) : visits;
}

/** Minutes asked between the end of another visit and this one. */
function gapAfter(frame: Frame, visit: BookedVisit): number {
  return Math.max(visit.afterMin, frame.type.beforeMin, travelMin(frame, visit.siteId, frame.site.id));
}

/** Minutes asked between this visit and the start of another one. */
function gapBefore(frame: Frame, visit: BookedVisit): number {
  return Math.max(frame.type.afterMin, visit.beforeMin, travelMin(frame, frame.site.id, visit.siteId));
}

/**
 * The gap between two visits of a provider is at least the larger of the first's "after" and the second's "before",
 * and of the travel time between their sites. It counts from the provider's last part and to the first; a visit
 * that lies inside another one's pause asks no gap.
 */
export const gapTooShort: ProviderDateRule = {
  code: 'gap-too-short',
  scope: 'start',
  variesBy: 'provider-date',
  binds: 'everyone',
  mayHide: mayBeTooShort,
  hide: (frame) => {
    const span = providerSpan(frame.type);
    if (!span) return NO_CELLS;
    const mask = emptyMask();
    for (const visit of neighbors(frame)) {
      // Starts with visit.end <= provider's start < visit.end + gap …
      const first = visit.providerEnd - span.fromMin - frame.day.start;
      addRangeInto(mask, Math.ceil(first / CELL_MIN), Math.ceil((first + gapAfter(frame, visit)) / CELL_MIN));
      // … and starts with visit.start - gap < provider's end <= visit.start.
      const last = visit.providerStart - span.toMin - frame.day.start;
      addRangeInto(mask, Math.floor((last - gapBefore(frame, visit)) / CELL_MIN) + 1, Math.floor(last / CELL_MIN) + 1);
    }
    return mask;
  },
  facts: (frame, cell) => {
    const span = providerSpan(frame.type);
    if (!span) return [];
    const start = epochOfCell(frame.day, cell) + span.fromMin;
    const end = epochOfCell(frame.day, cell) + span.toMin;
    return neighbors(frame).flatMap<Facts>((visit) => {
      const gapAfterIt = gapAfter(frame, visit);
      const gapBeforeIt = gapBefore(frame, visit);
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
