import {
  closedCells,
  type Occupied,
  type Pool,
  type Resource,
  type ResourceDay,
  type ResourcePlan,
  resolveResourceDay,
  type Site,
  siteOpenCells,
} from '../availability/index.ts';
import {
  addRangeInto,
  CELL_MIN,
  type EpochMinute,
  emptyMask,
  type LocalDate,
  type Mask,
  type ZoneDay,
  zoneDay,
} from '../time/index.ts';
import type { BookedVisit, VisitType } from '../visits/index.ts';
import type { ClinicSnapshot } from './snapshot.ts';

const DAY_MIN = 1440;

/** Look-ups over a snapshot, and the days worked out from it so far. Made once per search, thrown away with it. */
export class ClinicIndex {
  readonly snapshot: ClinicSnapshot;
  readonly now: EpochMinute;
  private readonly sites: Map<string, Site>;
  private readonly types: Map<string, VisitType>;
  private readonly resources: Map<string, Resource>;
  private readonly plans = new Map<string, ResourcePlan>();
  private readonly resourceDays = new Map<string, ResourceDay>();
  private readonly siteDays = new Map<string, { open: Mask; closed: Mask }>();
  private readonly occupied = new Map<string, Occupied[]>();
  private readonly visitsOfProvider = new Map<string, BookedVisit[]>();
  private readonly visitsOfDate = new Map<LocalDate, BookedVisit[]>();

  /** @param now the instant at which the question is asked */
  constructor(snapshot: ClinicSnapshot, now: EpochMinute) {
    this.snapshot = snapshot;
    this.now = now;
    this.sites = byId(snapshot.sites);
    this.types = byId(snapshot.visitTypes);
    this.resources = byId(snapshot.resources);
    for (const row of snapshot.occupied) {
      for (let day = utcDay(row.start); day <= utcDay(row.end - 1); day++)
        push(this.occupied, `${row.resourceId}|${day}`, row);
    }
    for (const visit of snapshot.visits) {
      push(this.visitsOfDate, visit.date, visit);
      if (visit.providerId) push(this.visitsOfProvider, `${visit.providerId}|${utcDay(visit.start)}`, visit);
    }
  }

  /** Throws `RangeError` when the snapshot does not hold it: the caller loaded too little. */
  site(id: string): Site {
    return known(this.sites.get(id), 'site');
  }

  visitType(id: string): VisitType {
    return known(this.types.get(id), 'visit type');
  }

  resource(id: string): Resource {
    return known(this.resources.get(id), 'resource');
  }

  pool(siteId: string, kind: string): Pool | undefined {
    return this.snapshot.pools.find((pool) => pool.siteId === siteId && pool.kind === kind);
  }

  day(siteId: string, date: LocalDate): ZoneDay {
    return zoneDay(this.site(siteId).zone, date);
  }

  /** The site's weekly opening cells and the cells in which a closure shuts it. */
  siteDay(siteId: string, date: LocalDate): { open: Mask; closed: Mask } {
    const key = `${siteId}|${date}`;
    let found = this.siteDays.get(key);
    if (!found) {
      const day = this.day(siteId, date);
      found = {
        open: siteOpenCells(day, siteId, this.snapshot.siteHours),
        closed: closedCells(day, siteId, this.snapshot.closures),
      };
      this.siteDays.set(key, found);
    }
    return found;
  }

  /** What is planned for a resource at a site on a date. */
  resourceDay(resourceId: string, siteId: string, date: LocalDate): ResourceDay {
    const key = `${resourceId}|${siteId}|${date}`;
    let found = this.resourceDays.get(key);
    if (!found) {
      found = resolveResourceDay(
        resourceId,
        siteId,
        this.day(siteId, date),
        this.plan(resourceId),
        this.siteDay(siteId, date).open,
      );
      this.resourceDays.set(key, found);
    }
    return found;
  }

  /** Stretches in which a resource is taken that touch a day; any place. */
  occupiedOn(resourceId: string, day: ZoneDay): Occupied[] {
    return this.around(this.occupied, resourceId, day).filter((row) => row.start < day.end && row.end > day.start);
  }

  /** Cells of the day in which one place of a resource is taken, rounded outward. */
  takenCells(resourceId: string, place: number, day: ZoneDay, ignoreVisitId: string | null): Mask {
    const mask = emptyMask();
    for (const row of this.occupiedOn(resourceId, day)) {
      if (row.place !== place || row.visitId === ignoreVisitId) continue;
      addRangeInto(mask, Math.floor((row.start - day.start) / CELL_MIN), Math.ceil((row.end - day.start) / CELL_MIN));
    }
    return mask;
  }

  /** A provider's visits that start on the day or on its neighbours (travel and gaps reach over midnight). */
  visitsNear(providerId: string, day: ZoneDay): BookedVisit[] {
    return this.around(this.visitsOfProvider, providerId, day);
  }

  /** Visits whose start has this date at their own site. */
  visitsOn(date: LocalDate): readonly BookedVisit[] {
    return this.visitsOfDate.get(date) ?? [];
  }

  private around<T>(map: Map<string, T[]>, id: string, day: ZoneDay): T[] {
    const rows = new Set<T>();
    for (let d = utcDay(day.start) - 1; d <= utcDay(day.end) + 1; d++)
      for (const row of map.get(`${id}|${d}`) ?? []) rows.add(row);
    return [...rows];
  }

  private plan(resourceId: string): ResourcePlan {
    let plan = this.plans.get(resourceId);
    if (!plan) {
      const s = this.snapshot;
      const pools = new Set(s.pools.filter((pool) => pool.memberIds.includes(resourceId)).map((pool) => pool.id));
      const mine = (subject: { of: string; id: string }) =>
        subject.of === 'resource' ? subject.id === resourceId : pools.has(subject.id);
      const kind = this.resource(resourceId).kind;
      plan = {
        sessions: s.sessions.filter((row) => mine(row.subject)),
        dateChanges: s.dateChanges.filter((row) => mine(row.subject)),
        timeOff: s.timeOff.filter((row) => row.resourceId === resourceId),
        keptFree: s.keptFree.filter((row) => row.resourceId === resourceId),
        brush: s.brush.filter((row) => row.resourceId === resourceId),
        thereWithoutHours: kind === 'room' || kind === 'equipment',
      };
      this.plans.set(resourceId, plan);
    }
    return plan;
  }
}

function utcDay(at: EpochMinute): number {
  return Math.floor(at / DAY_MIN);
}

function byId<T extends { readonly id: string }>(rows: readonly T[]): Map<string, T> {
  return new Map(rows.map((row) => [row.id, row]));
}

function push<K, T>(map: Map<K, T[]>, key: K, row: T): void {
  const rows = map.get(key);
  if (rows) rows.push(row);
  else map.set(key, [row]);
}

function known<T>(row: T | undefined, what: string): T {
  if (row === undefined) throw new RangeError(`The snapshot does not hold this ${what}.`);
  return row;
}
