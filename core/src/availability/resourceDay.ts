import { occursOnDay } from '../recurrence/index.ts';
import {
  addRangeInto,
  andNot,
  cellOfWall,
  emptyMask,
  fullMask,
  isEmpty,
  type LocalDate,
  type Mask,
  NO_CELLS,
  or,
  orInto,
  rangeMask,
  type ZoneDay,
} from '../time/index.ts';
import type {
  Accepts,
  BrushStroke,
  Closure,
  DateChange,
  KeptFree,
  Release,
  WorkingHours,
  HoursCap,
  SiteHours,
  TimeOff,
} from './types.ts';

/** Working hours as they stand on one date, after single-date changes, in cells. */
export interface Stretch {
  readonly fromCell: number;
  readonly toCell: number;
  /** The recurring hours this comes from, or the single-date change. */
  readonly sourceId: string;
  readonly places: number;
  readonly accepts: Accepts;
  readonly online: boolean;
  readonly release: Release | null;
  readonly caps: readonly HoursCap[];
}

/** All that is planned for one resource at one site on one date, before anything is booked. Masks are cells. */
export interface ResourceDay {
  readonly resourceId: string;
  /** Working hours after single-date changes, before time off. */
  readonly hours: Mask;
  /** The most visits at once that any stretch of the day allows, at least 1. */
  readonly places: number;
  /** The same where no stretch covers a cell: rooms and devices without hours; else 0. */
  readonly placesWithoutHours: number;
  /** Some stretch accepts more as it comes nearer: what is accepted then changes from day to day. */
  readonly releases: boolean;
  /** Recurring hours that a single-date change took away. */
  readonly changedAway: Mask;
  readonly changeIds: readonly string[];
  readonly timeOff: Mask;
  readonly keptFree: Mask;
  /** Cells the brush forces shown, and forces desk only. */
  readonly brushShown: Mask;
  readonly brushDesk: Mask;
  /** In order of precedence: a later stretch wins the cells it shares with an earlier one. */
  readonly stretches: readonly Stretch[];
  /** How many of them, from the first, a single-date change took away. */
  readonly removed: number;
  /** Index into `stretches` for each cell, -1 where none. */
  readonly stretchOfCell: Int16Array;
}

/** The plan rows that concern one resource (its own and its pools'); other dates and sites may be among them. */
export interface ResourcePlan {
  readonly workingHours: readonly WorkingHours[];
  readonly dateChanges: readonly DateChange[];
  readonly timeOff: readonly TimeOff[];
  readonly keptFree: readonly KeptFree[];
  readonly brush: readonly BrushStroke[];
  /** Rooms and equipment without hours of their own are there all day; people are not. */
  readonly thereWithoutHours: boolean;
  /** How many visits at once such a room or device takes. */
  readonly placesWithoutHours: number;
}

/** Cells of `day` covered by a wall-clock stretch from one date and minute to another, e.g. a week of leave. */
export function cellsOfSpan(
  day: ZoneDay,
  span: Pick<TimeOff, 'startDate' | 'startMinute' | 'endDate' | 'endMinute'>,
): Mask {
  if (span.startDate > day.date || span.endDate < day.date) return emptyMask();
  const from = span.startDate === day.date ? cellOfWall(day, span.startMinute) : 0;
  const to = span.endDate === day.date ? cellOfWall(day, span.endMinute) : day.cells;
  return rangeMask(from, to);
}

/** Cells in which the site is shut by a closure. */
export function closedCells(day: ZoneDay, siteId: string, closures: readonly Closure[]): Mask {
  const mask = emptyMask();
  for (const closure of closures) if (closure.siteId === siteId) orInto(mask, cellsOfSpan(day, closure));
  return mask;
}

/** Cells in which the site's weekly hours say open (closures not taken off). */
export function siteOpenCells(day: ZoneDay, siteId: string, hours: readonly SiteHours[]): Mask {
  const mask = emptyMask();
  for (const stretch of hours) {
    if (stretch.siteId !== siteId || !occursOnDay(stretch.rule, day)) continue;
    addRangeInto(mask, cellOfWall(day, stretch.fromMinute), cellOfWall(day, stretch.toMinute));
  }
  return mask;
}

function wallStretch(day: ZoneDay, fromMinute: number, toMinute: number) {
  return { fromCell: cellOfWall(day, fromMinute), toCell: cellOfWall(day, toMinute) };
}

function ofHours(hoursRow: WorkingHours): Omit<Stretch, 'fromCell' | 'toCell'> {
  const { id, places, accepts, online, release, caps } = hoursRow;
  return { sourceId: id, places, accepts, online, release, caps };
}

/**
 * Puts one resource's day together by the precedence of `docs/help/availability.md`:
 * time off > single-date change > recurring hours; kept-free stretches subtract (the rules do that).
 *
 * @param siteOpen the site's weekly opening cells, for hours that follow them
 */
export function resolveResourceDay(
  resourceId: string,
  siteId: string,
  day: ZoneDay,
  plan: ResourcePlan,
  siteOpen: Mask,
): ResourceDay {
  const recurring = emptyMask();
  const kept = emptyMask();
  const stretches: Stretch[] = [];
  const late: Stretch[] = [];
  const removed: Stretch[] = [];
  const changeIds: string[] = [];

  for (const hoursRow of plan.workingHours) {
    if (!occursOnDay(hoursRow.rule, day)) continue;
    const change = plan.dateChanges.find((c) => c.workingHoursId === hoursRow.id && c.date === day.date);
    const spans = hoursRow.siteId === siteId ? spansOf(hoursRow, day, siteOpen) : [];
    for (const span of spans) {
      addRangeInto(recurring, span.fromCell, span.toCell);
      (change ? removed : stretches).push({ ...span, ...ofHours(hoursRow) });
      if (!change) addRangeInto(kept, span.fromCell, span.toCell);
    }
    if (change) {
      if (spans.length) changeIds.push(change.id);
      const put = replaced(change, hoursRow, siteId, day);
      if (put) late.push(put);
    }
  }
  for (const change of plan.dateChanges) {
    if (change.workingHoursId !== null || change.date !== day.date) continue;
    const extra = replaced(change, null, siteId, day);
    if (extra) late.push(extra);
  }
  for (const stretch of late) addRangeInto(kept, stretch.fromCell, stretch.toCell);
  const allDay = plan.thereWithoutHours && plan.workingHours.length === 0 && late.length === 0;
  const hours = allDay ? fullMask(day.cells) : kept;
  const placesWithoutHours = allDay ? plan.placesWithoutHours : 0;
  const all = [...removed, ...stretches, ...late];
  return {
    resourceId,
    hours,
    places: all.reduce((max, stretch) => Math.max(max, stretch.places), Math.max(1, placesWithoutHours)),
    placesWithoutHours,
    releases: all.some((stretch) => stretch.release !== null),
    changedAway: orShared(andNot(recurring, hours)),
    changeIds,
    timeOff: orShared(timeOffCells(plan.timeOff, siteId, day)),
    keptFree: orShared(keptFreeCells(plan.keptFree, siteId, day)),
    ...brushCells(plan.brush, siteId, day),
    stretches: all,
    removed: removed.length,
    stretchOfCell: cellIndex(all, day.cells),
  };
}

/** Most masks of most days are empty: they share one. */
function orShared(mask: Mask): Mask {
  return isEmpty(mask) ? NO_CELLS : mask;
}

/** Bits of a number that a key may use. */
const MAX_ROWS = 30;

/**
 * A key under which days resolve alike (which recurring rows hold, nothing else), or `null` for a date of its own:
 * with a change, time off, a stroke of the brush, hours that follow the site's, or a change of clocks.
 */
export function dayPattern(plan: ResourcePlan, day: ZoneDay): number | null {
  const { date } = day;
  if (day.end - day.start !== 1440 || plan.workingHours.length + plan.keptFree.length > MAX_ROWS) return null;
  for (const row of plan.timeOff) if (row.startDate <= date && row.endDate >= date) return null;
  for (const row of plan.dateChanges) if (row.date === date) return null;
  for (const row of plan.brush) if (row.date === date) return null;
  let key = 0;
  let bit = 1;
  for (const hoursRow of plan.workingHours) {
    if (hoursRow.followsSiteHours) return null;
    if (occursOnDay(hoursRow.rule, day)) key |= bit;
    bit <<= 1;
  }
  for (const row of plan.keptFree) {
    if (occursOnDay(row.rule, day)) key |= bit;
    bit <<= 1;
  }
  return key;
}

function spansOf(hoursRow: WorkingHours, day: ZoneDay, siteOpen: Mask): { fromCell: number; toCell: number }[] {
  if (!hoursRow.followsSiteHours) return [wallStretch(day, hoursRow.fromMinute, hoursRow.toMinute)];
  const spans: { fromCell: number; toCell: number }[] = [];
  for (let cell = 0; cell < day.cells; cell++) {
    if (!(siteOpen[cell >>> 5] & (1 << (cell & 31)))) continue;
    const last = spans.at(-1);
    if (last && last.toCell === cell) last.toCell = cell + 1;
    else spans.push({ fromCell: cell, toCell: cell + 1 });
  }
  return spans;
}

function replaced(change: DateChange, hoursRow: WorkingHours | null, siteId: string, day: ZoneDay): Stretch | null {
  const hours = change.hours;
  if (!hours || hours.siteId !== siteId) return null;
  return {
    ...wallStretch(day, hours.fromMinute, hours.toMinute),
    sourceId: change.id,
    places: hours.places,
    accepts: hours.accepts,
    online: hours.online,
    release: hoursRow?.release ?? null,
    caps: hoursRow?.caps ?? [],
  };
}

function cellIndex(stretches: readonly Stretch[], cells: number): Int16Array {
  const index = new Int16Array(cells).fill(-1);
  for (const [i, stretch] of stretches.entries()) index.fill(i, stretch.fromCell, stretch.toCell);
  return index;
}

function timeOffCells(rows: readonly TimeOff[], siteId: string, day: ZoneDay): Mask {
  const mask = emptyMask();
  for (const row of rows) if (row.siteId === null || row.siteId === siteId) orInto(mask, cellsOfSpan(day, row));
  return mask;
}

function keptFreeCells(rows: readonly KeptFree[], siteId: string, day: ZoneDay): Mask {
  const mask = emptyMask();
  for (const row of rows) {
    if (row.siteId !== null && row.siteId !== siteId) continue;
    if (occursOnDay(row.rule, day)) addRangeInto(mask, cellOfWall(day, row.fromMinute), cellOfWall(day, row.toMinute));
  }
  return mask;
}

function brushCells(rows: readonly BrushStroke[], siteId: string, day: ZoneDay): { brushShown: Mask; brushDesk: Mask } {
  let brushShown = emptyMask();
  let brushDesk = emptyMask();
  const strokes = rows
    .filter((row) => row.siteId === siteId && row.date === (day.date as LocalDate))
    .sort((a, b) => a.order - b.order);
  for (const stroke of strokes) {
    const cells = rangeMask(cellOfWall(day, stroke.fromMinute), cellOfWall(day, stroke.toMinute));
    brushShown = stroke.value === 'shown' ? or(brushShown, cells) : andNot(brushShown, cells);
    brushDesk = stroke.value === 'desk-only' ? or(brushDesk, cells) : andNot(brushDesk, cells);
  }
  return { brushShown: orShared(brushShown), brushDesk: orShared(brushDesk) };
}
