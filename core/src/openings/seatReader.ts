import type { ResourceDay } from '../availability/index.ts';
import { and, andInto, EVERY_CELL, type Mask, NO_CELLS, WORDS, type ZoneDay } from '../time/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import type { TimedNeed, Frame, SearchCriteria } from './frame.ts';
import type { Candidate, Group } from './groups.ts';
import { type Lane, SOMETIMES_FREE, UNKNOWN } from './lane.ts';
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

  /** Turns to a lane's free cells; says what is known of that day (see `lane.ts`). */
  look(lane: Lane, day: ZoneDay): number {
    let known = lane.look(day.number);
    if (known === UNKNOWN) known = this.findOut(lane, day);
    if (this.ignoreVisitId !== null) return this.lookWithout(lane, day, this.ignoreVisitId);
    this.free = lane.cells;
    this.at = lane.at;
    return known;
  }

  /** A lane's free cells on a day, in a mask of their own. */
  freeOf(lane: Lane, day: ZoneDay): Mask {
    this.look(lane, day);
    return this.free.slice(this.at, this.at + WORDS);
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

  /** Starts at which a resource's hours accept the search for one need. */
  accepted(frame: Frame, need: TimedNeed, { resourceId }: Lane): Mask {
    let accepted = EVERY_CELL;
    for (const rule of this.rules) {
      const passed = rule.passes(frame, need, { resourceId });
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private acceptedByAll(frame: Frame, group: Group, lane: Lane): Mask {
    let accepted = EVERY_CELL;
    for (const need of group.needs) {
      const passed = this.accepted(frame, need, lane);
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private findOut(lane: Lane, day: ZoneDay): number {
    const free = this.freeCells(this.index.planOn(lane, day), day, null);
    lane.look(day.number);
    return lane.know(free);
  }

  /** Without the visit being moved more may be free than is known. */
  private lookWithout(lane: Lane, day: ZoneDay, visitId: string): number {
    this.free = this.freeCells(this.index.planOn(lane, day), day, visitId);
    this.at = 0;
    lane.look(day.number);
    return SOMETIMES_FREE;
  }

  /** Cells that the standing rules leave of a resource's day. */
  private freeCells(plan: ResourceDay, day: ZoneDay, ignoreVisitId: string | null): Mask {
    const full = () => this.index.fullCells(plan, day, ignoreVisitId);
    const left = EVERY_CELL.slice();
    for (const rule of STANDING_RULES) {
      const cells = rule.cells({ plan, full });
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
