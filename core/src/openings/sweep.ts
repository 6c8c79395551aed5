import type { ResourceDay } from '../availability/index.ts';
import {
  and,
  andInto,
  andNotInto,
  cellsOf,
  copyInto,
  EVERY_CELL,
  EVERY_WORD,
  emptyMask,
  erodeFrom,
  fullMask,
  hasCell,
  isEmpty,
  type Mask,
  NO_CELLS,
  orInto,
  WORDS,
  type WordRange,
  wordRange,
  type ZoneDay,
} from '../time/index.ts';
import { binds, judgeNeed, seatsLeft } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { type AskedNeed, Frame, type Seat, type Wish } from './frame.ts';
import { type Candidate, canBeServedApart, type Group, groupsOf, servedBy } from './groups.ts';
import type { Lane } from './lane.ts';
import type { SettledPolicy } from './policy.ts';
import { ASKED_RULES, JOINT_RULES, STANDING_RULES, START_RULES } from './rules/index.ts';

/** The starts of one day at one site with one provider. */
export interface OpenDay {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly day: ZoneDay;
  /** Never empty. */
  readonly starts: Mask;
}

interface Asked {
  readonly frame: Frame;
  /** The provider's own needs; the other groups are the same for every provider of the site. */
  readonly own: readonly Group[];
  /** Needs can hinder each other: every start is tried with a choice of seats. */
  readonly together: boolean;
}

/**
 * One wish at one site over days and providers. Every rule is asked no more often than what its answer changes with:
 * once for the wish, once a date, or for each provider and date; a room's starts are worked out once a date for all
 * providers. The rules are the ones *Why not?* reads: nothing is decided here.
 */
export class SiteSweep {
  private readonly index: ClinicIndex;
  private readonly wish: Wish;
  private readonly asked: Asked[] = [];
  private readonly shared: readonly Group[];
  private readonly dateRules;
  private readonly providerRules;
  private readonly askedRules;
  private readonly keepsFree: boolean;
  /** Written over by every lane. */
  private readonly scratch = emptyMask();
  private readonly left = emptyMask();
  private readonly also = emptyMask();

  constructor(index: ClinicIndex, wish: Wish, siteId: string, providerIds: readonly (string | null)[], date: string) {
    this.index = index;
    this.wish = wish;
    const desk = wish.channel === 'desk';
    const binding = START_RULES.filter((rule) => rule.binds === 'everyone' || !desk);
    this.dateRules = binding.filter((rule) => rule.variesBy === 'date');
    this.providerRules = binding.filter((rule) => rule.variesBy === 'provider-date');
    this.askedRules = ASKED_RULES.filter((rule) => rule.binds === 'everyone' || !desk);
    this.keepsFree = !wish.ignoreVisitId;
    const once = binding.filter((rule) => rule.variesBy === 'wish');
    let first: { frame: Frame; own: Group[]; together: boolean; poolMembers: ReadonlySet<string> } | null = null;
    let shared: readonly Group[] = [];
    for (const providerId of providerIds) {
      // Without hours here on any date, `no-hours` hides every start.
      if (providerId !== null && !index.lane(providerId, siteId).everThere) continue;
      const frame: Frame = new Frame(index, wish, siteId, providerId, date, first?.frame);
      if (once.some((rule) => !isEmpty(rule.hide(frame)))) continue;
      if (!first) {
        const byProvider = ({ need }: AskedNeed) => need.what === 'provider';
        const others = frame.asked.filter((need) => !byProvider(need));
        const poolMembers = new Set(others.flatMap((need) => need.memberIds));
        const own = groupsOf(index, siteId, frame.asked.filter(byProvider));
        first = { frame, own, together: !canBeServedApart(frame.asked), poolMembers };
        shared = groupsOf(index, siteId, others);
      }
      const own =
        providerId === null ? first.own : first.own.map((group) => servedBy(group, index.lane(providerId, siteId)));
      // Who may be wanted twice at once, as provider and as member of a pool, is looked at by themselves.
      const alone = providerId === null || first.poolMembers.has(providerId);
      this.asked.push({ frame, own, together: alone ? !canBeServedApart(frame.asked) : first.together });
    }
    this.shared = shared;
  }

  /**
   * Open starts for each of some days, in the order of the providers. Days are taken together because a resource's days
   * lie side by side in memory: a sweep day by day over hundreds of people would wait for memory most of the time.
   */
  over(days: readonly ZoneDay[]): OpenDay[][] {
    const open: OpenDay[][] = days.map(() => []);
    let policy: SettledPolicy | null = null;
    let site: readonly SiteStarts[] = [];
    for (const asked of this.asked) {
      const { frame } = asked;
      if (frame.policy !== policy) {
        policy = frame.policy;
        site = this.siteStarts(frame, days);
      }
      for (let i = 0; i < days.length; i++) {
        if (site[i].range.last < 0) continue;
        frame.moveTo(days[i]);
        const starts = this.startsOf(asked, days[i], site[i]);
        if (starts) open[i].push({ siteId: frame.site.id, providerId: frame.providerId, day: days[i], starts });
      }
    }
    return open;
  }

  /**
   * For each need of the first provider's frame, the seats that could serve it at a start: what the member rules leave
   * there, for whoever must choose among them.
   */
  seatsAt(day: ZoneDay, cell: number): Seat[][] {
    const [{ frame }] = this.asked;
    frame.moveTo(day);
    return frame.needs.map((need) =>
      need.seats.filter((seat) => {
        const lane = this.index.lane(seat.resourceId, frame.site.id);
        const plan = this.index.planOn(lane, day);
        const free = plan.places === 1 ? this.freeAlone(lane, plan, day) : this.freeOf(lane, plan, seat.place, day);
        for (let c = cell + need.fromCell; c < cell + need.fromCell + need.lengthCells; c++)
          if (!hasCell(free, c)) return false;
        return this.askedRules.every((rule) => hasCell(rule.passes(frame, need, seat), cell));
      }),
    );
  }

  /** What the site, the dates and the rooms leave, whoever the provider is. */
  private siteStarts(frame: Frame, days: readonly ZoneDay[]): SiteStarts[] {
    const left = days.map((day) => {
      frame.moveTo(day);
      const starts = fullMask(day.cells);
      for (const rule of this.dateRules) {
        const hidden = rule.hide(frame);
        if (hidden !== NO_CELLS) andNotInto(starts, hidden);
      }
      return starts;
    });
    for (const group of this.shared) this.keepServedBy(group, frame, days, left);
    return left.map(ranged);
  }

  /** Takes off the starts at which nobody serves a group. Nobody more is asked for a day whose starts are all served. */
  private keepServedBy(group: Group, frame: Frame, days: readonly ZoneDay[], left: readonly Mask[]): void {
    const served = days.map(() => emptyMask());
    const ranges = left.map(wordRange);
    let pending = days.map((_, i) => i).filter((i) => !isEmpty(left[i]));
    for (const candidate of group.candidates) {
      pending = pending.filter((i) => {
        frame.moveTo(days[i]);
        this.serve(frame, group, candidate, days[i], ranges[i]);
        orInto(served[i], this.scratch);
        return !covers(served[i], left[i]);
      });
      if (!pending.length) break;
    }
    for (let i = 0; i < days.length; i++) andInto(left[i], served[i]);
  }

  private startsOf({ frame, own, together }: Asked, day: ZoneDay, site: SiteStarts): Mask | null {
    const { left } = this;
    copyInto(left, site.starts);
    for (const group of own) {
      // The provider alone can serve their own needs.
      this.serve(frame, group, group.candidates[0], day, site.range);
      andInto(left, this.scratch);
      if (isEmpty(left)) return null;
    }
    for (const rule of this.providerRules) {
      const hidden = rule.hide(frame);
      if (hidden !== NO_CELLS) andNotInto(left, hidden);
    }
    if (together) this.keepServed(frame, left);
    return isEmpty(left) ? null : left.slice();
  }

  /**
   * Leaves in `scratch` the starts at which a candidate serves the whole group; outside `range`, in which all wanted
   * starts lie, anything.
   */
  private serve(frame: Frame, group: Group, candidate: Candidate, day: ZoneDay, range: WordRange): void {
    const plan = this.index.planOn(candidate.lane, day);
    if (plan.places > 1) this.serveByPlaces(frame, group, candidate.lane, plan, day);
    else this.serveAlone(frame, group, candidate, plan, day, range);
  }

  private serveAlone(
    frame: Frame,
    group: Group,
    candidate: Candidate,
    plan: ResourceDay,
    day: ZoneDay,
    range: WordRange,
  ): void {
    const { scratch } = this;
    const { lane } = candidate;
    const free = this.keepsFree
      ? lane.free(day.number, () => this.freeCells(lane, plan, 0, day))
      : this.freeCells(lane, plan, 0, day);
    if (!free) {
      scratch.fill(0);
      return;
    }
    const at = this.keepsFree ? lane.freeAt(day.number) : 0;
    erodeFrom(scratch, free, at, group.windows[0].lengthCells, group.windows[0].fromCell, range);
    for (let i = 1; i < group.windows.length; i++) {
      erodeFrom(this.also, free, at, group.windows[i].lengthCells, group.windows[i].fromCell, range);
      andInto(scratch, this.also);
    }
    if (candidate.plan !== plan || plan.releases) {
      candidate.plan = plan;
      candidate.accepted = this.acceptedByAll(frame, group, lane);
    }
    if (candidate.accepted !== EVERY_CELL) andInto(scratch, candidate.accepted);
  }

  /** Starts the hours accept on this wish's terms. Without a release they are the same on every day planned alike. */
  private acceptedByAll(frame: Frame, group: Group, lane: Lane): Mask {
    let accepted = EVERY_CELL;
    for (const need of group.needs) {
      const passed = this.accepted(frame, need, lane, 0);
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private accepted(frame: Frame, need: AskedNeed, { resourceId }: Lane, place: number): Mask {
    let accepted = EVERY_CELL;
    for (const rule of this.askedRules) {
      const passed = rule.passes(frame, need, { resourceId, place });
      if (passed === EVERY_CELL) continue;
      accepted = accepted === EVERY_CELL ? passed : and(accepted, passed);
    }
    return accepted;
  }

  private serveByPlaces(frame: Frame, group: Group, lane: Lane, plan: ResourceDay, day: ZoneDay): void {
    const { scratch } = this;
    scratch.fill(-1);
    for (const need of group.needs) {
      const some = emptyMask();
      for (let place = 0; place < plan.places; place++) {
        const starts = emptyMask();
        erodeFrom(starts, this.freeOf(lane, plan, place, day), 0, need.lengthCells, need.fromCell, EVERY_WORD);
        andInto(starts, this.accepted(frame, need, lane, place));
        orInto(some, starts);
      }
      andInto(scratch, some);
    }
  }

  private freeAlone(lane: Lane, plan: ResourceDay, day: ZoneDay): Mask {
    const workOut = () => this.freeCells(lane, plan, 0, day);
    if (!this.keepsFree) return workOut();
    const memory = lane.free(day.number, workOut);
    return memory ? memory.slice(lane.freeAt(day.number), lane.freeAt(day.number) + WORDS) : NO_CELLS;
  }

  private freeOf(lane: Lane, plan: ResourceDay, place: number, day: ZoneDay): Mask {
    const workOut = () => this.freeCells(lane, plan, place, day);
    return this.keepsFree ? lane.freeOf(day.number, place, workOut) : workOut();
  }

  /** Cells that the standing rules leave of a place. */
  private freeCells(lane: Lane, plan: ResourceDay, place: number, day: ZoneDay): Mask {
    const taken = this.index.takenCells(lane.resourceId, place, day, this.wish.ignoreVisitId ?? null);
    const left = EVERY_CELL.slice();
    for (const rule of STANDING_RULES) {
      const cells = rule.cells({ plan, place, taken });
      if (cells !== EVERY_CELL) andInto(left, cells);
    }
    return left;
  }

  /** Takes off the starts at which each need could be served, but no choice of seats serves all. */
  private keepServed(frame: Frame, starts: Mask): void {
    const judged = frame.needs.map((need) => judgeNeed(frame, need));
    for (const rule of JOINT_RULES) {
      if (!binds(rule, frame) || !rule.concerns(frame)) continue;
      for (const cell of cellsOf(starts))
        if (!rule.served(frame, cell, seatsLeft(judged, cell))) starts[cell >>> 5] &= ~(1 << (cell & 31));
    }
  }
}

interface SiteStarts {
  readonly starts: Mask;
  readonly range: WordRange;
}

function ranged(starts: Mask): SiteStarts {
  const range = wordRange(starts);
  return { starts, range: range.first > range.last ? NOWHERE : range };
}

const NOWHERE: WordRange = { first: 0, last: -1 };

function covers(mask: Mask, wanted: Mask): boolean {
  for (let w = 0; w < wanted.length; w++) if (wanted[w] & ~mask[w]) return false;
  return true;
}
