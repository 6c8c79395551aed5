import { Temporal } from 'temporal-polyfill';
import { addDays, dateOfDay, dayNumber, weekdayOf } from './date.ts';
import { type Mask, runsOf } from './mask.ts';
import { CELL_MIN, type EpochMinute, type LocalDate, type WallMinute, type Weekday, type ZoneId } from './units.ts';

/**
 * The only file that asks Temporal about zones. Offsets are read once per zone and year into a small table,
 * so that a conversion in a search is a look-up and never a library call.
 */
interface OffsetSpan {
  readonly from: EpochMinute;
  readonly offsetMin: number;
}

const DAY_MIN = 1440;
const tables = new Map<string, readonly OffsetSpan[]>();

function minuteOf(instant: Temporal.ZonedDateTime): EpochMinute {
  return Math.floor(instant.epochMilliseconds / 60_000);
}

function readTable(zone: ZoneId, year: number): readonly OffsetSpan[] {
  const spans: OffsetSpan[] = [];
  let at = Temporal.ZonedDateTime.from({ year, month: 1, day: 1, timeZone: 'UTC' })
    .withTimeZone(zone)
    .subtract({ hours: 72 });
  const end = Temporal.ZonedDateTime.from({ year: year + 1, month: 1, day: 4, timeZone: 'UTC' }).epochMilliseconds;
  spans.push({ from: Number.NEGATIVE_INFINITY, offsetMin: at.offsetNanoseconds / 60e9 });
  for (;;) {
    const next = at.getTimeZoneTransition('next');
    if (!next || next.epochMilliseconds > end) return spans;
    spans.push({ from: minuteOf(next), offsetMin: next.offsetNanoseconds / 60e9 });
    at = next;
  }
}

function tableFor(zone: ZoneId, year: number): readonly OffsetSpan[] {
  const key = `${zone}|${year}`;
  let table = tables.get(key);
  if (!table) {
    table = readTable(zone, year);
    tables.set(key, table);
  }
  return table;
}

function yearOfMinute(at: EpochMinute): number {
  return new Date(at * 60_000).getUTCFullYear();
}

/** Minutes to add to UTC to get the zone's wall clock at an instant. Throws `RangeError` for an unknown zone. */
export function offsetAt(zone: ZoneId, at: EpochMinute): number {
  const table = tableFor(zone, yearOfMinute(at));
  for (let i = table.length - 1; i > 0; i--) if (table[i].from <= at) return table[i].offsetMin;
  return table[0].offsetMin;
}

/**
 * Wall clock to instant. A wall time that is skipped (spring) gives the later instant, one that comes twice
 * (autumn) the earlier: the `compatible` disambiguation of Temporal.
 * @example wallToEpoch('America/Chicago', '2026-03-08', 150) is 03:30 CDT, for 02:30 does not exist
 */
export function wallToEpoch(zone: ZoneId, date: LocalDate, minute: WallMinute): EpochMinute {
  const local = dayNumber(date) * DAY_MIN + minute;
  const before = offsetAt(zone, local - DAY_MIN);
  const after = offsetAt(zone, local + DAY_MIN);
  if (before === after) return local - before;
  const early = local - Math.max(before, after);
  const late = local - Math.min(before, after);
  if (offsetAt(zone, early) === local - early) return early;
  if (offsetAt(zone, late) === local - late) return late;
  // In the gap: read with the offset before the change, which lands after it.
  return local - before;
}

/** Instant to wall clock. */
export function epochToWall(zone: ZoneId, at: EpochMinute): { date: LocalDate; minute: WallMinute } {
  const local = at + offsetAt(zone, at);
  const day = Math.floor(local / DAY_MIN);
  return { date: dateOfDay(day), minute: local - day * DAY_MIN };
}

/** One calendar day in one zone, cut into five-minute cells from local midnight: 288, or 276 or 300 when clocks change. */
export interface ZoneDay {
  readonly zone: ZoneId;
  readonly date: LocalDate;
  /** Days from 1970-01-01 to the date. */
  readonly number: number;
  readonly weekday: Weekday;
  /** Local midnight. */
  readonly start: EpochMinute;
  /** The next local midnight. */
  readonly end: EpochMinute;
  readonly cells: number;
  /** Wall minute shown at the start of each cell. */
  readonly wallOfCell: Int16Array;
}

const days = new Map<ZoneId, Map<LocalDate, ZoneDay>>();
/** Of each zone; some 27 years. */
const MAX_CACHED_DAYS = 10_000;

/** The day's cells in a zone (cached). */
export function zoneDay(zone: ZoneId, date: LocalDate): ZoneDay {
  let ofZone = days.get(zone);
  const known = ofZone?.get(date);
  if (known) return known;
  const start = wallToEpoch(zone, date, 0);
  const end = wallToEpoch(zone, addDays(date, 1), 0);
  const cells = (end - start) / CELL_MIN;
  const wallOfCell = new Int16Array(cells);
  for (let cell = 0; cell < cells; cell++) wallOfCell[cell] = epochToWall(zone, start + cell * CELL_MIN).minute;
  const day: ZoneDay = { zone, date, number: dayNumber(date), weekday: weekdayOf(date), start, end, cells, wallOfCell };
  if (!ofZone || ofZone.size >= MAX_CACHED_DAYS) {
    ofZone = new Map();
    days.set(zone, ofZone);
  }
  ofZone.set(date, day);
  return day;
}

/**
 * The cell in which a wall minute of that day falls (`compatible`); 1440 gives the number of cells. A minute that is
 * skipped at the very end of a day (America/Nuuk in March) is that end, and never one of tomorrow.
 */
export function cellOfWall(day: ZoneDay, minute: WallMinute): number {
  if (minute >= DAY_MIN) return day.cells;
  if (day.cells * CELL_MIN === DAY_MIN) return Math.floor(minute / CELL_MIN);
  return Math.min(day.cells, Math.floor((wallToEpoch(day.zone, day.date, minute) - day.start) / CELL_MIN));
}

/** What the wall clock shows where a cell begins; the end of the day is 1440. */
export function wallAt(day: ZoneDay, cell: number): WallMinute {
  return cell >= day.cells ? DAY_MIN : day.wallOfCell[cell];
}

/** Stretches of a mask on the day's wall clock. */
export function wallSpansOf(day: ZoneDay, mask: Mask): { fromMinute: WallMinute; toMinute: WallMinute }[] {
  return runsOf(mask).map(({ fromCell, toCell }) => ({
    fromMinute: wallAt(day, fromCell),
    toMinute: wallAt(day, toCell),
  }));
}

/** The instant at which a cell starts. */
export function epochOfCell(day: ZoneDay, cell: number): EpochMinute {
  return day.start + cell * CELL_MIN;
}

/**
 * Whether the machine knows a zone by this name. An offset (`+05:30`) has no name: it does not say when clocks change,
 * and PostgreSQL reads its sign the other way around (POSIX).
 */
export function isZone(zone: string): boolean {
  if (!/^[a-z]/i.test(zone)) return false;
  try {
    offsetAt(zone, 0);
    return true;
  } catch {
    return false;
  }
}
