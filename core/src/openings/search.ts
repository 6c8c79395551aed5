import {
  addDays,
  cellsOf,
  countCells,
  datesFrom,
  emptyMask,
  type EpochMinute,
  epochOfCell,
  epochToWall,
  type LocalDate,
  type Mask,
  NO_CELLS,
  orInto,
} from '../time/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { needsProvider, type SearchCriteria } from './frame.ts';
import type { OpenDay } from './openDay.ts';
import { SiteSweep } from './sweep.ts';

/** A time that can be booked now (FHIR Slot, free). */
export interface Opening {
  readonly siteId: string;
  /** `null` where the visit type needs no provider. */
  readonly providerId: string | null;
  readonly date: LocalDate;
  readonly start: EpochMinute;
}

export interface SearchRange {
  readonly siteIds: readonly string[];
  /** `null`: anyone who performs the type. */
  readonly providerIds: readonly string[] | null;
  /** Dates at each site, both included. */
  readonly from: LocalDate;
  readonly until: LocalDate;
}

/** Start cells of one day at which the criteria can be booked; empty for none. */
export function openStarts(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerId: string | null,
  date: LocalDate,
): Mask {
  const [[open]] = new SiteSweep(index, criteria, siteId, [providerId], date).over([index.day(siteId, date)]);
  return open?.starts ?? NO_CELLS;
}

/** Providers to try for a search at a site: those asked for, else all who perform it; `[null]` where none is needed. */
export function providersToTry(
  index: ClinicIndex,
  visitTypeId: string,
  asked: readonly string[] | null,
): readonly (string | null)[] {
  const type = index.visitType(visitTypeId);
  if (!needsProvider(type)) return [null];
  if (asked) return asked;
  return (
    type.providerIds ??
    index.plan.resources.filter((resource) => resource.kind === 'provider').map((resource) => resource.id)
  );
}

/**
 * All openings for a search, by date, then site and provider, each in time order. Lazy: whoever needs the first
 * fifty takes fifty.
 */
export function* searchOpenings(index: ClinicIndex, criteria: SearchCriteria, range: SearchRange): Generator<Opening> {
  for (const { siteId, providerId, day, starts } of openDays(index, criteria, range))
    for (const cell of cellsOf(starts)) yield { siteId, providerId, date: day.date, start: epochOfCell(day, cell) };
}

/** The same as masks, for whoever counts or draws. */
export function* openDays(index: ClinicIndex, criteria: SearchCriteria, range: SearchRange): Generator<OpenDay> {
  const providers = providersToTry(index, criteria.visitTypeId, range.providerIds);
  const sites = range.siteIds.map((siteId) => ({
    siteId,
    sweep: new SiteSweep(index, criteria, siteId, providers, range.from),
  }));
  for (const dates of stretchesOf(datesFrom(range.from, range.until))) {
    const open = sites.map(({ siteId, sweep }) => sweep.over(dates.map((date) => index.day(siteId, date))));
    for (let i = 0; i < dates.length; i++) for (const ofSite of open) for (const day of ofSite[i]) yield day;
  }
}

const MAX_TOGETHER = 64;

/** One date, then four, sixteen and so on: the first openings come at once, and the long rest in long stretches. */
function stretchesOf(dates: readonly LocalDate[]): LocalDate[][] {
  const stretches: LocalDate[][] = [];
  for (let at = 0, length = 1; at < dates.length; at += length) {
    if (at > 0) length = Math.min(MAX_TOGETHER, length * 4);
    stretches.push(dates.slice(at, at + length));
  }
  return stretches;
}

/** How many different start times each date has (two providers free at once count once), and the first of all. */
export function countByDay(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  range: Omit<SearchRange, 'siteIds'>,
): { days: { date: LocalDate; starts: number }[]; first: Opening | null } {
  const days: { date: LocalDate; starts: number }[] = [];
  let first: Opening | null = null;
  const sweep = new SiteSweep(
    index,
    criteria,
    siteId,
    providersToTry(index, criteria.visitTypeId, range.providerIds),
    range.from,
  );
  const all = datesFrom(range.from, range.until).map((date) => index.day(siteId, date));
  for (const [i, openings] of sweep.over(all).entries()) {
    const day = all[i];
    const { date } = day;
    const starts = emptyMask();
    for (const open of openings) {
      orInto(starts, open.starts);
      const start = epochOfCell(day, cellsOf(open.starts)[0]);
      if (!first || start < first.start) first = { siteId, providerId: open.providerId, date, start };
    }
    days.push({ date, starts: countCells(starts) });
  }
  return { days, first };
}

/** The openings nearest in time to a wanted start, nearest first: what a lost race is answered with. */
export function nearestOpenings(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  providerIds: readonly string[] | null,
  wanted: EpochMinute,
  limit: number,
  daysAround = 7,
): Opening[] {
  const { date } = epochToWall(index.site(siteId).zone, wanted);
  const found = [
    ...searchOpenings(index, criteria, {
      siteIds: [siteId],
      providerIds,
      from: addDays(date, -daysAround),
      until: addDays(date, daysAround),
    }),
  ];
  const byStart = new Map<EpochMinute, Opening>();
  for (const opening of found) if (!byStart.has(opening.start)) byStart.set(opening.start, opening);
  return [...byStart.values()]
    .sort((a, b) => Math.abs(a.start - wanted) - Math.abs(b.start - wanted))
    .slice(0, limit)
    .sort((a, b) => a.start - b.start);
}
