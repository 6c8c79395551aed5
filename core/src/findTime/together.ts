import type { ClinicStore, Wish } from '../openings/index.ts';
import { addDays, type EpochMinute, epochToWall, wallToEpoch } from '../time/index.ts';
import { placeTogether, type Step } from './chain.ts';
import type { Time, Where } from './times.ts';

export interface Together {
  /** In the order of the wishes. */
  readonly times: readonly Time[];
}

export interface Answers {
  readonly found: readonly Together[];
  /** There may be more: the search gave up. */
  readonly gaveUp: boolean;
}

export interface HouseholdWanted {
  /** One for each member. */
  readonly wishes: readonly Wish[];
  readonly where: Where;
  /** One after the other, or all at the same time. */
  readonly how: 'back-to-back' | 'side-by-side';
  /** The longest wait between the end of one and the start of the next; at the same time: between the starts. */
  readonly mostWaitMin: number;
}

/** More members would be more orders than anyone waits for. */
export const MOST_MEMBERS = 5;

/**
 * Times for a household at one site on one day: back to back in whatever order works, with as little waiting as can
 * be, or side by side.
 */
export function householdTimes(store: ClinicStore, now: EpochMinute, wanted: HouseholdWanted, most: number): Answers {
  const { wishes, how } = wanted;
  const fixed = how === 'side-by-side' && wanted.mostWaitMin === 0;
  const orders = fixed ? [wishes.map((_, i) => i)] : permutations(wishes.length, wishes);
  const best = new Map<string, { times: Time[]; end: EpochMinute }>();
  let gaveUp = false;
  for (const order of orders) {
    const steps = order.map((member, i) => householdStep(wanted, wishes[member], i));
    const answer = placeTogether(store, now, steps, most);
    gaveUp ||= answer.gaveUp;
    for (const placed of answer.found) {
      const times: Time[] = [];
      order.forEach((member, i) => {
        times[member] = placed[i];
      });
      const end = Math.max(...times.map((time) => time.end));
      const key = `${placed[0].siteId} ${Math.min(...times.map(({ start }) => start))}`;
      const known = best.get(key);
      if (!known || end < known.end) best.set(key, { times, end });
    }
  }
  const found = [...best.values()].sort((a, b) => startOf(a.times) - startOf(b.times)).slice(0, most);
  return { found: found.map(({ times }) => ({ times })), gaveUp };
}

const startOf = (times: readonly Time[]) => Math.min(...times.map(({ start }) => start));

function householdStep({ where, how, mostWaitMin }: HouseholdWanted, wish: Wish, at: number): Step {
  if (at === 0) return { wish, where: () => where, fits: () => true, cost: () => 0 };
  const base = (placed: readonly Time[]) =>
    how === 'side-by-side' ? placed[0].start : Math.max(...placed.map(({ end }) => end));
  return {
    wish,
    where: ([{ siteId, date }]) => ({ ...where, siteIds: [siteId], from: date, until: date }),
    fits: (time, placed) => {
      const wait = time.start - base(placed);
      return wait >= 0 && wait <= mostWaitMin;
    },
    cost: (time, placed) => time.start - base(placed),
  };
}

/** Orders that differ: members with the same wish may change places unseen. */
function permutations(n: number, wishes: readonly Wish[]): number[][] {
  const orders: number[][] = [];
  const build = (order: number[], left: readonly number[]) => {
    if (!left.length) orders.push(order);
    const seen = new Set<string>();
    for (const member of left) {
      const key = JSON.stringify(wishes[member]);
      if (seen.has(key)) continue;
      seen.add(key);
      build(
        [...order, member],
        left.filter((other) => other !== member),
      );
    }
  };
  build(
    [],
    Array.from({ length: n }, (_, i) => i),
  );
  return orders;
}

export interface SeriesWanted {
  readonly wish: Wish;
  readonly where: Where;
  readonly everyWeeks: number;
  readonly count: number;
  /** How many days earlier or later each visit may be. */
  readonly toleranceDays: number;
  /** All with whom the first one is with. */
  readonly sameProvider: boolean;
}

/** A series: every visit counted from the first, each as near to its day and to the first one's hour as can be. */
export function seriesTimes(store: ClinicStore, now: EpochMinute, wanted: SeriesWanted, most: number): Answers {
  const { wish, where, everyWeeks, count, toleranceDays, sameProvider } = wanted;
  const steps = Array.from({ length: count }, (_, i): Step => {
    if (i === 0) return { wish, where: () => where, fits: () => true, cost: () => 0 };
    const target = (first: Time) => addDays(first.date, 7 * everyWeeks * i);
    return {
      wish,
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
  const { found, gaveUp } = placeTogether(store, now, steps, most);
  return { found: found.map((times) => ({ times })), gaveUp };
}

/** Visits that must follow come at their hour, or this much later or earlier. */
const LINK_TOLERANCE_MIN = 60;
const DAY_MIN = 1440;

/**
 * A visit with those that must follow it at fixed times (patch test: read at 48 h and 96 h). A whole number of days
 * after is the same hour of the site's clock, also where the clocks change between.
 */
export function linkedTimes(store: ClinicStore, now: EpochMinute, wish: Wish, where: Where, most: number): Answers {
  const links = [...(store.visitType(wish.visitTypeId).links ?? [])].sort((a, b) => a.offsetMin - b.offsetMin);
  const target = (first: Time, offsetMin: number) => {
    const { zone } = store.site(first.siteId);
    const wall = epochToWall(zone, first.start);
    const days = Math.floor(offsetMin / DAY_MIN);
    return wallToEpoch(zone, addDays(wall.date, days), wall.minute) + (offsetMin % DAY_MIN);
  };
  const steps: Step[] = [
    { wish, where: () => where, fits: () => true, cost: () => 0 },
    ...links.map(
      ({ followTypeId, offsetMin }): Step => ({
        wish: { ...wish, visitTypeId: followTypeId },
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
  const { found, gaveUp } = placeTogether(store, now, steps, most);
  return { found: found.map((times) => ({ times })), gaveUp };
}
