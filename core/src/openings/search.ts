import {
  addDays,
  andNot,
  cellsOf,
  countCells,
  emptyMask,
  type EpochMinute,
  epochOfCell,
  epochToWall,
  fullMask,
  isEmpty,
  type LocalDate,
  type Mask,
  or,
  orInto,
} from '../time/index.ts';
import { binds, judgeNeed, seatsLeft } from './chain.ts';
import type { ClinicIndex } from './clinicIndex.ts';
import { type Frame, frameOf, needsProvider, type Wish } from './frame.ts';
import { JOINT_RULES, START_RULES } from './rules/index.ts';

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

/** Start cells at which the frame's visit can be booked: every rule's mask joined. */
export function openStarts(frame: Frame): Mask {
  const everyStart = fullMask(frame.day.cells);
  let hidden = emptyMask();
  for (const rule of START_RULES) {
    if (!binds(rule, frame)) continue;
    hidden = or(hidden, rule.hide(frame));
    if (isEmpty(andNot(everyStart, hidden))) return emptyMask();
  }
  const judged = [];
  for (const need of frame.needs) {
    const result = judgeNeed(frame, need);
    judged.push(result);
    for (const mask of result.hiddenBy.values()) orInto(hidden, mask);
    if (isEmpty(andNot(everyStart, hidden))) return emptyMask();
  }
  const open = andNot(everyStart, hidden);
  for (const rule of JOINT_RULES) {
    if (!rule.concerns(frame)) continue;
    for (const cell of cellsOf(open))
      if (!rule.served(frame, cell, seatsLeft(judged, cell))) open[cell >>> 5] &= ~(1 << (cell & 31));
  }
  return open;
}

/** Providers to try for a wish at a site: those asked for, else all who perform it; `[null]` where none is needed. */
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
    index.snapshot.resources.filter((resource) => resource.kind === 'provider').map((resource) => resource.id)
  );
}

/**
 * All openings for a wish, by date, then site and provider, each in time order. Lazy: whoever needs the first
 * fifty takes fifty.
 */
export function* searchOpenings(index: ClinicIndex, wish: Wish, range: SearchRange): Generator<Opening> {
  for (let date = range.from; date <= range.until; date = addDays(date, 1)) {
    for (const siteId of range.siteIds) {
      for (const providerId of providersToTry(index, wish.visitTypeId, range.providerIds)) {
        const frame = frameOf(index, wish, siteId, providerId, date);
        for (const cell of cellsOf(openStarts(frame)))
          yield { siteId, providerId, date, start: epochOfCell(frame.day, cell) };
      }
    }
  }
}

/** How many different start times each date has (two providers free at once count once), and the first of all. */
export function countByDay(
  index: ClinicIndex,
  wish: Wish,
  siteId: string,
  range: Omit<SearchRange, 'siteIds'>,
): { days: { date: LocalDate; starts: number }[]; first: Opening | null } {
  const days: { date: LocalDate; starts: number }[] = [];
  let first: Opening | null = null;
  for (let date = range.from; date <= range.until; date = addDays(date, 1)) {
    const starts = emptyMask();
    for (const providerId of providersToTry(index, wish.visitTypeId, range.providerIds)) {
      const frame = frameOf(index, wish, siteId, providerId, date);
      const open = openStarts(frame);
      orInto(starts, open);
      const cell = cellsOf(open)[0];
      if (cell === undefined) continue;
      const start = epochOfCell(frame.day, cell);
      if (!first || start < first.start) first = { siteId, providerId, date, start };
    }
    days.push({ date, starts: countCells(starts) });
  }
  return { days, first };
}

/** The openings nearest in time to a wanted start, nearest first: what a lost race is answered with. */
export function nearestOpenings(
  index: ClinicIndex,
  wish: Wish,
  siteId: string,
  providerIds: readonly string[] | null,
  wanted: EpochMinute,
  most: number,
  daysAround = 7,
): Opening[] {
  const { date } = epochToWall(index.site(siteId).zone, wanted);
  const found = [
    ...searchOpenings(index, wish, {
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
    .slice(0, most)
    .sort((a, b) => a.start - b.start);
}
