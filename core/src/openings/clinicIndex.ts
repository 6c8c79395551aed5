import {
  mostAtOnce,
  type Occupied,
  placesIn,
  type Pool,
  type Resource,
  type ResourceDay,
  type Site,
} from '../availability/index.ts';
import {
  addRangeInto,
  CELL_MIN,
  type EpochMinute,
  emptyMask,
  epochToWall,
  type LocalDate,
  type Mask,
  NO_CELLS,
  type ZoneDay,
} from '../time/index.ts';
import type { BookedVisit, VisitType } from '../visits/index.ts';
import { ClinicStore } from './clinicStore.ts';
import type { Lane } from './lane.ts';
import type { SettledPolicy } from './policy.ts';
import type { ClinicPlan, ClinicSnapshot } from './snapshot.ts';

/** A clinic as it is asked at one instant. Cheap to make over a store; over a snapshot it makes a store of its own. */
export class ClinicIndex {
  readonly store: ClinicStore;
  readonly now: EpochMinute;
  private readonly todays = new Map<string, ZoneDay>();

  /** @param now the instant at which the question is asked */
  constructor(clinic: ClinicSnapshot | ClinicStore, now: EpochMinute) {
    this.store = clinic instanceof ClinicStore ? clinic : new ClinicStore(clinic);
    this.now = now;
  }

  get plan(): ClinicPlan {
    return this.store.plan;
  }

  /** Throws `RangeError` when the snapshot does not hold it: the caller loaded too little. */
  site(id: string): Site {
    return this.store.site(id);
  }

  visitType(id: string): VisitType {
    return this.store.visitType(id);
  }

  resource(id: string): Resource {
    return this.store.resource(id);
  }

  pool(siteId: string, kind: string): Pool | undefined {
    return this.store.pool(siteId, kind);
  }

  day(siteId: string, date: LocalDate): ZoneDay {
    return this.store.day(siteId, date);
  }

  /** The day it is at a site when the question is asked. */
  today(siteId: string): ZoneDay {
    let day = this.todays.get(siteId);
    if (!day) {
      day = this.day(siteId, epochToWall(this.site(siteId).zone, this.now).date);
      this.todays.set(siteId, day);
    }
    return day;
  }

  policy(visitTypeId: string, siteId: string, providerId: string | null): SettledPolicy {
    return this.store.policy(visitTypeId, siteId, providerId);
  }

  /** The site's weekly opening cells and the cells in which a closure shuts it. */
  siteDay(siteId: string, date: LocalDate): { open: Mask; closed: Mask } {
    return this.store.siteDay(siteId, date);
  }

  lane(resourceId: string, siteId: string): Lane {
    return this.store.lane(resourceId, siteId);
  }

  planOn(lane: Lane, day: ZoneDay): ResourceDay {
    return this.store.planOn(lane, day);
  }

  /** What is planned for a resource at a site on a date. */
  resourceDay(resourceId: string, siteId: string, date: LocalDate): ResourceDay {
    return this.store.planOn(this.store.lane(resourceId, siteId), this.day(siteId, date));
  }

  /** Stretches in which a resource is taken that touch a day. */
  occupiedOn(resourceId: string, day: ZoneDay): Occupied[] {
    const found: Occupied[] = [];
    this.store.taken.forEachOn(resourceId, day, (start, end, visitId) =>
      found.push({ resourceId, start, end, visitId }),
    );
    return found;
  }

  /** Cells of the day in which a resource has no place left, rounded outward. Not to be written to. */
  fullCells(plan: ResourceDay, day: ZoneDay, ignoreVisitId: string | null): Mask {
    let mask = NO_CELLS;
    if (plan.places > 1) {
      const taken = this.takenAtOnce(plan, day, ignoreVisitId);
      if (!taken) return NO_CELLS;
      mask = emptyMask();
      for (let cell = 0; cell < taken.length; cell++)
        if (taken[cell] > 0 && taken[cell] >= placesIn(plan, cell)) addRangeInto(mask, cell, cell + 1);
      return mask;
    }
    this.store.taken.forEachOn(plan.resourceId, day, (start, end, visitId) => {
      if (visitId === ignoreVisitId) return;
      if (mask === NO_CELLS) mask = emptyMask();
      addRangeInto(mask, Math.floor((start - day.start) / CELL_MIN), Math.ceil((end - day.start) / CELL_MIN));
    });
    return mask;
  }

  /** How many more visits at once a resource could take in each cell of the day; never more than its hours allow. */
  placesLeft(plan: ResourceDay, day: ZoneDay, ignoreVisitId: string | null): Int16Array {
    const taken = this.takenAtOnce(plan, day, ignoreVisitId);
    const left = new Int16Array(day.cells);
    for (let cell = 0; cell < left.length; cell++) left[cell] = placesIn(plan, cell) - (taken ? taken[cell] : 0);
    return left;
  }

  /** `null` where nothing is taken all day. */
  private takenAtOnce({ resourceId }: ResourceDay, day: ZoneDay, ignoreVisitId: string | null): Uint16Array | null {
    const rows = this.occupiedOn(resourceId, day).filter(({ visitId }) => visitId !== ignoreVisitId);
    return rows.length ? mostAtOnce(day, rows) : null;
  }

  /** A provider's visits that start on the day or on its neighbors (travel and gaps reach over midnight). */
  visitsNear(providerId: string, day: ZoneDay): BookedVisit[] {
    return this.store.taken.visitsNear(providerId, day);
  }

  /** Visits whose start has this date at their own site. */
  visitsOn(date: LocalDate): readonly BookedVisit[] {
    return this.store.taken.visitsOn(date);
  }

  visitsOfPatient(patientId: string): readonly BookedVisit[] {
    return this.store.taken.visitsOfPatient(patientId);
  }
}
