import { placesLeft } from '../booking/index.ts';
import { type ClinicStore, needsProvider } from '../openings/index.ts';
import type { ChangedDay } from '../schedule/index.ts';
import type { EpochMinute } from '../time/index.ts';

export interface PlacesInput {
  readonly before: ClinicStore;
  readonly after: ClinicStore;
  readonly now: EpochMinute;
  /** Places are counted on no more changed dates than this: they take longest. */
  readonly placesOnDates: number;
}

/**
 * Places that patients can book, of those whose day changed: other providers' places do not differ, but where a room,
 * a nurse or the site itself changed all of them are counted.
 */
export function placesOf(
  { before, after, now, placesOnDates }: PlacesInput,
  visitTypeId: string,
  siteId: string,
  days: readonly ChangedDay[],
): { before: number; after: number } | null {
  if (days.length > placesOnDates) return null;
  const ofProvider = new Set(before.plan.resources.filter(({ kind }) => kind === 'provider').map(({ id }) => id));
  const alone = (id: string) =>
    ofProvider.has(id) && !before.plan.pools.some(({ memberIds }) => memberIds.includes(id));
  const touched = [...new Set(days.flatMap(({ resourceIds }) => resourceIds))];
  const onlyProviders = days.every(({ resourceIds }) => resourceIds.length > 0) && touched.every(alone);
  const providerIds = onlyProviders && needsProvider(before.visitType(visitTypeId)) ? touched : null;
  const criteria = { visitTypeId, kind: 'established', channel: 'online' } as const;
  const count = (store: ClinicStore) =>
    days.reduce(
      (sum, { date }) => sum + placesLeft(store, now, { criteria, siteId, providerIds, from: date, until: date }),
      0,
    );
  return { before: count(before), after: count(after) };
}
