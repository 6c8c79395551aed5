import { bookInto } from '../booking/index.ts';
import { ClinicIndex, type ClinicStore, openDays, settlePolicy } from '../openings/index.ts';
import { addDays, type EpochMinute, epochToWall, type LocalDate } from '../time/index.ts';
import type { BookedVisit } from '../visits/index.ts';
import { criteriaOf } from './visitToMove.ts';

/** Another time for a visit, and what it costs the patient against the booked one. */
export interface Alternative {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: EpochMinute;
  readonly date: LocalDate;
  readonly cost: number;
}

/**
 * What a patient minds, in minutes of a shift on the same day (common practice; the weights are ours): another day as
 * much as an hour and a half, each day more; earlier than booked more than later, for they may not be reached in time;
 * another provider as much as two hours (nothing, if that one covers on the booked day), another site as much as a day, a
 * start off the type's usual steps as much as half an hour.
 */
const PER_DAY = 90;
const EARLIER_DAY = 1.5;
const OTHER_PROVIDER = 120;
const OTHER_SITE = 240;
/** A start between the steps in which the type is offered leaves an odd gap before or after it. */
const OFF_GRID = 30;
/** Nobody is moved to a time that begins sooner than this. */
const MIN_NOTICE_MIN = 120;

export interface AlternativesInput {
  /** Dates around the booked one that are looked at. */
  readonly daysBefore: number;
  readonly daysAfter: number;
  readonly limit: number;
  readonly siteIds: readonly string[];
}

/**
 * The best times for a visit by the desk's rules, best first. Its own time counts as free: where it can be kept with
 * another room or nurse, it is the first of them.
 */
export function alternatives(
  store: ClinicStore,
  now: EpochMinute,
  visit: BookedVisit,
  { daysBefore, daysAfter, limit, siteIds }: AlternativesInput,
): Alternative[] {
  const index = new ClinicIndex(store, now);
  const own = epochToWall(store.site(visit.siteId).zone, visit.start);
  const cover = coverOf(store, visit);
  const best: Alternative[] = [];
  const range = {
    siteIds,
    providerIds: null,
    from: addDays(visit.date, -daysBefore),
    until: addDays(visit.date, daysAfter),
  };
  for (const open of openDays(index, criteriaOf(visit), range)) {
    const { siteId, providerId, day } = open;
    const asArranged = providerId === visit.providerId || (providerId === cover && day.date === visit.date);
    const base = (asArranged ? 0 : OTHER_PROVIDER) + (siteId !== visit.siteId ? OTHER_SITE : 0);
    const days = Math.round((Date.parse(day.date) - Date.parse(visit.date)) / 86_400_000);
    const dayCost = base + Math.abs(days) * PER_DAY * (days < 0 ? EARLIER_DAY : 1);
    // The list is full of better ones: no time of this day can come in.
    if (best.length === limit && dayCost >= best[limit - 1].cost) continue;
    const { gridMin } = settlePolicy(store.plan.policies, visit.visitTypeId, siteId, providerId);
    open.forEachStart((start) => {
      if (start < now + MIN_NOTICE_MIN) return;
      const minute = epochToWall(day.zone, start).minute;
      // Its own time was agreed to, wherever it lies.
      const isUsual = minute % gridMin.value === 0 || start === visit.start;
      const cost = dayCost + Math.abs(minute - own.minute) + (isUsual ? 0 : OFF_GRID);
      if (best.length === limit && cost >= best[limit - 1].cost) return;
      const at = best.findIndex((other) => other.cost > cost);
      best.splice(at < 0 ? best.length : at, 0, { siteId, providerId, start, date: day.date, cost });
      if (best.length > limit) best.pop();
    });
  }
  return best;
}

/** Who covers for the visit's provider on its date, where time off says so. */
function coverOf(store: ClinicStore, { providerId, siteId, date }: BookedVisit): string | null {
  const away = store.plan.timeOff.find(
    (row) =>
      row.coverId &&
      row.resourceId === providerId &&
      (row.siteId === null || row.siteId === siteId) &&
      row.startDate <= date &&
      row.endDate >= date,
  );
  return away?.coverId ?? null;
}

export interface Placement {
  readonly visit: BookedVisit;
  readonly alternative: Alternative | null;
}

/**
 * One time for each of several visits, none in another's way: whoever has the fewest and dearest choices goes first,
 * and each is put into the store before the next one looks. They are taken out again before this returns.
 */
export function placeAll(
  store: ClinicStore,
  now: EpochMinute,
  visits: readonly BookedVisit[],
  wanted: AlternativesInput,
): Placement[] {
  const rows = new Map(visits.map((visit) => [visit.id, store.taken.occupiedBy(visit.id)]));
  const hardestFirst = visits
    .map((visit) => ({ visit, found: alternatives(store, now, visit, wanted) }))
    .sort((a, b) => a.found.length - b.found.length || (b.found[0]?.cost ?? 0) - (a.found[0]?.cost ?? 0));
  const chosen = new Map<string, Alternative | null>();
  try {
    for (const { visit } of hardestFirst) {
      const [best] = alternatives(store, now, visit, { ...wanted, limit: 1 });
      chosen.set(visit.id, best ?? null);
      if (best && !bookInto(store, now, visit.id, { criteria: criteriaOf(visit), ...best }))
        throw new Error('A start that the search gives can be planned.');
    }
  } finally {
    for (const visit of visits) store.put(visit.id, visit, rows.get(visit.id) ?? []);
  }
  return visits.map((visit) => ({ visit, alternative: chosen.get(visit.id) ?? null }));
}
