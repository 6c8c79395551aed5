import type { Occupied } from '../availability/index.ts';
import type { EpochMinute, LocalDate, ZoneDay } from '../time/index.ts';
import type { BookedVisit } from '../visits/index.ts';
import { capBucket } from './capBucket.ts';
import type { Cap } from './snapshot.ts';

const DAY_MIN = 1440;
const NOWHERE: ReadonlySet<string> = new Set();
const NONE: readonly never[] = [];

type ByDay<T> = Map<number, T[]>;

/** A provider's visits in short: with no buffer anywhere and one site only, no gap can be too short. */
interface Gaps {
  widestMin: number;
  readonly siteIds: Set<string>;
}

/** The UTC day an instant lies in: only a drawer to keep rows in, never a date. */
export function utcDay(at: EpochMinute): number {
  return Math.floor(at / DAY_MIN);
}

/** Everything that is booked, held or imported as busy, kept so that it can change one visit at a time. */
export class Taken {
  private readonly byResource = new Map<string, ByDay<Occupied>>();
  private readonly byProvider = new Map<string, ByDay<BookedVisit>>();
  private readonly byDate = new Map<LocalDate, BookedVisit[]>();
  private readonly byPatient = new Map<string, BookedVisit[]>();
  private readonly gaps = new Map<string, Gaps>();
  private readonly counts = new Map<LocalDate, Map<string, number>>();
  private readonly caps: readonly Cap[];

  constructor(caps: readonly Cap[], occupied: readonly Occupied[], visits: readonly BookedVisit[]) {
    this.caps = caps;
    // Rows of one resource mostly follow each other: its drawer is looked up once.
    let resourceId = '';
    let days: ByDay<Occupied> = new Map();
    for (const row of occupied) {
      if (row.resourceId !== resourceId) {
        resourceId = row.resourceId;
        days = drawer(this.byResource, resourceId);
      }
      addByDays(days, row);
    }
    for (const visit of visits) this.addVisit(visit);
  }

  addVisit(visit: BookedVisit): void {
    push(this.byDate, visit.date, visit);
    this.counts.delete(visit.date);
    if (visit.patientId) push(this.byPatient, visit.patientId, visit);
    if (!visit.providerId) return;
    push(drawer(this.byProvider, visit.providerId), utcDay(visit.start), visit);
    const gaps = this.gaps.get(visit.providerId);
    const widestMin = Math.max(visit.beforeMin, visit.afterMin);
    if (!gaps) this.gaps.set(visit.providerId, { widestMin, siteIds: new Set([visit.siteId]) });
    else {
      gaps.widestMin = Math.max(gaps.widestMin, widestMin);
      gaps.siteIds.add(visit.siteId);
    }
  }

  /** The summary of gaps stays as wide as it was: it may only err towards looking closely. */
  removeVisit(visit: BookedVisit): void {
    remove(this.byDate.get(visit.date), visit);
    this.counts.delete(visit.date);
    if (visit.patientId) remove(this.byPatient.get(visit.patientId), visit);
    if (visit.providerId) remove(this.byProvider.get(visit.providerId)?.get(utcDay(visit.start)), visit);
  }

  addOccupied(row: Occupied): void {
    addByDays(drawer(this.byResource, row.resourceId), row);
  }

  removeOccupied(row: Occupied): void {
    const days = this.byResource.get(row.resourceId);
    for (let day = utcDay(row.start); day <= utcDay(row.end - 1); day++) remove(days?.get(day), row);
  }

  /** Stretches in which a resource is taken that touch a day, each once. */
  occupiedOn(resourceId: string, day: ZoneDay): Occupied[] {
    const days = this.byResource.get(resourceId);
    const found: Occupied[] = [];
    if (!days) return found;
    const first = utcDay(day.start);
    for (let d = first; d <= utcDay(day.end - 1); d++)
      for (const row of days.get(d) ?? NONE)
        if (row.start < day.end && row.end > day.start && (d === first || utcDay(row.start) === d)) found.push(row);
    return found;
  }

  /** A provider's visits that start on the day or on its neighbours (travel and gaps reach over midnight). */
  visitsNear(providerId: string, day: ZoneDay): BookedVisit[] {
    const days = this.byProvider.get(providerId);
    const found: BookedVisit[] = [];
    if (!days) return found;
    for (let d = utcDay(day.start) - 1; d <= utcDay(day.end) + 1; d++)
      for (const visit of days.get(d) ?? NONE) found.push(visit);
    return found;
  }

  /** Whether any visit of the provider asks a gap by itself. */
  asksGaps(providerId: string): boolean {
    return (this.gaps.get(providerId)?.widestMin ?? 0) > 0;
  }

  /** The sites at which a provider has visits (or had). */
  sitesOf(providerId: string): ReadonlySet<string> {
    return this.gaps.get(providerId)?.siteIds ?? NOWHERE;
  }

  /** Visits whose start has this date at their own site. */
  visitsOn(date: LocalDate): readonly BookedVisit[] {
    return this.byDate.get(date) ?? NONE;
  }

  visitsOfPatient(patientId: string): readonly BookedVisit[] {
    return this.byPatient.get(patientId) ?? NONE;
  }

  /** How many visits of a date fall into a cap's bucket. */
  countIn(bucket: string, date: LocalDate): number {
    let counts = this.counts.get(date);
    if (!counts) {
      counts = new Map();
      for (const visit of this.visitsOn(date)) {
        for (const cap of this.caps) {
          const key = capBucket(cap, visit);
          if (key !== null) counts.set(key, (counts.get(key) ?? 0) + 1);
        }
      }
      this.counts.set(date, counts);
    }
    return counts.get(bucket) ?? 0;
  }
}

function addByDays(days: ByDay<Occupied>, row: Occupied): void {
  const last = utcDay(row.end - 1);
  for (let day = utcDay(row.start); day <= last; day++) push(days, day, row);
}

function drawer<T>(map: Map<string, ByDay<T>>, id: string): ByDay<T> {
  let days = map.get(id);
  if (!days) {
    days = new Map();
    map.set(id, days);
  }
  return days;
}

function push<K, T>(map: Map<K, T[]>, key: K, row: T): void {
  const rows = map.get(key);
  if (rows) rows.push(row);
  else map.set(key, [row]);
}

function remove<T>(rows: T[] | undefined, row: T): void {
  const at = rows ? rows.indexOf(row) : -1;
  if (rows && at >= 0) rows.splice(at, 1);
}
