import { bookInto } from '../booking/index.ts';
import { ClinicIndex, type ClinicStore, type SearchCriteria } from '../openings/index.ts';
import type { EpochMinute } from '../time/index.ts';
import type { Budget } from './budget.ts';
import { type Answers, type Time, timesFor, type Where } from './times.ts';

/** One of several visits that belong together. */
export interface Step {
  readonly criteria: SearchCriteria;
  /** Where and when it may be, given those placed before it; `null`: nowhere. */
  where(placed: readonly Time[]): Where | null;
  /** Whether a time fits those placed before it. */
  fits(time: Time, placed: readonly Time[]): boolean;
  /** The better of two times has the smaller one. */
  cost(time: Time, placed: readonly Time[]): number;
}

/**
 * Times for visits that belong together, such that all of them can be booked: each is put into the store before the
 * next one looks, so that they never take each other's provider, room or limit. One answer for each start of the
 * first visit, by that start. The visits are taken out again before this returns.
 *
 * @returns the first `most` answers
 */
export function placeTogether(
  store: ClinicStore,
  now: EpochMinute,
  steps: readonly Step[],
  limit: number,
  budget: Budget,
): Answers {
  const found: Time[][] = [];
  const place = (placed: readonly Time[]): Time[] | null => {
    const step = steps[placed.length];
    if (!step) return [...placed];
    const where = step.where(placed);
    if (!where) return null;
    const choices = [...timesFor(new ClinicIndex(store, now), step.criteria, where)]
      .filter((time) => step.fits(time, placed))
      .map((time) => ({ time, cost: step.cost(time, placed) }))
      .sort((a, b) => a.cost - b.cost || a.time.start - b.time.start);
    for (const { time } of choices) {
      budget.take();
      if (budget.spent()) return null;
      const all = placed.length + 1 === steps.length ? [...placed, time] : held(time, step.criteria, placed);
      if (all) return all;
    }
    return null;
  };
  /** Goes on with a time taken. */
  const held = (time: Time, criteria: SearchCriteria, placed: readonly Time[]): Time[] | null => {
    const id = `together ${placed.length}`;
    if (!bookInto(store, now, id, { criteria, ...time })) return null;
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
  const firsts = where ? [...timesFor(new ClinicIndex(store, now), first.criteria, where)] : [];
  for (const time of firsts) {
    if (found.length === limit || budget.spent()) break;
    const key = `${time.siteId} ${time.start}`;
    if (starts.has(key) || !first.fits(time, [])) continue;
    budget.take();
    const all = steps.length === 1 ? [time] : held(time, first.criteria, []);
    if (!all) continue;
    starts.add(key);
    found.push(all);
  }
  return { found: found.map((times) => ({ times })), gaveUp: budget.spent() };
}
