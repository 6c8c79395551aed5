import type { Cap } from './snapshot.ts';

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
