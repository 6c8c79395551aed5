import { bookInto } from '../booking/index.ts';
import {
  askedType,
  ClinicIndex,
  type ClinicStore,
  type OpenDay,
  openDays,
  type SearchCriteria,
} from '../openings/index.ts';
import {
  addDays,
  CELL_MIN,
  cellsOf,
  datesFrom,
  type EpochMinute,
  epochOfCell,
  hasCell,
  type LocalDate,
  orInto,
  type ZoneDay,
} from '../time/index.ts';
import { lengthOf } from '../visits/index.ts';
import { type Member, Order } from './householdOrder.ts';
import { limitsAllow, SeatBound } from './householdSeats.ts';
import type { Budget } from './budget.ts';
import { type Answers, type Day, type Time, wantedStarts, type Where } from './times.ts';

export interface HouseholdCriteria {
  /** One for each member. */
  readonly criteriaList: readonly SearchCriteria[];
  readonly where: Where;
  /** One after the other, or all at the same time. */
  readonly how: 'back-to-back' | 'side-by-side';
  /** The longest wait between the end of one and the start of the next; at the same time: between the starts. */
  readonly mostWaitMin: number;
}

/** More members would be more orders than anyone waits for. */
export const MAX_MEMBERS = 5;

/** A household at one site from one start on. */
interface Placed {
  readonly times: readonly Time[];
  readonly start: EpochMinute;
}

/**
 * Times for a household at one site on one day: back to back in whatever order works, or side by side. One answer for
 * each site and start of the first, the one that ends soonest, by start.
 *
 * Exact, by bound and prune: putting one member down can only take starts away from the others, so what each member
 * could have alone bounds what all can have together. A day whose bound is nothing costs one search for each member;
 * only on the others are visits put into the store and the bound is worked out again from what they leave.
 *
 * @param budget how much may be tried; the answer says when it was not enough
 */
export function householdTimes(
  store: ClinicStore,
  now: EpochMinute,
  wanted: HouseholdCriteria,
  limit: number,
  budget: Budget,
): Answers {
  const { criteriaList, where } = wanted;
  const readers = where.siteIds.map((siteId) => ({
    siteId,
    days: criteriaList.map(
      (criteria) => new DayReader(new ClinicIndex(store, now), criteria, { ...where, siteIds: [siteId] }),
    ),
  }));
  let found: Placed[] = [];
  for (const date of datesFrom(where.from, where.until)) {
    for (const { siteId, days } of readers) {
      const read = days.map((reader) => reader.on(date));
      const members = read.flatMap((each, i) => (each.length ? [toMember(store, criteriaList[i], i, each)] : []));
      if (members.length < criteriaList.length) continue;
      const day = store.day(siteId, date);
      found.push(...new HouseholdDay(store, now, wanted, { siteId, day }, members, budget).answers(limit));
    }
    found = found.sort((a, b) => a.start - b.start).slice(0, limit);
    if (budget.spent()) break;
    // Elsewhere the next day may begin before this one's last start.
    const next = Math.min(...where.siteIds.map((siteId) => store.day(siteId, addDays(date, 1)).start));
    if (found.length === limit && found[limit - 1].start < next) break;
  }
  return { found: found.map(({ times }) => ({ times })), gaveUp: budget.spent() };
}

/** Reads one member's starts at one site day after day; what lies ahead is not read before somebody asks for it. */
class DayReader {
  private readonly ahead: Iterator<OpenDay>;
  private next: IteratorResult<OpenDay>;

  constructor(
    private readonly index: ClinicIndex,
    private readonly criteria: SearchCriteria,
    private readonly where: Where,
  ) {
    this.ahead = openDays(index, criteria, where)[Symbol.iterator]();
    this.next = this.ahead.next();
  }

  on(date: LocalDate): Day[] {
    const read: Day[] = [];
    for (; !this.next.done && this.next.value.day.date <= date; this.next = this.ahead.next()) {
      if (this.next.value.day.date !== date) continue;
      const day = wantedStarts(this.index, this.criteria, this.where, this.next.value);
      if (day) read.push(day);
    }
    return read;
  }
}

function toMember(store: ClinicStore, criteria: SearchCriteria, at: number, days: readonly Day[]): Member {
  const any = days[0].starts.slice();
  for (const { starts } of days) orInto(any, starts);
  const { patientId: _, ...alike } = criteria;
  const type = askedType(store, criteria);
  return { at, criteria, type, lengthCells: lengthOf(type) / CELL_MIN, days, any, alike: JSON.stringify(alike) };
}

/** One site on one day: the members are put down one by one, each looking only at what the others left. */
class HouseholdDay {
  private readonly waitCells: number;
  /** By the member's place among the members’ criteria. */
  private readonly placed = new Map<number, Time>();

  constructor(
    private readonly store: ClinicStore,
    private readonly now: EpochMinute,
    private readonly wanted: HouseholdCriteria,
    private readonly at: { readonly siteId: string; readonly day: ZoneDay },
    private readonly members: readonly Member[],
    private readonly budget: Budget,
  ) {
    this.waitCells = Math.floor(wanted.mostWaitMin / CELL_MIN);
  }

  /** The first `most` starts at which all can come. */
  answers(limit: number): Placed[] {
    const { how } = this.wanted;
    const found: Placed[] = [];
    const index = new ClinicIndex(this.store, this.now);
    if (!limitsAllow(index, this.at.siteId, this.at.day, this.members)) return found;
    const order = new Order(this.members, how, this.waitCells);
    const firsts = cellsOf(order.firsts());
    const seats =
      how === 'side-by-side' && firsts.length ? new SeatBound(index, this.at, this.members, this.waitCells) : null;
    for (const cell of firsts) {
      if (found.length === limit || this.budget.spent()) break;
      if (seats && !seats.allows(cell)) continue;
      const best = { end: Number.POSITIVE_INFINITY, times: null as readonly Time[] | null };
      this.goOn(order, { cell, first: true }, cell, best);
      if (best.times) found.push({ times: best.times, start: epochOfCell(this.at.day, cell) });
    }
    return found;
  }

  /**
   * Puts the next member down in every way that could still end sooner than the best found.
   *
   * @param from the cell at which the last one ended, or at which the first must start
   * @param firstCell the cell at which the first one starts
   */
  private goOn(
    order: Order,
    from: { cell: number; first: boolean },
    firstCell: number,
    best: { end: number; times: readonly Time[] | null },
  ): void {
    const endSoFar = this.endOfPlaced();
    for (const { member, cell, endCell } of order.choices(from, firstCell)) {
      if (Math.max(endSoFar, epochOfCell(this.at.day, endCell)) >= best.end) continue;
      for (const { providerId, starts } of member.days) {
        if (!hasCell(starts, cell) || this.budget.spent()) continue;
        const start = epochOfCell(this.at.day, cell);
        const time: Time = {
          siteId: this.at.siteId,
          providerId,
          date: this.at.day.date,
          start,
          end: start + member.lengthCells * CELL_MIN,
        };
        this.put(order, member, time, cell, firstCell, best);
        if (Math.max(endSoFar, epochOfCell(this.at.day, endCell)) >= best.end) break;
      }
    }
  }

  private put(
    order: Order,
    member: Member,
    time: Time,
    cell: number,
    firstCell: number,
    best: { end: number; times: readonly Time[] | null },
  ): void {
    this.placed.set(member.at, time);
    const rest = order.members.filter((other) => other !== member);
    try {
      if (!rest.length) {
        const end = this.endOfPlaced();
        const times = this.wanted.criteriaList.flatMap((_, i) => this.placed.get(i) ?? []);
        if (end < best.end) Object.assign(best, { end, times });
        return;
      }
      const id = `household ${member.at}`;
      this.budget.take();
      if (!bookInto(this.store, this.now, id, { criteria: member.criteria, ...time })) return;
      try {
        const left = this.lookAgain(rest, firstCell);
        if (left) {
          const next = new Order(left, this.wanted.how, this.waitCells);
          this.goOn(next, { cell: cell + member.lengthCells, first: false }, firstCell, best);
        }
      } finally {
        this.store.drop(id);
      }
    } finally {
      this.placed.delete(member.at);
    }
  }

  private endOfPlaced(): EpochMinute {
    let last = 0;
    for (const { end } of this.placed.values()) last = Math.max(last, end);
    return last;
  }

  /** Whether a member has a start left within the wait after the first one's. */
  private comesInTime({ any }: Member, firstCell: number): boolean {
    for (let cell = firstCell; cell <= firstCell + this.waitCells; cell++) if (hasCell(any, cell)) return true;
    return false;
  }

  /** What those not yet placed could have now; `null` if one of them has nothing left, or nothing in time. */
  private lookAgain(rest: readonly Member[], firstCell: number): Member[] | null {
    const { siteId, day } = this.at;
    const where = { ...this.wanted.where, siteIds: [siteId], from: day.date, until: day.date };
    const index = new ClinicIndex(this.store, this.now);
    const left: Member[] = [];
    for (const { criteria, at } of rest) {
      const days = [...openDays(index, criteria, where)].flatMap(
        (open) => wantedStarts(index, criteria, where, open) ?? [],
      );
      if (!days.length) return null;
      const member = toMember(this.store, criteria, at, days);
      if (this.wanted.how === 'side-by-side' && !this.comesInTime(member, firstCell)) return null;
      left.push(member);
    }
    return left;
  }
}
