import { addRangeInto, emptyMask, epochOfCell, fullMask, hasCell, NO_CELLS } from '../../time/index.ts';
import type { BookedVisit } from '../../visits/index.ts';
import { capBucket } from '../capBucket.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { ProviderDateRule } from '../rule.ts';

function reachedDayCaps({ index, criteria, type, site, providerId, day }: Frame): Facts[] {
  if (!index.plan.caps.length) return [];
  const mine = { providerId, siteId: site.id, visitTypeId: type.id, selfBooked: criteria.channel !== 'desk' };
  const ignored = criteria.ignoreVisitId
    ? index.visitsOn(day.date).filter((visit) => visit.id === criteria.ignoreVisitId)
    : [];
  return index.plan.caps.flatMap<Facts>((cap) => {
    const bucket = capBucket(cap, mine);
    if (bucket === null) return [];
    const left = ignored.filter((visit) => capBucket(cap, visit) === bucket).length;
    const booked = index.store.taken.countIn(bucket, day.date) - left;
    return booked >= cap.max ? [{ cap: cap.bucket, capId: cap.id, max: cap.max, booked, date: day.date }] : [];
  });
}

interface HoursCap {
  readonly fromCell: number;
  readonly toCell: number;
  readonly facts: Facts;
}

/** "2 new per half-day": caps of the leading resource's hours, counted over its visits that start inside them. */
function reachedHoursCaps(frame: Frame): HoursCap[] {
  const { index, criteria, type, site, providerId, day } = frame;
  if (providerId === null || !index.store.hoursHaveCaps) return [];
  const { stretches: all, removed } = index.resourceDay(providerId, site.id, day.date);
  // Hours that a single-date change took away limit nothing.
  const stretches = all.slice(removed);
  if (!stretches.some((stretch) => stretch.caps.length)) return [];
  const visits = index
    .visitsNear(providerId, day)
    .filter((visit) => visit.id !== criteria.ignoreVisitId && visit.siteId === site.id);
  return stretches.flatMap((stretch) =>
    stretch.caps.flatMap((cap) => {
      const counts = (of: Pick<BookedVisit, 'visitTypeId' | 'kind'>) =>
        (cap.visitTypeId === null || cap.visitTypeId === of.visitTypeId) && (cap.kind === null || cap.kind === of.kind);
      if (!counts({ visitTypeId: type.id, kind: criteria.kind })) return [];
      const from = epochOfCell(day, stretch.fromCell);
      const to = epochOfCell(day, stretch.toCell);
      const booked = visits.filter((visit) => visit.start >= from && visit.start < to && counts(visit)).length;
      if (booked < cap.max) return [];
      return [
        {
          fromCell: stretch.fromCell,
          toCell: stretch.toCell,
          facts: { cap: 'hours', hoursId: stretch.sourceId, max: cap.max, booked },
        },
      ];
    }),
  );
}

/** As many visits as may be that day (or in those hours) are booked or held already. */
export const capReached: ProviderDateRule = {
  code: 'cap-reached',
  scope: 'start',
  variesBy: 'provider-date',
  binds: 'everyone',
  mayHide: ({ index }) => index.plan.caps.length > 0 || index.store.hoursHaveCaps,
  hide: (frame) => {
    if (reachedDayCaps(frame).length) return fullMask(frame.day.cells);
    const hours = reachedHoursCaps(frame);
    if (!hours.length) return NO_CELLS;
    const mask = emptyMask();
    for (const cap of hours) addRangeInto(mask, cap.fromCell, cap.toCell);
    return mask;
  },
  facts: (frame, cell) => {
    const hours = reachedHoursCaps(frame).filter((cap) => {
      const mask = emptyMask();
      addRangeInto(mask, cap.fromCell, cap.toCell);
      return hasCell(mask, cell);
    });
    return [...reachedDayCaps(frame), ...hours.map((cap) => cap.facts)];
  },
};
