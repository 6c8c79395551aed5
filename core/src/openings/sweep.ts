import {
  addRuns,
  and,
  andInto,
  andNotInto,
  cellsOf,
  EVERY_CELL,
  emptyMask,
  fullMask,
  hasCell,
  isEmpty,
  keepRuns,
  type Mask,
  NO_CELLS,
  orInto,
  WORDS,
  type WordRange,
  wordRange,
  type ZoneDay,
} from '../time/index.ts';
import { binds, evaluateNeed, seatsLeft } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { type TimedNeed, Frame, type Seat, startsInside, type SearchCriteria } from './frame.ts';
import { type Candidate, needsAreIndependent, type Group, groupsOf, servedBy } from './groups.ts';
import { NEVER_FREE, SOMETIMES_FREE } from './lane.ts';
import { FoundMasks, type OpenDay } from './openDay.ts';
import type { SettledPolicy } from './policy.ts';
import type { ProviderDateRule, StartRule } from './rule.ts';
import { JOINT_RULES, START_RULES } from './rules/index.ts';
import { SeatReader } from './seatReader.ts';

interface ProviderSweep {
  readonly frame: Frame;
  /** The provider's own needs; the other groups are the same for every provider of the site. */
  readonly own: Group | null;
  /** The rules asked on each date that could hide anything. */
  readonly rules: readonly ProviderDateRule[];
  /** Needs can hinder each other: every start is tried with a choice of seats. */
  readonly together: boolean;
}

/**
 * One search at one site over days and providers. Every rule is asked no more often than what its answer changes with:
 * once for the search, once a date, or for each provider and date; a room's starts are worked out once a date for all
 * providers. The rules are the ones *Why not?* reads: nothing is decided here.
 */
export class SiteSweep {
  private readonly index: ClinicIndex;
  private readonly seats: SeatReader;
  private readonly providerSweeps: ProviderSweep[] = [];
  private readonly shared: readonly Group[];
  private readonly dateRules;
  /** Written over by every lane. */
  private readonly scratch = emptyMask();
  private readonly left = emptyMask();
  private readonly found = new FoundMasks();

  constructor(
    index: ClinicIndex,
    criteria: SearchCriteria,
    siteId: string,
    providerIds: readonly (string | null)[],
    date: string,
  ) {
    this.index = index;
    this.seats = new SeatReader(index, criteria);
    const desk = criteria.channel === 'desk';
    const binding = START_RULES.filter((rule) => rule.binds === 'everyone' || !desk);
    this.dateRules = binding.filter((rule) => rule.variesBy === 'date');
    const providerRules = binding.filter((rule: StartRule) => rule.variesBy === 'provider-date');
    const once = binding.filter((rule) => rule.variesBy === 'criteria');
    let first: { frame: Frame; own: Group | null; together: boolean } | null = null;
    let shared: readonly Group[] = [];
    for (const providerId of providerIds) {
      // Without hours here on any date, `no-hours` hides every start.
      const lane = providerId === null ? null : index.lane(providerId, siteId);
      if (lane && !lane.everThere) continue;
      const frame: Frame = new Frame(index, criteria, siteId, providerId, date, first?.frame);
      if (once.some((rule) => !isEmpty(rule.hide(frame)))) continue;
      if (!first) {
        const byProvider = ({ need }: TimedNeed) => need.what === 'provider';
        const others = frame.timedNeeds.filter((need) => !byProvider(need));
        const [own = null] = groupsOf(index, siteId, frame.timedNeeds.filter(byProvider));
        first = { frame, own, together: !needsAreIndependent(frame.timedNeeds) };
        shared = groupsOf(index, siteId, others);
      }
      const own = lane && first.own ? servedBy(first.own, lane) : first.own;
      // Who may be wanted twice at once, as provider and as member of a pool, is looked at by themselves.
      const alone = providerId === null || frame.poolMembers.has(providerId);
      const together = alone ? !needsAreIndependent(frame.timedNeeds) : first.together;
      this.providerSweeps.push({ frame, own, rules: providerRules.filter((rule) => rule.mayHide(frame)), together });
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
    for (const sweep of this.providerSweeps) {
      const { frame, own } = sweep;
      if (frame.policy !== policy) {
        policy = frame.policy;
        site = this.siteStarts(frame, days);
      }
      for (let i = 0; i < days.length; i++) {
        if (site[i].range.last < 0) continue;
        // Days without a free cell are most of a large search: nothing else is touched for them.
        if (own && this.seats.look(own.candidates[0].lane, days[i]) === NEVER_FREE) continue;
        frame.moveTo(days[i]);
        const starts = this.startsOf(sweep, site[i]);
        if (starts) open[i].push(this.found.keep(frame.site.id, frame.providerId, days[i], starts, site[i].range));
      }
    }
    return open;
  }

  /**
   * For each need of the first provider's frame, the seats that could serve it at a start: what the member rules leave
   * there, for whoever must choose among them.
   */
  seatsAt(day: ZoneDay, cell: number): Seat[][] {
    const [{ frame }] = this.providerSweeps;
    frame.moveTo(day);
    return frame.needs.map((need) =>
      need.seats.filter((seat) => {
        const lane = this.index.lane(seat.resourceId, frame.site.id);
        const free = this.seats.freeOf(lane, day);
        for (let c = cell + need.fromCell; c < cell + need.fromCell + need.lengthCells; c++)
          if (!hasCell(free, c)) return false;
        return hasCell(this.seats.accepted(frame, need, lane), cell);
      }),
    );
  }

  /**
   * For each need every seat that could serve it on a day, with the starts at which it could by the member rules: the
   * provider's own needs with each of the providers. What serves one may not serve another at the same time.
   */
  seatStarts(day: ZoneDay): SeatStarts[] {
    const all = new Map<string, { need: TimedNeed; seats: { seat: Seat; starts: Mask }[] }>();
    for (const [i, { frame }] of this.providerSweeps.entries()) {
      frame.moveTo(day);
      for (const need of frame.needs) {
        if (i > 0 && need.need.what !== 'provider') continue;
        const known = all.get(need.need.key) ?? { need, seats: [] };
        all.set(need.need.key, known);
        for (const seat of need.seats) {
          const lane = this.index.lane(seat.resourceId, frame.site.id);
          const free = this.seats.freeOf(lane, day);
          const accepted = this.seats.accepted(frame, need, lane);
          known.seats.push({ seat, starts: and(startsInside(need, free), accepted) });
        }
      }
    }
    return [...all.values()];
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

  /**
   * Takes off the starts at which nobody serves a group. Nobody more is asked for a day whose starts are all served.
   * Seats are given out from the first of a pool on, so the last ones are the freest and are asked first.
   */
  private keepServedBy(group: Group, frame: Frame, days: readonly ZoneDay[], left: readonly Mask[]): void {
    const served = days.map(() => emptyMask());
    const ranges = left.map(wordRange);
    const pending = days.map((_, i) => i).filter((i) => !isEmpty(left[i]));
    for (let c = group.candidates.length - 1; c >= 0 && pending.length; c--) {
      let kept = 0;
      for (const i of pending)
        if (!this.addServed(served[i], left[i], frame, group, group.candidates[c], days[i], ranges[i]))
          pending[kept++] = i;
      pending.length = kept;
    }
    for (let i = 0; i < days.length; i++) andInto(left[i], served[i]);
  }

  /** In the words of the site's range, and no others; `null` for none. Written over by the next. */
  private startsOf({ frame, own, rules, together }: ProviderSweep, site: SiteStarts): Mask | null {
    const { left } = this;
    // The provider alone can serve their own needs.
    if (!own) copyWords(left, site.starts, site.range);
    else if (!this.keepServed(left, site.starts, frame, own, own.candidates[0], site.range)) return null;
    if (!rules.length && !together) return left;
    for (const rule of rules) {
      const hidden = rule.hide(frame);
      if (hidden !== NO_CELLS && !dropWords(left, hidden, site.range)) return null;
    }
    if (!together) return left;
    const starts = emptyMask();
    copyWords(starts, left, site.range);
    this.keepChosen(frame, starts);
    return isEmpty(starts) ? null : starts;
  }

  /** Adds the wanted starts at which a candidate serves the whole group; whether all wanted ones are found then. */
  private addServed(
    found: Mask,
    wanted: Mask,
    frame: Frame,
    group: Group,
    candidate: Candidate,
    day: ZoneDay,
    range: WordRange,
  ): boolean {
    const known = this.seats.look(candidate.lane, day);
    if (known === NEVER_FREE) return false;
    frame.moveTo(day);
    const [window, another] = group.windows;
    if (known === SOMETIMES_FREE && !another && this.seats.acceptedOf(frame, group, candidate) === EVERY_CELL)
      return addRuns(found, wanted, this.seats.free, this.seats.at, window.lengthCells, window.fromCell, range);
    const { scratch } = this;
    for (let w = 0; w < WORDS; w++) scratch[w] = wanted[w] & ~found[w];
    if (this.keepServed(scratch, scratch, frame, group, candidate, range)) orInto(found, scratch);
    return covers(found, wanted);
  }

  /**
   * Writes into `out` the wanted starts, all of them in `range`, at which a candidate serves the whole group; nothing
   * else of `out` is written. `out` may be `wanted`.
   *
   * @returns whether there are any; if not, `out` holds anything
   */
  private keepServed(
    out: Mask,
    wanted: Mask,
    frame: Frame,
    group: Group,
    candidate: Candidate,
    range: WordRange,
  ): boolean {
    // Who looked is still turned to this day.
    const accepted = this.seats.acceptedOf(frame, group, candidate);
    let from = wanted;
    for (const { lengthCells, fromCell } of group.windows) {
      if (!keepRuns(out, from, this.seats.free, this.seats.at, lengthCells, fromCell, range)) return false;
      from = out;
    }
    return accepted === EVERY_CELL || keepWords(out, accepted, range);
  }

  /** Takes off the starts at which each need could be served, but no choice of seats serves all. */
  private keepChosen(frame: Frame, starts: Mask): void {
    const judged = frame.needs.map((need) => evaluateNeed(frame, need));
    for (const rule of JOINT_RULES) {
      if (!binds(rule, frame) || !rule.concerns(frame)) continue;
      for (const cell of cellsOf(starts))
        if (!rule.served(frame, cell, seatsLeft(judged, cell))) starts[cell >>> 5] &= ~(1 << (cell & 31));
    }
  }
}

/** One need with those who could serve it. */
export interface SeatStarts {
  readonly need: TimedNeed;
  readonly seats: readonly { readonly seat: Seat; readonly starts: Mask }[];
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

function keepWords(mask: Mask, other: Mask, { first, last }: WordRange): boolean {
  let any = 0;
  for (let w = first; w <= last; w++) any |= mask[w] &= other[w];
  return any !== 0;
}

/** Whether any is left. */
function dropWords(mask: Mask, other: Mask, { first, last }: WordRange): boolean {
  let any = 0;
  for (let w = first; w <= last; w++) any |= mask[w] &= ~other[w];
  return any !== 0;
}

function copyWords(mask: Mask, other: Mask, { first, last }: WordRange): void {
  for (let w = first; w <= last; w++) mask[w] = other[w];
}

function covers(mask: Mask, wanted: Mask): boolean {
  for (let w = 0; w < wanted.length; w++) if (wanted[w] & ~mask[w]) return false;
  return true;
}
