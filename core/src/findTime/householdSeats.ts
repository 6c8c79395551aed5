import { capBucket, type ClinicIndex, SiteSweep } from '../openings/index.ts';
import { hasCell, type Mask, type ZoneDay } from '../time/index.ts';
import type { Member } from './householdOrder.ts';

interface Item {
  /** Whose, as a place among the members. */
  readonly of: number;
  /** Cells after their start in which it takes its seat. */
  readonly from: number;
  readonly to: number;
  /** Who could serve it, with the cells at which they could start. */
  readonly seats: readonly { readonly id: string; readonly starts: Mask }[];
}

/** An item at one start of its member, with those who could serve it then. */
interface Taken {
  readonly from: number;
  readonly to: number;
  readonly ids: readonly string[];
}

/** A long wait has more combinations than are worth looking at here: then nothing is said against the moment. */
const MAX_TRIES = 1500;

/**
 * Whether members who come at the same time could each have what they need, as far as one thing can't serve two at
 * once: each of them starts somewhere within the wait, and at each moment all needs of that moment are matched with
 * those who could serve them. What shares no seat is looked at apart. A bound: yes does not yet mean that all of it
 * holds together.
 */
export class SeatBound {
  /** Needs that could want the same seat, directly or by way of others. */
  private readonly groups: readonly (readonly Item[])[];
  /** By what is free: one day has few different moments. */
  private readonly known = new Map<string, boolean>();
  private triesLeft = 0;

  constructor(
    index: ClinicIndex,
    at: { siteId: string; day: ZoneDay },
    private readonly members: readonly Member[],
    private readonly waitCells: number,
  ) {
    const items = members.flatMap((member, of) =>
      seatStartsOf(index, at, member).map(({ need: { fromCell, lengthCells }, seats }): Item => {
        const able = seats.flatMap(({ seat: { resourceId }, starts }) => {
          const { places } = index.resourceDay(resourceId, at.siteId, at.day.date);
          return Array.from({ length: places }, (_, place) => ({ id: `${resourceId} ${place}`, starts }));
        });
        return { of, from: fromCell, to: fromCell + lengthCells, seats: able };
      }),
    );
    this.groups = groupsOf(items).filter((group) => new Set(group.map(({ of }) => of)).size > 1);
  }

  /** @param cell the start of the first */
  allows(cell: number): boolean {
    return this.groups.every((group, n) => {
      const key = `${n} ${this.freeAt(group, cell)}`;
      let fits = this.known.get(key);
      if (fits === undefined) {
        this.triesLeft = MAX_TRIES;
        fits = this.fits(group, [...new Set(group.map(({ of }) => of))], cell, []);
        this.known.set(key, fits);
      }
      return fits;
    });
  }

  /** All of the group that is free for a start at `cell` or within the wait after it, as text. */
  private freeAt(group: readonly Item[], cell: number): string {
    let text = '';
    for (const { of, seats } of group)
      for (let start = cell; start <= cell + this.waitCells; start++) {
        text += hasCell(this.members[of].any, start) ? '+' : '-';
        for (const { starts } of seats) text += hasCell(starts, start) ? '1' : '0';
      }
    return text;
  }

  /** Whether the rest of the members find starts beside what is taken already. */
  private fits(
    group: readonly Item[],
    [next, ...rest]: readonly number[],
    cell: number,
    taken: readonly Taken[],
  ): boolean {
    if (next === undefined) return true;
    for (let wait = 0; wait <= this.waitCells; wait++) {
      if (!hasCell(this.members[next].any, cell + wait)) continue;
      if (this.triesLeft-- <= 0) return true;
      const own = group
        .filter(({ of }) => of === next)
        .map(({ from, to, seats }) => ({
          from: from + wait,
          to: to + wait,
          ids: seats.flatMap(({ id, starts }) => (hasCell(starts, cell + wait) ? [id] : [])),
        }));
      const all = [...taken, ...own];
      if (everyMoment(all) && this.fits(group, rest, cell, all)) return true;
    }
    return false;
  }
}

function seatStartsOf(
  index: ClinicIndex,
  { siteId, day }: { siteId: string; day: ZoneDay },
  { criteria, days }: Member,
) {
  const providers = days.map(({ providerId }) => providerId);
  return new SiteSweep(index, criteria, siteId, providers, day.date).seatStarts(day);
}

/** Items that share a seat, by way of others too, are one group. */
function groupsOf(items: readonly Item[]): Item[][] {
  let groups: Item[][] = [];
  for (const item of items) {
    const ids = new Set(item.seats.map(({ id }) => id));
    const meets = (group: readonly Item[]) => group.some(({ seats }) => seats.some(({ id }) => ids.has(id)));
    const joined = groups.filter(meets);
    groups = [...groups.filter((group) => !joined.includes(group)), [...joined.flat(), item]];
  }
  return groups;
}

function everyMoment(items: readonly Taken[]): boolean {
  return items.every(({ from: moment }) =>
    matchesAll(items.filter(({ from, to }) => from <= moment && moment < to).map(({ ids }) => ids)),
  );
}

/** Whether everyone can be given one of theirs, none given twice (augmenting paths). */
function matchesAll(able: readonly (readonly string[])[]): boolean {
  const holder = new Map<string, number>();
  const give = (i: number, tried: Set<string>): boolean => {
    for (const id of able[i]) {
      if (tried.has(id)) continue;
      tried.add(id);
      const other = holder.get(id);
      if (other !== undefined && !give(other, tried)) continue;
      holder.set(id, i);
      return true;
    }
    return false;
  };
  return able.every((_, i) => give(i, new Set()));
}

/** Whether the day's limits by site and type leave room for all; other limits depend on who sees whom when. */
export function limitsAllow(index: ClinicIndex, siteId: string, day: ZoneDay, members: readonly Member[]): boolean {
  return index.plan.caps
    .filter(({ bucket }) => bucket === 'site-type-day')
    .every((cap) => {
      const wanted = new Map<string, number>();
      for (const { criteria } of members) {
        const { visitTypeId, channel } = criteria;
        const bucket = capBucket(cap, { providerId: null, siteId, visitTypeId, selfBooked: channel !== 'desk' });
        if (bucket) wanted.set(bucket, (wanted.get(bucket) ?? 0) + 1);
      }
      return [...wanted].every(([bucket, n]) => index.store.taken.countIn(bucket, day.date) + n <= cap.max);
    });
}
