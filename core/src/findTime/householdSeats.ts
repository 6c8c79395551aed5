import { capBucket, type ClinicIndex, type SeatStarts, SiteSweep } from '../openings/index.ts';
import { hasCell, type Mask, touchedWithin, type ZoneDay } from '../time/index.ts';
import type { Member } from './householdOrder.ts';

interface Item {
  /** Cells after the first one's start in which it surely takes its seat, whenever within the wait it starts. */
  readonly from: number;
  readonly to: number;
  /** Who could serve it, by seat, with the cells of the first one's start. */
  readonly seats: readonly { readonly id: string; readonly starts: Mask }[];
}

/**
 * Whether members who come at the same time could each have what they need, as far as one thing can't serve two at
 * once: for each moment, a matching of all needs of that moment and those who could serve them. A bound: yes does not
 * yet mean that all of it holds together.
 */
export class SeatBound {
  /** Needs that take something at the same moment. */
  private readonly moments: readonly (readonly Item[])[];

  constructor(index: ClinicIndex, at: { siteId: string; day: ZoneDay }, members: readonly Member[], waitCells: number) {
    const items = members.flatMap((member) =>
      seatStartsOf(index, at, member).flatMap(({ need, seats }): Item[] => {
        const from = need.fromCell + waitCells;
        const to = need.fromCell + need.lengthCells;
        return from < to ? [{ from, to, seats: seats.map((each) => widened(each, waitCells)) }] : [];
      }),
    );
    const begins = [...new Set(items.map(({ from }) => from))];
    this.moments = begins
      .map((moment) => items.filter(({ from, to }) => from <= moment && moment < to))
      .filter((together) => together.length > 1);
  }

  /** @param cell the start of the first */
  allows(cell: number): boolean {
    return this.moments.every((items) =>
      matchesAll(items.map(({ seats }) => seats.flatMap(({ id, starts }) => (hasCell(starts, cell) ? [id] : [])))),
    );
  }
}

function seatStartsOf(index: ClinicIndex, { siteId, day }: { siteId: string; day: ZoneDay }, { wish, days }: Member) {
  const providers = days.map(({ providerId }) => providerId);
  return new SiteSweep(index, wish, siteId, providers, day.date).seatStarts(day);
}

function widened({ seat, starts }: SeatStarts['seats'][number], waitCells: number) {
  return { id: `${seat.resourceId} ${seat.place}`, starts: waitCells ? touchedWithin(starts, waitCells + 1) : starts };
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
      for (const { wish } of members) {
        const { visitTypeId, channel } = wish;
        const bucket = capBucket(cap, { providerId: null, siteId, visitTypeId, selfBooked: channel !== 'desk' });
        if (bucket) wanted.set(bucket, (wanted.get(bucket) ?? 0) + 1);
      }
      return [...wanted].every(([bucket, n]) => index.store.taken.countIn(bucket, day.date) + n <= cap.most);
    });
}
