import type { Occupied, Pool, Resource, ResourceDay, Site } from '../availability/index.ts';
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

  /** Stretches in which a resource is taken that touch a day; any place. */
  occupiedOn(resourceId: string, day: ZoneDay): Occupied[] {
    const found: Occupied[] = [];
    this.store.taken.forEachOn(resourceId, day, (place, start, end, visitId) =>
      found.push({ resourceId, place, start, end, visitId }),
    );
    return found;
  }

  /** Cells of the day in which one place of a resource is taken, rounded outward. Not to be written to. */
  takenCells(resourceId: string, place: number, day: ZoneDay, ignoreVisitId: string | null): Mask {
    let mask = NO_CELLS;
    this.store.taken.forEachOn(resourceId, day, (at, start, end, visitId) => {
      if (at !== place || visitId === ignoreVisitId) return;
      if (mask === NO_CELLS) mask = emptyMask();
      addRangeInto(mask, Math.floor((start - day.start) / CELL_MIN), Math.ceil((end - day.start) / CELL_MIN));
    });
    return mask;
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
