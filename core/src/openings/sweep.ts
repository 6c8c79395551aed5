import type { ResourceDay } from '../availability/index.ts';
import {
  andInto,
  andNotInto,
  cellsOf,
  copyInto,
  EVERY_CELL,
  emptyMask,
  erodeInto,
  fullMask,
  isEmpty,
  type Mask,
  NO_CELLS,
  orInto,
  type ZoneDay,
} from '../time/index.ts';
import { binds, judgeNeed, seatsLeft } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import type { Lane, LaneDay } from './clinicStore.ts';
import { type AskedNeed, Frame, type Wish } from './frame.ts';
import { canBeServedApart, type Group, groupsOf } from './groups.ts';
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
  private readonly answers = new Map<AskedNeed, Map<ResourceDay, Mask>>();
  private readonly scratch = emptyMask();

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
    let shared: readonly Group[] = [];
    for (const providerId of providerIds) {
      const frame = new Frame(index, wish, siteId, providerId, date);
      if (once.some((rule) => !isEmpty(rule.hide(frame)))) continue;
      const groups = groupsOf(index, siteId, frame.asked);
      const ownOf = (group: Group) => group.needs[0].need.what === 'provider';
      if (!this.asked.length) shared = groups.filter((group) => !ownOf(group));
      this.asked.push({ frame, own: groups.filter(ownOf), together: !canBeServedApart(frame.asked) });
    }
    this.shared = shared;
  }

  /** Open starts of a day for each provider that has any, in the order given. */
  *on(day: ZoneDay): Generator<OpenDay> {
    let policy: SettledPolicy | null = null;
    let site = NO_CELLS;
    for (const asked of this.asked) {
      const { frame } = asked;
      frame.moveTo(day);
      if (frame.policy !== policy) {
        policy = frame.policy;
        site = this.siteStarts(frame, day);
      }
      if (site === NO_CELLS) continue;
      const starts = this.startsOf(asked, day, site);
      if (starts) yield { siteId: frame.site.id, providerId: frame.providerId, day, starts };
    }
  }

  /** What the site, the date and the rooms leave, whoever the provider is; `NO_CELLS` for nothing. */
  private siteStarts(frame: Frame, day: ZoneDay): Mask {
    const starts = fullMask(day.cells);
    for (const rule of this.dateRules) {
      const hidden = rule.hide(frame);
      if (hidden !== NO_CELLS) andNotInto(starts, hidden);
    }
    if (isEmpty(starts)) return NO_CELLS;
    for (const group of this.shared) {
      andInto(starts, this.groupStarts(frame, group, day, starts));
      if (isEmpty(starts)) return NO_CELLS;
    }
    return starts;
  }

  private startsOf({ frame, own, together }: Asked, day: ZoneDay, site: Mask): Mask | null {
    let starts = site;
    for (const group of own) {
      const mine = this.groupStarts(frame, group, day, starts);
      andInto(mine, starts);
      if (isEmpty(mine)) return null;
      starts = mine;
    }
    if (starts === site) starts = site.slice();
    for (const rule of this.providerRules) {
      const hidden = rule.hide(frame);
      if (hidden !== NO_CELLS) andNotInto(starts, hidden);
    }
    if (together) this.keepServed(frame, starts);
    return isEmpty(starts) ? null : starts;
  }

  /** Starts at which one resource serves all needs of a group. Stops early once every wanted start is served. */
  private groupStarts(frame: Frame, group: Group, day: ZoneDay, wanted: Mask): Mask {
    const served = emptyMask();
    for (const lane of group.lanes) {
      const laneDay = this.index.laneDay(lane, day);
      if (laneDay.plan.places === 1) this.serveAlone(frame, group, lane, laneDay, day);
      else this.serveByPlaces(frame, group, lane, laneDay, day);
      orInto(served, this.scratch);
      if (covers(served, wanted)) break;
    }
    return served;
  }

  private serveAlone(frame: Frame, group: Group, lane: Lane, laneDay: LaneDay, day: ZoneDay): void {
    const free = this.freeCells(lane, laneDay, 0, day);
    const { scratch } = this;
    if (free === NO_CELLS) {
      scratch.fill(0);
      return;
    }
    copyInto(scratch, free);
    erodeInto(scratch, group.windows[0].lengthCells, group.windows[0].fromCell);
    for (let i = 1; i < group.windows.length; i++) {
      const also = free.slice();
      erodeInto(also, group.windows[i].lengthCells, group.windows[i].fromCell);
      andInto(scratch, also);
    }
    for (const need of group.needs) {
      const accepted = this.acceptedStarts(frame, need, lane, laneDay.plan, 0);
      if (accepted !== EVERY_CELL) andInto(scratch, accepted);
    }
  }

  private serveByPlaces(frame: Frame, group: Group, lane: Lane, laneDay: LaneDay, day: ZoneDay): void {
    const { scratch } = this;
    scratch.fill(0xffffffff);
    for (const need of group.needs) {
      const some = emptyMask();
      for (let place = 0; place < laneDay.plan.places; place++) {
        const starts = this.freeCells(lane, laneDay, place, day).slice();
        erodeInto(starts, need.lengthCells, need.fromCell);
        andInto(starts, this.acceptedStarts(frame, need, lane, laneDay.plan, place));
        orInto(some, starts);
      }
      andInto(scratch, some);
    }
  }

  /** Cells that the standing rules leave of a place; kept with the day. `NO_CELLS` where there are none. */
  private freeCells(lane: Lane, laneDay: LaneDay, place: number, day: ZoneDay): Mask {
    const known = laneDay.free[place];
    if (known && this.keepsFree) return known;
    const taken = this.index.takenCells(lane.resourceId, place, day, this.wish.ignoreVisitId ?? null);
    const left = emptyMask();
    copyInto(left, EVERY_CELL);
    for (const rule of STANDING_RULES) {
      const cells = rule.cells({ plan: laneDay.plan, place, taken });
      if (cells !== EVERY_CELL) andInto(left, cells);
    }
    const free = isEmpty(left) ? NO_CELLS : left;
    if (this.keepsFree) laneDay.free[place] = free;
    return free;
  }

  /** Starts the hours accept on this wish's terms. Without a release they are the same on every day planned alike. */
  private acceptedStarts(frame: Frame, need: AskedNeed, lane: Lane, plan: ResourceDay, place: number): Mask {
    if (plan.releases) return this.judgeAsked(frame, need, lane, place);
    let answers = this.answers.get(need);
    if (!answers) {
      answers = new Map();
      this.answers.set(need, answers);
    }
    let answer = answers.get(plan);
    if (!answer) {
      answer = this.judgeAsked(frame, need, lane, place);
      answers.set(plan, answer);
    }
    return answer;
  }

  private judgeAsked(frame: Frame, need: AskedNeed, { resourceId }: Lane, place: number): Mask {
    let answer = EVERY_CELL;
    for (const rule of this.askedRules) {
      const passed = rule.passes(frame, need, { resourceId, place });
      if (passed === EVERY_CELL) continue;
      if (answer === EVERY_CELL) answer = passed.slice();
      else andInto(answer, passed);
    }
    return answer;
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

function covers(mask: Mask, wanted: Mask): boolean {
  for (let w = 0; w < wanted.length; w++) if (wanted[w] & ~mask[w]) return false;
  return true;
}
