import { bookInto } from '../booking/index.ts';
import { ClinicIndex, type ClinicStore, type Wish } from '../openings/index.ts';
import type { EpochMinute } from '../time/index.ts';
import { type Time, timesFor, type Where } from './times.ts';

/** One of several visits that belong together. */
export interface Step {
  readonly wish: Wish;
  /** Where and when it may be, given those placed before it; `null`: nowhere. */
  where(placed: readonly Time[]): Where | null;
  /** Whether a time fits those placed before it. */
  fits(time: Time, placed: readonly Time[]): boolean;
  /** The better of two times has the smaller one. */
  cost(time: Time, placed: readonly Time[]): number;
}

/** A search gives up after having tried so many times; nobody waits longer. */
export const MOST_TRIED = 4000;

/**
 * Times for visits that belong together, such that all of them can be booked: each is put into the store before the
 * next one looks, so that they never take each other's provider, room or limit. One answer for each start of the
 * first visit, by that start. The visits are taken out again before this returns.
 *
 * @returns the first `most` answers, and whether the search gave up before it had seen everything
 */
export function placeTogether(
  store: ClinicStore,
  now: EpochMinute,
  steps: readonly Step[],
  most: number,
): { found: Time[][]; gaveUp: boolean } {
  const found: Time[][] = [];
  let tried = 0;
  const place = (placed: readonly Time[]): Time[] | null => {
    const step = steps[placed.length];
    if (!step) return [...placed];
    const where = step.where(placed);
    if (!where) return null;
    const choices = [...timesFor(new ClinicIndex(store, now), step.wish, where)]
      .filter((time) => step.fits(time, placed))
      .map((time) => ({ time, cost: step.cost(time, placed) }))
      .sort((a, b) => a.cost - b.cost || a.time.start - b.time.start);
    for (const { time } of choices) {
      if (++tried > MOST_TRIED) return null;
      const all = placed.length + 1 === steps.length ? [...placed, time] : held(time, step.wish, placed);
      if (all) return all;
    }
    return null;
  };
  /** Goes on with a time taken. */
  const held = (time: Time, wish: Wish, placed: readonly Time[]): Time[] | null => {
    const id = `together ${placed.length}`;
    if (!bookInto(store, now, id, { wish, ...time })) return null;
    try {
      return place([...placed, time]);
    } finally {
      store.drop(id);
    }
  };
  const [first] = steps;
  const where = first.where([]);
  const starts = new Set<string>();
  // Times of the first visit are read before anything is put: the store must stand still under a lazy search.
  const firsts = where ? [...timesFor(new ClinicIndex(store, now), first.wish, where)] : [];
  for (const time of firsts) {
    if (found.length === most || tried > MOST_TRIED) break;
    const key = `${time.siteId} ${time.start}`;
    if (starts.has(key) || !first.fits(time, [])) continue;
    tried++;
    const all = steps.length === 1 ? [time] : held(time, first.wish, []);
    if (!all) continue;
    starts.add(key);
    found.push(all);
  }
  return { found, gaveUp: tried > MOST_TRIED };
}
