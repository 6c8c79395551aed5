import {
  addRuns,
  CELL_MIN,
  cellOfWall,
  datesFrom,
  type EpochMinute,
  emptyMask,
  epochOfCell,
  keepRuns,
  type Mask,
  WORDS,
  type WordRange,
  wordRange,
  weekdayOf,
  type ZoneDay,
  zoneDay,
} from '@zaguan/core/time';
import { AROUND_MIN, GRID_MIN, VISIT_MIN, type Workload } from './workload.ts';

/** The workload as rows of whole numbers, as they would come out of a database: what building starts from. */
export interface Columns {
  readonly days: readonly (readonly ZoneDay[])[];
  /** Weekday of each day of the range. */
  readonly weekdays: Int8Array;
  /** Which resource, at which site, is a lane; providers first. */
  readonly lanes: { readonly resource: Int32Array; readonly site: Int8Array; readonly providers: number };
  readonly resources: number;
  readonly hours: {
    readonly lane: Int32Array;
    readonly weekday: Int8Array;
    readonly from: Int16Array;
    readonly to: Int16Array;
  };
  readonly off: { readonly resource: Int32Array; readonly day: Int16Array };
  readonly busy: { readonly resource: Int32Array; readonly start: Int32Array; readonly end: Int32Array };
}

/** Free cells of every day and lane: the lanes of a day lie side by side, for days are booked and swept one by one. */
export interface BareClinic {
  readonly columns: Columns;
  readonly free: Mask;
  /** Starts on the grid within anyone's hours, and where in the mask they lie. */
  readonly grid: readonly (readonly Mask[])[];
  readonly ranges: readonly (readonly WordRange[])[];
}

export function columnsOf({ snapshot, from, until }: Workload): Columns {
  const dates = datesFrom(from, until);
  const siteOf = new Map(snapshot.sites.map((site, i) => [site.id, i]));
  const resources = snapshot.resources.filter((row) => row.kind !== 'equipment');
  const number = new Map(resources.map((row, i) => [row.id, i]));
  const lanes: { resource: number; site: number }[] = [];
  const laneOf = new Map<string, number>();
  const addLane = (id: string, siteId: string) => {
    if (!laneOf.has(`${id}|${siteId}`))
      laneOf.set(`${id}|${siteId}`, lanes.push({ resource: number.get(id) ?? -1, site: siteOf.get(siteId) ?? -1 }) - 1);
  };
  for (const hoursRow of snapshot.workingHours) addLane(hoursRow.subject.id, hoursRow.siteId);
  const providers = lanes.length;
  for (const pool of snapshot.pools) for (const room of pool.memberIds) addLane(room, pool.siteId);
  const hours = snapshot.workingHours.flatMap((row) =>
    row.rule.weekdays.map((weekday) => ({
      lane: laneOf.get(`${row.subject.id}|${row.siteId}`) ?? -1,
      weekday,
      from: row.fromMinute,
      to: row.toMinute,
    })),
  );
  const first = zoneDay('UTC', from).number;
  return {
    days: snapshot.sites.map((site) => dates.map((date) => zoneDay(site.zone, date))),
    weekdays: Int8Array.from(dates.map(weekdayOf)),
    lanes: {
      resource: Int32Array.from(lanes.map((row) => row.resource)),
      site: Int8Array.from(lanes.map((row) => row.site)),
      providers,
    },
    resources: resources.length,
    hours: {
      lane: Int32Array.from(hours.map((row) => row.lane)),
      weekday: Int8Array.from(hours.map((row) => row.weekday)),
      from: Int16Array.from(hours.map((row) => row.from)),
      to: Int16Array.from(hours.map((row) => row.to)),
    },
    off: {
      resource: Int32Array.from(snapshot.timeOff.map((row) => number.get(row.resourceId) ?? -1)),
      day: Int16Array.from(snapshot.timeOff.map((row) => zoneDay('UTC', row.startDate).number - first)),
    },
    busy: {
      resource: Int32Array.from(snapshot.occupied.map((row) => number.get(row.resourceId) ?? -1)),
      start: Int32Array.from(snapshot.occupied.map((row) => row.start)),
      end: Int32Array.from(snapshot.occupied.map((row) => row.end)),
    },
  };
}

/** Builds the free cells from the rows. */
export function buildBare(columns: Columns): BareClinic {
  const { days, lanes, weekdays } = columns;
  const count = weekdays.length;
  const all = lanes.resource.length;
  const free: Mask = new Int32Array(all * count * WORDS);
  const worked: Mask = new Int32Array(days.length * count * WORDS);
  const busy = busyCells(columns);
  addHours(columns, busy, free, worked);
  for (let d = 0; d < count; d++)
    for (let lane = lanes.providers; lane < all; lane++) {
      const day = days[lanes.site[lane]][d];
      addFree(free, (d * all + lane) * WORDS, 0, day.cells, busy, lanes.resource[lane], day);
    }
  const everyDay = gridOf(days[0][0]);
  const grid = days.map((ofSite, site) =>
    ofSite.map((day, d) => {
      const starts = day.cells === days[0][0].cells ? everyDay.slice() : gridOf(day);
      for (let w = 0; w < WORDS; w++) starts[w] &= worked[(site * count + d) * WORDS + w];
      return starts;
    }),
  );
  return { columns, free, grid, ranges: grid.map((ofSite) => ofSite.map(wordRange)) };
}

/** What is booked, as one long row of cells for each resource, whatever its zones. */
interface BusyCells {
  readonly from: EpochMinute;
  readonly words: number;
  readonly bits: Int32Array;
}

function busyCells({ days, resources, busy }: Columns): BusyCells {
  const from = Math.min(...days.map((ofSite) => ofSite[0].start));
  const until = Math.max(...days.map((ofSite) => ofSite[ofSite.length - 1].end));
  // Reading a day's last word takes two.
  const words = (((until - from) / CELL_MIN) >>> 5) + WORDS + 2;
  const max = words * 32;
  const bits = new Int32Array(resources * words);
  for (let i = 0; i < busy.resource.length; i++) {
    const first = Math.max(0, cellsIn(busy.start[i] - from));
    const last = Math.min(max, cellsIn(busy.end[i] - from));
    addCells(bits, busy.resource[i] * words, first, last);
  }
  return { from, words, bits };
}

/** Adds what people work and is not booked to their free cells, and the hours to those of the site-day: `worked`. */
function addHours({ days, lanes, hours, weekdays, off }: Columns, busy: BusyCells, free: Mask, worked: Mask): void {
  const count = weekdays.length;
  const all = lanes.resource.length;
  const away = new Uint8Array(all * count);
  for (let i = 0; i < off.resource.length; i++) away[off.resource[i] * count + off.day[i]] = 1;
  for (let i = 0; i < hours.lane.length; i++) {
    const lane = hours.lane[i];
    const site = lanes.site[lane];
    const resource = lanes.resource[lane];
    for (let d = 0; d < count; d++) {
      if (weekdays[d] !== hours.weekday[i] || away[resource * count + d]) continue;
      const day = days[site][d];
      const from = cellOfWall(day, hours.from[i]);
      const to = cellOfWall(day, hours.to[i]);
      addFree(free, (d * all + lane) * WORDS, from, to, busy, resource, day);
      // The room is taken a little before the provider comes.
      addCells(worked, (site * count + d) * WORDS, cellOfWall(day, hours.from[i] - AROUND_MIN), to);
    }
  }
}

/** Adds the cells of a day that are not booked. */
function addFree(
  free: Mask,
  at: number,
  from: number,
  to: number,
  { bits, words, from: first }: BusyCells,
  resource: number,
  day: ZoneDay,
): void {
  const midnight = cellsIn(day.start - first);
  const shift = midnight & 31;
  const place = resource * words + (midnight >>> 5);
  for (let cell = from; cell < to; cell = (cell | 31) + 1) {
    const w = cell >>> 5;
    const low = bits[place + w];
    const taken = shift === 0 ? low : (low >>> shift) | (bits[place + w + 1] << (32 - shift));
    free[at + w] |= ones(cell, to) & ~taken;
  }
}

function cellsIn(minutes: number): number {
  return ((minutes | 0) / CELL_MIN) | 0;
}

function addCells(mask: Int32Array, at: number, from: number, to: number): void {
  const low = from & 31;
  // Most visits lie in one word.
  if (to > from && low + to - from < 32) mask[at + (from >>> 5)] |= ((1 << (to - from)) - 1) << low;
  else for (let cell = from; cell < to; cell = (cell | 31) + 1) mask[at + (cell >>> 5)] |= ones(cell, to);
}

/** The bits of a cell's word from the cell on, up to `to`. */
function ones(cell: number, to: number): number {
  const wanted = -1 << (cell & 31);
  const end = (cell | 31) + 1;
  return to >= end ? wanted : wanted & (-1 >>> (end - to));
}

function gridOf(day: ZoneDay): Mask {
  const grid = emptyMask();
  for (let cell = 0; cell < day.cells; cell++)
    if (day.wallOfCell[cell] % GRID_MIN === 0) grid[cell >>> 5] |= 1 << (cell & 31);
  return grid;
}

/** Every start: a room free for all of the visit, and the provider inside it. Calls back with each, in no promised order. */
export function sweepBare(
  { columns, free, grid, ranges }: BareClinic,
  found: (resource: number, start: number) => void,
): void {
  const { days, lanes, weekdays } = columns;
  const all = lanes.resource.length;
  const visit = VISIT_MIN / CELL_MIN;
  const around = AROUND_MIN / CELL_MIN;
  const starts = emptyMask();
  for (let d = 0; d < weekdays.length; d++) {
    const rooms = days.map(() => emptyMask());
    for (let lane = lanes.providers; lane < all; lane++) {
      const site = lanes.site[lane];
      const at = (d * all + lane) * WORDS;
      addRuns(rooms[site], grid[site][d], free, at, visit + 2 * around, 0, ranges[site][d]);
    }
    for (let lane = 0; lane < lanes.providers; lane++) {
      const site = lanes.site[lane];
      const range = ranges[site][d];
      if (keepRuns(starts, rooms[site], free, (d * all + lane) * WORDS, visit, around, range))
        emit(starts, range, lanes.resource[lane], days[site][d], found);
    }
  }
}

function emit(
  starts: Mask,
  { first, last }: WordRange,
  resource: number,
  day: ZoneDay,
  found: (resource: number, start: number) => void,
): void {
  for (let w = first; w <= last; w++) {
    for (let word = starts[w]; word !== 0; word &= word - 1)
      found(resource, epochOfCell(day, (w << 5) + 31 - Math.clz32(word & -word)));
  }
}
