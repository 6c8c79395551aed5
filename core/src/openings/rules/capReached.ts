import { addRangeInto, emptyMask, epochOfCell, fullMask, hasCell } from '../../time/index.ts';
import type { BookedVisit } from '../../visits/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';
import type { Cap } from '../snapshot.ts';

/** The bucket a visit like this would fall into, or `null` if the cap does not concern it. */
export function capBucket(
  cap: Cap,
  of: { providerId: string | null; siteId: string; visitTypeId: string; selfBooked: boolean },
): string | null {
  if (cap.providerId !== null && cap.providerId !== of.providerId) return null;
  if (cap.siteId !== null && cap.siteId !== of.siteId) return null;
  if (cap.visitTypeId !== null && cap.visitTypeId !== of.visitTypeId) return null;
  if (cap.bucket === 'site-type-day') return `${cap.id}:${of.siteId}:${of.visitTypeId}`;
  if (of.providerId === null) return null;
  if (cap.bucket === 'provider-self-day') return of.selfBooked ? `${cap.id}:${of.providerId}` : null;
  return cap.bucket === 'provider-type-day'
    ? `${cap.id}:${of.providerId}:${of.visitTypeId}`
    : `${cap.id}:${of.providerId}`;
}

function reachedDayCaps({ index, wish, type, site, providerId, day }: Frame): Facts[] {
  const mine = { providerId, siteId: site.id, visitTypeId: type.id, selfBooked: wish.channel !== 'desk' };
  const visits = index.visitsOn(day.date).filter((visit) => visit.id !== wish.ignoreVisitId);
  return index.snapshot.caps.flatMap<Facts>((cap) => {
    const bucket = capBucket(cap, mine);
    if (bucket === null) return [];
    const booked = visits.filter((visit) => capBucket(cap, visit) === bucket).length;
    return booked >= cap.most ? [{ cap: cap.bucket, capId: cap.id, most: cap.most, booked, date: day.date }] : [];
  });
}

interface HoursCap {
  readonly fromCell: number;
  readonly toCell: number;
  readonly facts: Facts;
}

/** "2 new per half-day": caps of the leading resource's hours, counted over its visits that start inside them. */
function reachedHoursCaps(frame: Frame): HoursCap[] {
  const { index, wish, type, site, providerId, day } = frame;
  if (providerId === null) return [];
  const visits = index
    .visitsNear(providerId, day)
    .filter((visit) => visit.id !== wish.ignoreVisitId && visit.siteId === site.id);
  return index.resourceDay(providerId, site.id, day.date).stretches.flatMap((stretch) =>
    stretch.caps.flatMap((cap) => {
      const counts = (of: Pick<BookedVisit, 'visitTypeId' | 'kind'>) =>
        (cap.visitTypeId === null || cap.visitTypeId === of.visitTypeId) && (cap.kind === null || cap.kind === of.kind);
      if (!counts({ visitTypeId: type.id, kind: wish.kind })) return [];
      const from = epochOfCell(day, stretch.fromCell);
      const to = epochOfCell(day, stretch.toCell);
      const booked = visits.filter((visit) => visit.start >= from && visit.start < to && counts(visit)).length;
      if (booked < cap.most) return [];
      return [
        {
          fromCell: stretch.fromCell,
          toCell: stretch.toCell,
          facts: { cap: 'hours', hoursId: stretch.sourceId, most: cap.most, booked },
        },
      ];
    }),
  );
}

/** As many visits as may be that day (or in those hours) are booked or held already. */
export const capReached: StartRule = {
  code: 'cap-reached',
  scope: 'start',
  binds: 'everyone',
  hide: (frame) => {
    if (reachedDayCaps(frame).length) return fullMask(frame.day.cells);
    const mask = emptyMask();
    for (const cap of reachedHoursCaps(frame)) addRangeInto(mask, cap.fromCell, cap.toCell);
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
