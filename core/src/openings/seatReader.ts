import type { ResourceDay } from '../availability/index.ts';
import { and, andInto, EVERY_CELL, type Mask, NO_CELLS, type ZoneDay } from '../time/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import type { TimedNeed, Frame, SearchCriteria } from './frame.ts';
import type { Candidate, Group } from './groups.ts';
import { type Lane, SEVERAL_PLACES, SOMETIMES_FREE, UNKNOWN } from './lane.ts';
import { CRITERIA_RULES, STANDING_RULES } from './rules/index.ts';

/** What the member rules leave of a seat for one search: its free cells, and the starts its hours accept. */
export class SeatReader {
  /** Where the free cells last looked for lie: in `free` from `at` on. */
  free: Mask = NO_CELLS;
  at = 0;
  private readonly index: ClinicIndex;
  private readonly ignoreVisitId: string | null;
  private readonly rules;

  constructor(index: ClinicIndex, criteria: SearchCriteria) {
    this.index = index;
    this.ignoreVisitId = criteria.ignoreVisitId ?? null;
    this.rules = CRITERIA_RULES.filter((rule) => rule.binds === 'everyone' || criteria.channel !== 'desk');
  }

  /** Turns to the free cells of a lane's first place; says what is known of that day (see `lane.ts`). */
  look(lane: Lane, day: ZoneDay): number {
    let known = lane.look(day.number);
    if (known === UNKNOWN) known = this.findOut(lane, day);
    if (this.ignoreVisitId !== null) return this.lookWithout(lane, day, this.ignoreVisitId);
    this.free = lane.cells;
    this.at = lane.at;
    return known;
  }

  /** Free cells of one place. */
  freeOf(lane: Lane, plan: ResourceDay, place: number, day: ZoneDay): Mask {
    const { ignoreVisitId } = this;
    if (ignoreVisitId !== null) return this.freeCells(lane, plan, place, day, ignoreVisitId);
    return lane.freeOf(day.number, place, () => this.freeCells(lane, plan, place, day, null));
  }

  /** Starts accepted on the day last looked at; judged again only when another plan holds, or one that releases. */
  acceptedOf(frame: Frame, group: Group, candidate: Candidate): Mask {
    const { lane } = candidate;
    const number = lane.planNumber;
    if (candidate.judged !== number) {
      const plan = lane.planNumbered(number);
      candidate.accepted = refusesNobody(plan) ? EVERY_CELL : this.acceptedByAll(frame, group, lane);
      candidate.judged = plan.releases ? -1 : number;
    }
    return candidate.accepted;
  }

  /** Starts at which a place's hours accept the search for one need. */
  accepted(frame: Frame, need: TimedNeed, { resourceId }: Lane, place: number): Mask {
    let accepted = EVERY_CELL;
    for (const rule of this.rules) {
      const passed = rule.passes(frame, need, { resourceId, place });
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private acceptedByAll(frame: Frame, group: Group, lane: Lane): Mask {
    let accepted = EVERY_CELL;
    for (const need of group.needs) {
      const passed = this.accepted(frame, need, lane, 0);
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private findOut(lane: Lane, day: ZoneDay): number {
    const free = this.freeCells(lane, this.index.planOn(lane, day), 0, day, null);
    lane.look(day.number);
    return lane.know(free);
  }

  /** Without the visit being moved more may be free than is known. */
  private lookWithout(lane: Lane, day: ZoneDay, visitId: string): number {
    const plan = this.index.planOn(lane, day);
    this.free = this.freeCells(lane, plan, 0, day, visitId);
    this.at = 0;
    lane.look(day.number);
    return plan.places > 1 ? SEVERAL_PLACES : SOMETIMES_FREE;
  }

  /** Cells that the standing rules leave of a place. */
  private freeCells(lane: Lane, plan: ResourceDay, place: number, day: ZoneDay, ignoreVisitId: string | null): Mask {
    const taken = this.index.takenCells(lane.resourceId, place, day, ignoreVisitId);
    const left = EVERY_CELL.slice();
    for (const rule of STANDING_RULES) {
      const cells = rule.cells({ plan, place, taken });
      if (cells !== EVERY_CELL) andInto(left, cells);
    }
    return left;
  }
}

const open = new WeakMap<ResourceDay, boolean>();

/** Whether no search whatever is refused by hours planned like this: most hours take everything. */
function refusesNobody(plan: ResourceDay): boolean {
  let known = open.get(plan);
  if (known === undefined) {
    known = !CRITERIA_RULES.some((rule) => rule.mayRefuse(plan));
    open.set(plan, known);
  }
  return known;
}
