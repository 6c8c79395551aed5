import type { Occupied } from '../availability/index.ts';
import type { LocalDate, ZoneDay } from '../time/index.ts';
import type { BookedVisit } from '../visits/index.ts';
import { capBucket } from './capBucket.ts';
import { OccupiedRows, utcDay } from './occupiedRows.ts';
import type { Cap } from './snapshot.ts';

const NOWHERE: ReadonlySet<string> = new Set();
const NONE: readonly never[] = [];

type ByDay<T> = Map<number, T[]>;

/** A provider's visits in short: with no buffer anywhere and one site only, no gap can be too short. */
interface Gaps {
  widestMin: number;
  readonly siteIds: Set<string>;
}

/** Everything that is booked, held or imported as busy, kept so that it can change one visit at a time. */
export class Taken {
  private readonly rows: OccupiedRows;
  private readonly byProvider = new Map<string, ByDay<BookedVisit>>();
  private readonly byDate = new Map<LocalDate, BookedVisit[]>();
  private readonly byPatient = new Map<string, BookedVisit[]>();
  private readonly gaps = new Map<string, Gaps>();
  private readonly counts = new Map<LocalDate, Map<string, number>>();
  private readonly caps: readonly Cap[];
  private byId: Map<string, BookedVisit> | null = null;

  constructor(caps: readonly Cap[], occupied: readonly Occupied[], visits: readonly BookedVisit[]) {
    this.caps = caps;
    this.rows = new OccupiedRows(occupied);
    for (const visit of visits) this.addVisit(visit);
  }

  /** Takes in a visit, a hold or (without one) an imported busy time. What stood under its id must be out. */
  put(id: string, visit: BookedVisit | null, occupied: readonly Occupied[]): void {
    if (visit) this.visits().set(id, this.addVisit(visit));
    for (const row of occupied) this.rows.add(row);
  }

  /** Takes out what stands under an id; gives back what it took. */
  drop(id: string): Occupied[] {
    const visit = this.visits().get(id);
    if (visit) {
      this.visits().delete(id);
      this.removeVisit(visit);
    }
    return this.rows.removeOf(id);
  }

  /** By id, once something changes: a store that is only read never needs it. */
  private visits(): Map<string, BookedVisit> {
    this.byId ??= new Map([...this.byDate.values()].flat().map((visit) => [visit.id, visit]));
    return this.byId;
  }

  private addVisit(given: BookedVisit): BookedVisit {
    const visit = inOneShape(given);
    push(this.byDate, visit.date, visit);
    this.counts.delete(visit.date);
    if (visit.patientId) push(this.byPatient, visit.patientId, visit);
    if (visit.providerId) this.addToProvider(visit, visit.providerId);
    return visit;
  }

  private addToProvider(visit: BookedVisit, providerId: string): void {
    push(drawer(this.byProvider, providerId), utcDay(visit.start), visit);
    const gaps = this.gaps.get(providerId);
    const widestMin = Math.max(visit.beforeMin, visit.afterMin);
    if (!gaps) this.gaps.set(providerId, { widestMin, siteIds: new Set([visit.siteId]) });
    else {
      gaps.widestMin = Math.max(gaps.widestMin, widestMin);
      gaps.siteIds.add(visit.siteId);
    }
  }

  /** The summary of gaps stays as wide as it was: it may only err towards looking closely. */
  private removeVisit(visit: BookedVisit): void {
    remove(this.byDate.get(visit.date), visit);
    this.counts.delete(visit.date);
    if (visit.patientId) remove(this.byPatient.get(visit.patientId), visit);
    if (visit.providerId) remove(this.byProvider.get(visit.providerId)?.get(utcDay(visit.start)), visit);
  }

  /** Calls back with each stretch in which a resource is taken that touches a day. */
  forEachOn(...asked: Parameters<OccupiedRows['forEachOn']>): void {
    this.rows.forEachOn(...asked);
  }

  /** A provider's visits that start on the day or on its neighbors (travel and gaps reach over midnight). */
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

  /** The stretches a visit, hold or import takes. */
  occupiedBy(id: string): Occupied[] {
    return this.rows.rowsOf(id);
  }

  /** The visit or hold with this id. */
  visit(id: string): BookedVisit | null {
    return this.visits().get(id) ?? null;
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

/** A copy that takes a fifth of the memory of an object put together from others: there may be a million. */
function inOneShape(visit: BookedVisit): BookedVisit {
  return {
    id: visit.id,
    visitTypeId: visit.visitTypeId,
    siteId: visit.siteId,
    providerId: visit.providerId,
    patientId: visit.patientId,
    kind: visit.kind,
    selfBooked: visit.selfBooked,
    start: visit.start,
    end: visit.end,
    providerStart: visit.providerStart,
    providerEnd: visit.providerEnd,
    beforeMin: visit.beforeMin,
    afterMin: visit.afterMin,
    date: visit.date,
    parts: visit.parts ?? null,
    waived: visit.waived ?? null,
  };
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
