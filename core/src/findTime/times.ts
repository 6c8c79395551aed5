import { askedType, type ClinicIndex, type OpenDay, openDays, type SearchCriteria } from '../openings/index.ts';
import {
  addRangeInto,
  andInto,
  andNot,
  CELL_MIN,
  cellsOf,
  copyInto,
  emptyMask,
  type EpochMinute,
  epochOfCell,
  epochToWall,
  isEmpty,
  later,
  type LocalDate,
  type Mask,
  NO_CELLS,
  rangeMask,
  type WallMinute,
  type Weekday,
  type ZoneDay,
} from '../time/index.ts';
import { lengthOf } from '../visits/index.ts';

const DAY_MIN = 1440;

/** Where and when somebody could come; `null` means any. */
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

/** The starts of one day that one provider (or nobody) could serve. */
export interface Day {
  readonly providerId: string | null;
  readonly starts: Mask;
}

/** Visits that hold together. */
export interface Together {
  /** In the order of the criteria. */
  readonly times: readonly Time[];
}

export interface Answers {
  readonly found: readonly Together[];
  /** There may be more: the search gave up. */
  readonly gaveUp: boolean;
}

/** What is wished for of an open day; `null` if nothing. */
export function wantedStarts(index: ClinicIndex, criteria: SearchCriteria, where: Where, open: OpenDay): Day | null {
  const { siteId, providerId, day } = open;
  if (where.weekdays && !where.weekdays.includes(day.weekday)) return null;
  if (!speaks(index, providerId, where.language)) return null;
  const starts = open.starts;
  if (where.thinned) keepGrid(starts, day, index.policy(criteria.visitTypeId, siteId, providerId).gridMin.value);
  if (where.fromMinute > 0 || where.toMinute < DAY_MIN) andInto(starts, cellsBetween(day, where));
  return isEmpty(starts) ? null : { providerId, starts };
}

/** The visit type's own grid, and the first start after whatever is booked. */
function keepGrid(starts: Mask, day: ZoneDay, gridMin: number): void {
  const kept = andNot(starts, later(starts, 1));
  for (const cell of cellsOf(starts)) if (wallMinuteOf(day, cell) % gridMin === 0) addRangeInto(kept, cell, cell + 1);
  copyInto(starts, kept);
}

function cellsBetween(day: ZoneDay, { fromMinute, toMinute }: Where): Mask {
  if (day.cells === DAY_MIN / CELL_MIN)
    return rangeMask(Math.ceil(fromMinute / CELL_MIN), Math.ceil(toMinute / CELL_MIN));
  const mask = emptyMask();
  for (let cell = 0; cell < day.cells; cell++) {
    const minute = wallMinuteOf(day, cell);
    if (minute >= fromMinute && minute < toMinute) addRangeInto(mask, cell, cell + 1);
  }
  return mask;
}

/** On a day without a change of clocks a cell is its minute. */
function wallMinuteOf(day: ZoneDay, cell: number): WallMinute {
  return day.cells === DAY_MIN / CELL_MIN ? cell * CELL_MIN : epochToWall(day.zone, epochOfCell(day, cell)).minute;
}

/** All times that meet the criteria, by date and then by start; lazy: whoever needs the first few takes them. */
export function* timesFor(index: ClinicIndex, criteria: SearchCriteria, where: Where): Generator<Time> {
  const length = lengthOf(askedType(index.store, criteria));
  let times: Time[] = [];
  for (const open of openDays(index, criteria, where)) {
    const { siteId, providerId, day } = open;
    if (times.length && times[0].date !== day.date) {
      yield* inOrder(times);
      times = [];
    }
    for (const cell of cellsOf(wantedStarts(index, criteria, where, open)?.starts ?? NO_CELLS)) {
      const start = epochOfCell(day, cell);
      times.push({ siteId, providerId, date: day.date, start, end: start + length });
    }
  }
  yield* inOrder(times);
}

function inOrder(times: Time[]): Time[] {
  return times.sort((a, b) => a.start - b.start);
}

/** The first few times. */
export function firstTimes(index: ClinicIndex, criteria: SearchCriteria, where: Where, limit: number): Time[] {
  const found: Time[] = [];
  for (const time of timesFor(index, criteria, where)) {
    if (found.length === limit) break;
    found.push(time);
  }
  return found;
}

/** The first time with each provider at each site, the soonest first. */
export function firstPerProvider(index: ClinicIndex, criteria: SearchCriteria, where: Where): Time[] {
  const first = new Map<string, Time>();
  for (const time of timesFor(index, criteria, where)) {
    const key = `${time.siteId} ${time.providerId}`;
    if (!first.has(key)) first.set(key, time);
  }
  return [...first.values()].sort((a, b) => a.start - b.start);
}

/** How many different start times each date has, by date; dates without are left out. */
export function countsByDate(
  index: ClinicIndex,
  criteria: SearchCriteria,
  where: Where,
): { date: LocalDate; starts: number }[] {
  const starts = new Map<LocalDate, Set<EpochMinute>>();
  for (const { date, start } of timesFor(index, criteria, where)) {
    const known = starts.get(date);
    if (known) known.add(start);
    else starts.set(date, new Set([start]));
  }
  return [...starts].map(([date, found]) => ({ date, starts: found.size }));
}
