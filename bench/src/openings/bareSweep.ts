import {
  addRangeInto,
  andInto,
  CELL_MIN,
  cellOfWall,
  datesFrom,
  emptyMask,
  epochOfCell,
  erodeFrom,
  type Mask,
  orInto,
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
  /** Lanes of a resource: its first and second, -1 for none. */
  readonly lanesOf: Int32Array;
  readonly hours: {
    readonly lane: Int32Array;
    readonly weekday: Int8Array;
    readonly from: Int16Array;
    readonly to: Int16Array;
  };
  readonly off: ReadonlySet<number>;
  readonly busy: { readonly resource: Int32Array; readonly start: Int32Array; readonly end: Int32Array };
}

/** Free cells of every lane and day. */
export interface BareClinic {
  readonly columns: Columns;
  readonly free: Mask;
  /** Starts on the grid within anyone's hours, and where in the mask they lie. */
  readonly grid: readonly (readonly Mask[])[];
  readonly ranges: readonly (readonly WordRange[])[];
}

const DAY_MIN = 1440;

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
  for (const session of snapshot.sessions) addLane(session.subject.id, session.siteId);
  const providers = lanes.length;
  for (const pool of snapshot.pools) for (const room of pool.memberIds) addLane(room, pool.siteId);
  const lanesOf = new Int32Array(resources.length * 2).fill(-1);
  lanes.forEach(({ resource }, lane) => {
    lanesOf[resource * 2 + (lanesOf[resource * 2] < 0 ? 0 : 1)] = lane;
  });
  const hours = snapshot.sessions.flatMap((row) =>
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
    lanesOf,
    hours: {
      lane: Int32Array.from(hours.map((row) => row.lane)),
      weekday: Int8Array.from(hours.map((row) => row.weekday)),
      from: Int16Array.from(hours.map((row) => row.from)),
      to: Int16Array.from(hours.map((row) => row.to)),
    },
    off: new Set(
      snapshot.timeOff.map(
        (row) => (number.get(row.resourceId) ?? -1) * DAY_MIN + zoneDay('UTC', row.startDate).number - first,
      ),
    ),
    busy: {
      resource: Int32Array.from(snapshot.occupied.map((row) => number.get(row.resourceId) ?? -1)),
      start: Int32Array.from(snapshot.occupied.map((row) => row.start)),
      end: Int32Array.from(snapshot.occupied.map((row) => row.end)),
    },
  };
}

/** Builds the free cells from the rows. */
export function buildBare(columns: Columns): BareClinic {
  const { days, lanes, hours, weekdays } = columns;
  const count = weekdays.length;
  const free = new Int32Array(lanes.resource.length * count * WORDS);
  const cells = emptyMask();
  const worked = days.map((ofSite) => ofSite.map(() => emptyMask()));
  for (let i = 0; i < hours.lane.length; i++) {
    const lane = hours.lane[i];
    const resource = lanes.resource[lane];
    for (let d = 0; d < count; d++) {
      if (weekdays[d] !== hours.weekday[i] || columns.off.has(resource * DAY_MIN + d)) continue;
      const day = days[lanes.site[lane]][d];
      cells.fill(0);
      addRangeInto(cells, cellOfWall(day, hours.from[i]), cellOfWall(day, hours.to[i]));
      // The room is taken a little before the provider comes.
      addRangeInto(
        worked[lanes.site[lane]][d],
        cellOfWall(day, hours.from[i] - AROUND_MIN),
        cellOfWall(day, hours.to[i]),
      );
      const at = (lane * count + d) * WORDS;
      for (let w = 0; w < WORDS; w++) free[at + w] |= cells[w];
    }
  }
  for (let lane = lanes.providers; lane < lanes.resource.length; lane++)
    for (let d = 0; d < count; d++) {
      cells.fill(0);
      addRangeInto(cells, 0, days[lanes.site[lane]][d].cells);
      free.set(cells, (lane * count + d) * WORDS);
    }
  takeBusy(columns, free);
  const grid = days.map((ofSite, site) =>
    ofSite.map((day, d) => {
      const starts = gridOf(day);
      andInto(starts, worked[site][d]);
      return starts;
    }),
  );
  return { columns, free, grid, ranges: grid.map((ofSite) => ofSite.map(wordRange)) };
}

function takeBusy({ days, lanes, lanesOf, busy, weekdays }: Columns, free: Mask): void {
  const count = weekdays.length;
  const starts = days.map((ofSite) => Int32Array.from([...ofSite.map((day) => day.start), ofSite[count - 1].end]));
  for (let i = 0; i < busy.resource.length; i++) {
    const from = busy.start[i];
    const to = busy.end[i];
    for (let k = 0; k < 2; k++) {
      const lane = lanesOf[busy.resource[i] * 2 + k];
      if (lane < 0) break;
      const dayStarts = starts[lanes.site[lane]];
      let d = Math.min(count - 1, Math.max(0, ((from - dayStarts[0]) / DAY_MIN) | 0));
      if (from < dayStarts[d] && d > 0) d--;
      // A stretch over midnight is taken off both days.
      for (; d < count && dayStarts[d] < to; d++) {
        const first = Math.max(0, (from - dayStarts[d]) / CELL_MIN);
        clear(free, (lane * count + d) * WORDS, first, Math.min((to - dayStarts[d]) / CELL_MIN, WORDS * 32));
      }
    }
  }
}

function clear(free: Mask, at: number, from: number, to: number): void {
  for (let cell = from; cell < to; ) {
    const low = cell & 31;
    const high = Math.min(32, to - (cell - low));
    free[at + (cell >>> 5)] &= ~(high - low === 32 ? -1 : ((1 << (high - low)) - 1) << low);
    cell += high - low;
  }
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
  const count = weekdays.length;
  const visit = VISIT_MIN / CELL_MIN;
  const around = AROUND_MIN / CELL_MIN;
  const starts = emptyMask();
  const rooms = days.map((ofSite) => ofSite.map(() => emptyMask()));
  for (let lane = lanes.providers; lane < lanes.resource.length; lane++)
    for (let d = 0; d < count; d++) {
      const range = ranges[lanes.site[lane]][d];
      if (range.last < range.first) continue;
      erodeFrom(starts, free, (lane * count + d) * WORDS, visit + 2 * around, 0, range);
      orInto(rooms[lanes.site[lane]][d], starts);
    }
  for (let lane = 0; lane < lanes.providers; lane++) {
    const site = lanes.site[lane];
    for (let d = 0; d < count; d++) {
      const range = ranges[site][d];
      if (range.last < range.first) continue;
      starts.fill(0);
      erodeFrom(starts, free, (lane * count + d) * WORDS, visit, around, range);
      andInto(starts, rooms[site][d]);
      andInto(starts, grid[site][d]);
      emit(starts, lanes.resource[lane], days[site][d], found);
    }
  }
}

function emit(starts: Mask, resource: number, day: ZoneDay, found: (resource: number, start: number) => void): void {
  for (let w = 0; w < WORDS; w++) {
    for (let word = starts[w]; word !== 0; word &= word - 1)
      found(resource, epochOfCell(day, (w << 5) + 31 - Math.clz32(word & -word)));
  }
}
