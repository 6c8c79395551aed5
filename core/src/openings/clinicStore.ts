import {
  closedCells,
  dayPattern,
  type Occupied,
  type Pool,
  type Resource,
  type ResourceDay,
  type ResourcePlan,
  resolveResourceDay,
  type Site,
  siteOpenCells,
} from '../availability/index.ts';
import { type LocalDate, type Mask, type ZoneDay, zoneDay } from '../time/index.ts';
import type { BookedVisit, VisitType } from '../visits/index.ts';
import { Lane } from './lane.ts';
import { type SettledPolicy, settlePolicy } from './policy.ts';
import type { ClinicPlan, ClinicSnapshot } from './snapshot.ts';
import { utcDay } from './occupiedRows.ts';
import { Taken } from './taken.ts';

/**
 * A clinic held in memory: its plan, what is taken, and the days worked out so far. It knows no "now", so that it can
 * live as long as nothing changes, and takes booked visits in and out one by one.
 */
export class ClinicStore {
  readonly plan: ClinicPlan;
  readonly taken: Taken;
  /** Whether any hours limit how many visits of a kind they take. */
  readonly hoursHaveCaps: boolean;
  private readonly sites: Map<string, Site>;
  private readonly types: Map<string, VisitType>;
  private readonly resources: Map<string, Resource>;
  private readonly plans = new Map<string, ResourcePlan>();
  private readonly lanes = new Map<string, Map<string, Lane>>();
  private readonly lanesOf = new Map<string, Lane[]>();
  private readonly siteDays = new Map<string, Map<LocalDate, { open: Mask; closed: Mask }>>();
  private readonly policies = new Map<string, Map<string | null, SettledPolicy>>();
  private readonly withOwnPolicy: ReadonlySet<string | null>;
  private readonly rowsBySubject: PlanRows;
  /**
   * @param snapshot complete for the dates that will be asked for; its visits are kept, what they take is copied
   * @param taken what is taken, if that is kept already: the snapshot's visits are then not looked at
   */
  constructor(snapshot: ClinicSnapshot, taken?: Taken) {
    const { occupied, visits, ...plan } = snapshot;
    this.plan = plan;
    this.taken = taken ?? new Taken(plan.caps, occupied, visits);
    this.hoursHaveCaps = plan.workingHours.some((hoursRow) => hoursRow.caps.length > 0);
    this.sites = byId(plan.sites);
    this.types = byId(plan.visitTypes);
    this.resources = byId(plan.resources);
    this.withOwnPolicy = new Set(plan.policies.map((row) => row.providerId));
    this.rowsBySubject = new PlanRows(plan);
  }

  /**
   * The same clinic with other rows of its plan. What is taken is shared: nothing may be booked in one of them
   * while the other is still asked.
   */
  withSchedule(rows: Partial<Omit<ClinicPlan, 'caps'>>): ClinicStore {
    return new ClinicStore({ ...this.plan, ...rows, occupied: [], visits: [] }, this.taken);
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
    return this.plan.pools.find((pool) => pool.siteId === siteId && pool.kind === kind);
  }

  day(siteId: string, date: LocalDate): ZoneDay {
    return zoneDay(this.site(siteId).zone, date);
  }

  /** The online policy in force; one object for all providers that share it. */
  policy(visitTypeId: string, siteId: string, providerId: string | null): SettledPolicy {
    const own = providerId !== null && this.withOwnPolicy.has(providerId) ? providerId : null;
    const key = `${visitTypeId}|${siteId}`;
    let ofProvider = this.policies.get(key);
    if (!ofProvider) {
      ofProvider = new Map();
      this.policies.set(key, ofProvider);
    }
    let found = ofProvider.get(own);
    if (!found) {
      found = settlePolicy(this.plan.policies, visitTypeId, siteId, own);
      ofProvider.set(own, found);
    }
    return found;
  }

  /** The site's weekly opening cells and the cells in which a closure shuts it. */
  siteDay(siteId: string, date: LocalDate): { open: Mask; closed: Mask } {
    let ofSite = this.siteDays.get(siteId);
    if (!ofSite) {
      ofSite = new Map();
      this.siteDays.set(siteId, ofSite);
    }
    let found = ofSite.get(date);
    if (!found) {
      const day = this.day(siteId, date);
      found = {
        open: siteOpenCells(day, siteId, this.plan.siteHours),
        closed: closedCells(day, siteId, this.plan.closures),
      };
      ofSite.set(date, found);
    }
    return found;
  }

  lane(resourceId: string, siteId: string): Lane {
    let ofSite = this.lanes.get(siteId);
    if (!ofSite) {
      ofSite = new Map();
      this.lanes.set(siteId, ofSite);
    }
    let found = ofSite.get(resourceId);
    if (!found) {
      found = new Lane(resourceId, siteId, isEverThere(this.resourcePlan(resourceId), siteId));
      ofSite.set(resourceId, found);
      const all = this.lanesOf.get(resourceId);
      if (all) all.push(found);
      else this.lanesOf.set(resourceId, [found]);
    }
    return found;
  }

  /** What is planned for a resource at a site on a day. */
  planOn(lane: Lane, day: ZoneDay): ResourceDay {
    return lane.planOn(day.number) ?? this.resolve(lane, day);
  }

  /**
   * Takes a visit in, or a hold, or an imported busy time, with what it takes; what stood under the id before goes.
   *
   * @param visit `null` for an imported busy time
   */
  put(id: string, visit: BookedVisit | null, occupied: readonly Occupied[]): void {
    this.drop(id);
    this.taken.put(id, visit, occupied);
    for (const row of occupied) this.forget(row);
  }

  /** Takes out what stands under an id; nothing happens if there is nothing. */
  drop(id: string): void {
    for (const row of this.taken.drop(id)) this.forget(row);
  }

  /**
   * Does something as if these visits and holds were not there; afterwards they stand as before, whatever happens.
   *
   * @param run at once, not later: nothing else may read this store meanwhile
   */
  without<T>(ids: readonly string[], run: () => T): T {
    const away = ids.map((id) => ({ id, visit: this.taken.visit(id), occupied: [...this.taken.occupiedBy(id)] }));
    for (const { id } of away) this.drop(id);
    try {
      return run();
    } finally {
      for (const { id, visit, occupied } of away) if (visit || occupied.length) this.put(id, visit, occupied);
    }
  }

  private forget(row: Occupied): void {
    // Local days differ from UTC days by less than one day on either side.
    for (const lane of this.lanesOf.get(row.resourceId) ?? [])
      for (let day = utcDay(row.start) - 1; day <= utcDay(row.end) + 1; day++) lane.forgetFree(day);
  }

  private resolve(lane: Lane, day: ZoneDay): ResourceDay {
    const plan = this.resourcePlan(lane.resourceId);
    return lane.setPlan(day.number, dayPattern(plan, day), () =>
      resolveResourceDay(lane.resourceId, lane.siteId, day, plan, this.siteDay(lane.siteId, day.date).open),
    );
  }

  private resourcePlan(resourceId: string): ResourcePlan {
    let plan = this.plans.get(resourceId);
    if (!plan) {
      const { kind, places } = this.resource(resourceId);
      plan = {
        ...this.rowsBySubject.of(resourceId),
        thereWithoutHours: kind === 'room' || kind === 'equipment',
        placesWithoutHours: places ?? 1,
      };
      this.plans.set(resourceId, plan);
    }
    return plan;
  }
}

function isEverThere(plan: ResourcePlan, siteId: string): boolean {
  return (
    plan.thereWithoutHours ||
    plan.workingHours.some((row) => row.siteId === siteId) ||
    plan.dateChanges.some((row) => row.hours?.siteId === siteId)
  );
}

/** The plan's rows by whom they concern, a pool's rows with each of its members. */
class PlanRows {
  private readonly plan: ClinicPlan;
  private readonly poolsOf = new Map<string, string[]>();
  private readonly workingHours: Map<string, ClinicPlan['workingHours'][number][]>;
  private readonly changes: Map<string, ClinicPlan['dateChanges'][number][]>;

  constructor(plan: ClinicPlan) {
    this.plan = plan;
    for (const pool of plan.pools)
      for (const member of pool.memberIds) this.poolsOf.set(member, [...(this.poolsOf.get(member) ?? []), pool.id]);
    this.workingHours = grouped(plan.workingHours, (row) => row.subject.id);
    this.changes = grouped(plan.dateChanges, (row) => row.subject.id);
  }

  of(resourceId: string): Omit<ResourcePlan, 'thereWithoutHours' | 'placesWithoutHours'> {
    const ids = [resourceId, ...(this.poolsOf.get(resourceId) ?? [])];
    const mine = (row: { resourceId: string }) => row.resourceId === resourceId;
    return {
      workingHours: ids.flatMap((id) => this.workingHours.get(id) ?? []),
      dateChanges: ids.flatMap((id) => this.changes.get(id) ?? []),
      timeOff: this.plan.timeOff.filter(mine),
      keptFree: this.plan.keptFree.filter(mine),
      brush: this.plan.brush.filter(mine),
    };
  }
}

function grouped<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const known = groups.get(keyOf(row));
    if (known) known.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

function byId<T extends { readonly id: string }>(rows: readonly T[]): Map<string, T> {
  return new Map(rows.map((row) => [row.id, row]));
}

function known<T>(row: T | undefined, what: string): T {
  if (row === undefined) throw new RangeError(`The snapshot does not hold this ${what}.`);
  return row;
}
