import type { ClinicStore, SearchCriteria } from '../openings/index.ts';
import { addDays, type EpochMinute, epochToWall, wallToEpoch } from '../time/index.ts';
import { placeTogether, type Step } from './chain.ts';
import type { Budget } from './budget.ts';
import type { Answers, Time, Where } from './times.ts';

export interface SeriesCriteria {
  readonly criteria: SearchCriteria;
  readonly where: Where;
  readonly everyWeeks: number;
  readonly count: number;
  /** How many days earlier or later each visit may be. */
  readonly toleranceDays: number;
  /** All with whom the first one is with. */
  readonly sameProvider: boolean;
}

/** A series: every visit counted from the first, each as near to its day and to the first one's hour as can be. */
export function seriesTimes(
  store: ClinicStore,
  now: EpochMinute,
  wanted: SeriesCriteria,
  limit: number,
  budget: Budget,
): Answers {
  const { criteria, where, everyWeeks, count, toleranceDays, sameProvider } = wanted;
  const steps = Array.from({ length: count }, (_, i): Step => {
    if (i === 0) return { criteria, where: () => where, fits: () => true, cost: () => 0 };
    const target = (first: Time) => addDays(first.date, 7 * everyWeeks * i);
    return {
      criteria,
      where: ([first]) => ({
        ...where,
        siteIds: [first.siteId],
        providerIds: sameProvider && first.providerId !== null ? [first.providerId] : where.providerIds,
        from: addDays(target(first), -toleranceDays),
        until: addDays(target(first), toleranceDays),
      }),
      fits: (time, placed) => time.start > placed[placed.length - 1].start,
      cost: (time, [first]) => {
        const days = Math.abs(Math.round((Date.parse(time.date) - Date.parse(target(first))) / 86_400_000));
        const zone = store.site(first.siteId).zone;
        const off = Math.abs(epochToWall(zone, time.start).minute - epochToWall(zone, first.start).minute);
        return days * 1440 + off + (time.providerId === first.providerId ? 0 : 120);
      },
    };
  });
  return placeTogether(store, now, steps, limit, budget);
}

/** Visits that must follow come at their hour, or this much later or earlier. */
const LINK_TOLERANCE_MIN = 60;
const DAY_MIN = 1440;

/**
 * A visit with those that must follow it at fixed times (patch test: read at 48 h and 96 h). A whole number of days
 * after is the same hour of the site's clock, also where the clocks change between.
 */
export function linkedTimes(
  store: ClinicStore,
  now: EpochMinute,
  criteria: SearchCriteria,
  where: Where,
  limit: number,
  budget: Budget,
): Answers {
  const links = [...(store.visitType(criteria.visitTypeId).links ?? [])].sort((a, b) => a.offsetMin - b.offsetMin);
  const target = (first: Time, offsetMin: number) => {
    const { zone } = store.site(first.siteId);
    const wall = epochToWall(zone, first.start);
    const days = Math.floor(offsetMin / DAY_MIN);
    return wallToEpoch(zone, addDays(wall.date, days), wall.minute) + (offsetMin % DAY_MIN);
  };
  const steps: Step[] = [
    { criteria, where: () => where, fits: () => true, cost: () => 0 },
    ...links.map(
      ({ followTypeId, offsetMin }): Step => ({
        criteria: { ...criteria, visitTypeId: followTypeId },
        where: ([first]) => {
          const { date } = epochToWall(store.site(first.siteId).zone, target(first, offsetMin));
          const range = { from: date, until: date, fromMinute: 0, toMinute: DAY_MIN, weekdays: null };
          return { ...where, ...range, siteIds: [first.siteId] };
        },
        fits: (time, [first]) => Math.abs(time.start - target(first, offsetMin)) <= LINK_TOLERANCE_MIN,
        cost: (time, [first]) =>
          Math.abs(time.start - target(first, offsetMin)) + (time.providerId === first.providerId ? 0 : 30),
      }),
    ),
  ];
  return placeTogether(store, now, steps, limit, budget);
}
