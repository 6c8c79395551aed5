import { ClinicIndex, type ClinicStore, openStarts, providersToTry, type SearchCriteria } from '../openings/index.ts';
import { cellsOf, datesFrom, type EpochMinute, epochOfCell, type LocalDate } from '../time/index.ts';
import { bookInto } from './bookInto.ts';

export interface PlacesLeftInput {
  readonly criteria: SearchCriteria;
  readonly siteId: string;
  /** With these alone; left out or `null`: with anyone. */
  readonly providerIds?: readonly string[] | null;
  /** Dates at the site, both included. */
  readonly from: LocalDate;
  readonly until: LocalDate;
}

/**
 * How many visits of a type still fit together: each in turn is put at the earliest start left and stays there. With
 * one kind of visit of one length that is the most for every resource by itself (earliest end first); where visits
 * share pools it is a number that surely fits, and may be less than the very most.
 *
 * The visits are put into the store and taken out again before this returns: give it one that nobody else reads
 * meanwhile, or call it where nothing runs in between.
 *
 * @param now the instant at which the question is asked
 */
export function placesLeft(store: ClinicStore, now: EpochMinute, input: PlacesLeftInput): number {
  const { criteria, siteId, from, until } = input;
  const put: string[] = [];
  try {
    for (const date of datesFrom(from, until)) {
      const providers = providersToTry(new ClinicIndex(store, now), criteria.visitTypeId, input.providerIds ?? null);
      for (const providerId of providers) fill(store, now, criteria, siteId, providerId, date, put);
    }
    return put.length;
  } finally {
    for (const id of put) store.drop(id);
  }
}

function fill(
  store: ClinicStore,
  now: EpochMinute,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  date: LocalDate,
  put: string[],
): void {
  const day = store.day(siteId, date);
  for (;;) {
    // What is put changes what is free: asked anew each time.
    const index = new ClinicIndex(store, now);
    const [first] = cellsOf(openStarts(index, criteria, siteId, providerId, date));
    if (first === undefined) return;
    const id = `place ${put.length}`;
    const thought = { criteria, siteId, providerId, start: epochOfCell(day, first) };
    if (!bookInto(store, now, id, thought)) throw new Error('A start that the search gives can be planned.');
    put.push(id);
  }
}
