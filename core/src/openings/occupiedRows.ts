import type { Occupied } from '../availability/index.ts';
import type { EpochMinute, ZoneDay } from '../time/index.ts';

const DAY_MIN = 1440;
/** Days from 1970-01-01 that a key leaves room for: to the year 5840. */
const DAYS_IN_KEY = 2 ** 21;
const NONE = -1;

/** The UTC day an instant lies in: only a drawer to keep rows in, never a date. */
export function utcDay(at: EpochMinute): number {
  return Math.floor(at / DAY_MIN);
}

/** Numbers for texts, each kept once. */
class Names {
  private readonly numbers = new Map<string, number>();
  private readonly texts: string[] = [];

  find(text: string): number {
    return this.numbers.get(text) ?? NONE;
  }

  add(text: string): number {
    let number = this.numbers.get(text);
    if (number === undefined) {
      number = this.texts.push(text) - 1;
      this.numbers.set(text, number);
    }
    return number;
  }

  text(number: number): string {
    return this.texts[number];
  }
}

/**
 * What is taken, as columns of numbers: a clinic of a thousand has a million such rows, and as objects they would be
 * most of the memory. Rows are chained by resource and UTC day of their start, and by visit.
 */
export class OccupiedRows {
  private readonly resources = new Names();
  private readonly visits = new Names();
  private resource: Int32Array<ArrayBuffer>;
  private start: Int32Array<ArrayBuffer>;
  private end: Int32Array<ArrayBuffer>;
  private visit: Int32Array<ArrayBuffer>;
  /** The next row in the same drawer; of a row taken out, the next one that is free to be used. */
  private next: Int32Array<ArrayBuffer>;
  private nextOfVisit: Int32Array<ArrayBuffer>;
  private used = 0;
  private unused = NONE;
  private readonly firstIn = new Map<number, number>();
  private readonly firstOfVisit: number[] = [];
  /** How many days the longest row of a resource reaches beyond the one it starts on. */
  private readonly reach: number[] = [];

  constructor(rows: readonly Occupied[]) {
    const room = Math.max(16, rows.length + (rows.length >> 3));
    this.resource = new Int32Array(room);
    this.start = new Int32Array(room);
    this.end = new Int32Array(room);
    this.visit = new Int32Array(room);
    this.next = new Int32Array(room);
    this.nextOfVisit = new Int32Array(room);
    for (const row of rows) this.add(row);
  }

  add({ resourceId, start, end, visitId }: Occupied): void {
    const row = this.newRow();
    const resource = this.resources.add(resourceId);
    const visit = this.visits.add(visitId);
    const day = utcDay(start);
    const drawer = resource * DAYS_IN_KEY + day;
    this.resource[row] = resource;
    this.start[row] = start;
    this.end[row] = end;
    this.visit[row] = visit;
    this.next[row] = this.firstIn.get(drawer) ?? NONE;
    this.firstIn.set(drawer, row);
    this.nextOfVisit[row] = this.firstOfVisit[visit] ?? NONE;
    this.firstOfVisit[visit] = row;
    this.reach[resource] = Math.max(this.reach[resource] ?? 0, utcDay(end - 1) - day);
  }

  /** Takes out all rows of a visit, a hold or an imported busy time, and gives them back. */
  removeOf(visitId: string): Occupied[] {
    const visit = this.visits.find(visitId);
    const removed: Occupied[] = [];
    if (visit === NONE) return removed;
    for (let row = this.firstOfVisit[visit]; row !== NONE; ) {
      removed.push(this.read(row));
      this.unchain(row);
      const after = this.nextOfVisit[row];
      this.next[row] = this.unused;
      this.unused = row;
      row = after;
    }
    this.firstOfVisit[visit] = NONE;
    return removed;
  }

  /** Calls back with each row of a resource that touches a day. */
  forEachOn(
    resourceId: string,
    day: ZoneDay,
    found: (start: EpochMinute, end: EpochMinute, visitId: string) => void,
  ): void {
    const resource = this.resources.find(resourceId);
    if (resource === NONE) return;
    const last = utcDay(day.end - 1);
    for (let d = utcDay(day.start) - this.reach[resource]; d <= last; d++) {
      let row = this.firstIn.get(resource * DAYS_IN_KEY + d) ?? NONE;
      for (; row !== NONE; row = this.next[row])
        if (this.start[row] < day.end && this.end[row] > day.start)
          found(this.start[row], this.end[row], this.visits.text(this.visit[row]));
    }
  }

  /** The rows of a visit, a hold or an imported busy time. */
  rowsOf(visitId: string): Occupied[] {
    const visit = this.visits.find(visitId);
    const rows: Occupied[] = [];
    if (visit === NONE) return rows;
    for (let row = this.firstOfVisit[visit]; row !== NONE; row = this.nextOfVisit[row]) rows.push(this.read(row));
    return rows;
  }

  private read(row: number): Occupied {
    return {
      resourceId: this.resources.text(this.resource[row]),
      start: this.start[row],
      end: this.end[row],
      visitId: this.visits.text(this.visit[row]),
    };
  }

  private unchain(row: number): void {
    const drawer = this.resource[row] * DAYS_IN_KEY + utcDay(this.start[row]);
    let at = this.firstIn.get(drawer) ?? NONE;
    if (at === row) {
      if (this.next[row] === NONE) this.firstIn.delete(drawer);
      else this.firstIn.set(drawer, this.next[row]);
      return;
    }
    while (at !== NONE && this.next[at] !== row) at = this.next[at];
    if (at !== NONE) this.next[at] = this.next[row];
  }

  private newRow(): number {
    if (this.unused !== NONE) {
      const row = this.unused;
      this.unused = this.next[row];
      return row;
    }
    if (this.used === this.start.length) this.grow();
    return this.used++;
  }

  private grow(): void {
    const wider = (column: Int32Array<ArrayBuffer>) => {
      const more = new Int32Array(column.length * 2);
      more.set(column);
      return more;
    };
    this.resource = wider(this.resource);
    this.start = wider(this.start);
    this.end = wider(this.end);
    this.visit = wider(this.visit);
    this.next = wider(this.next);
    this.nextOfVisit = wider(this.nextOfVisit);
  }
}
