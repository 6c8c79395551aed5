import { type ClinicIndex, openDays, type Wish } from '../openings/index.ts';
import {
  CELL_MIN,
  type EpochMinute,
  epochToWall,
  type LocalDate,
  type WallMinute,
  type Weekday,
} from '../time/index.ts';
import { lengthOf } from '../visits/index.ts';

/** Where and when somebody could come; `null` is no wish. */
export interface Where {
  readonly siteIds: readonly string[];
  readonly providerIds: readonly string[] | null;
  /** Dates at each site, both included. */
  readonly from: LocalDate;
  readonly until: LocalDate;
  readonly weekdays: readonly Weekday[] | null;
  /** The start lies at or after the one and before the other, on the site's clock. */
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
  /** A provider who speaks it with patients (ISO 639-1). */
  readonly language: string | null;
  /** Not every five minutes, but the visit type's own grid, and the first start after whatever is booked. */
  readonly thinned?: boolean;
}

/** A time that can be had. */
export interface Time {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly date: LocalDate;
  readonly start: EpochMinute;
  readonly end: EpochMinute;
}

function speaks(index: ClinicIndex, providerId: string | null, language: string | null): boolean {
  if (language === null) return true;
  return providerId !== null && (index.resource(providerId).languages ?? []).includes(language);
}

/** All times for a wish, by date and then by start; lazy: whoever needs the first few takes them. */
export function* timesFor(index: ClinicIndex, wish: Wish, where: Where): Generator<Time> {
  const length = lengthOf(index.visitType(wish.visitTypeId));
  let day: Time[] = [];
  for (const open of openDays(index, wish, where)) {
    const { siteId, providerId, day: on } = open;
    if (day.length && day[0].date !== on.date) {
      yield* inOrder(day);
      day = [];
    }
    if (where.weekdays && !where.weekdays.includes(on.weekday)) continue;
    if (!speaks(index, providerId, where.language)) continue;
    const gridMin = where.thinned ? index.policy(wish.visitTypeId, siteId, providerId).gridMin.value : CELL_MIN;
    let before = Number.NEGATIVE_INFINITY;
    open.forEachStart((start) => {
      const { minute } = epochToWall(on.zone, start);
      const first = start - before > CELL_MIN;
      before = start;
      if (minute < where.fromMinute || minute >= where.toMinute) return;
      if (minute % gridMin !== 0 && !first) return;
      day.push({ siteId, providerId, date: on.date, start, end: start + length });
    });
  }
  yield* inOrder(day);
}

function inOrder(times: Time[]): Time[] {
  return times.sort((a, b) => a.start - b.start);
}

/** The first few times. */
export function firstTimes(index: ClinicIndex, wish: Wish, where: Where, most: number): Time[] {
  const found: Time[] = [];
  for (const time of timesFor(index, wish, where)) {
    if (found.length === most) break;
    found.push(time);
  }
  return found;
}

/** The first time with each provider at each site, the soonest first. */
export function firstPerProvider(index: ClinicIndex, wish: Wish, where: Where): Time[] {
  const first = new Map<string, Time>();
  for (const time of timesFor(index, wish, where)) {
    const key = `${time.siteId} ${time.providerId}`;
    if (!first.has(key)) first.set(key, time);
  }
  return [...first.values()].sort((a, b) => a.start - b.start);
}

/** How many different start times each date has, by date; dates without are left out. */
export function countsByDate(index: ClinicIndex, wish: Wish, where: Where): { date: LocalDate; starts: number }[] {
  const starts = new Map<LocalDate, Set<EpochMinute>>();
  for (const { date, start } of timesFor(index, wish, where)) {
    const known = starts.get(date);
    if (known) known.add(start);
    else starts.set(date, new Set([start]));
  }
  return [...starts].map(([date, found]) => ({ date, starts: found.size }));
}
