import { addDays, daysBetween, type LocalDate } from '@zaguan/core/time';
import ICAL from 'ical.js';
import type { CalendarEvent, Occurrence } from './events.ts';
import { icalTime } from './lines.ts';
import type { Moment } from './moments.ts';
import { DAY_SECONDS, dateOfWall, type Instant, Unreadable, wallFrom, wallOf } from './wall.ts';

/** Which occurrences are wanted. */
export interface Window {
  /** Those that end after this day begins. */
  readonly from: LocalDate;
  readonly fromInstant: Instant;
  /** Those that begin up to this day. */
  readonly last: LocalDate;
}

/** How much may be looked at. */
export interface Budget {
  steps: number;
  /** Called at each step: a rule with many is at work, and only one without end is stuck. */
  readonly onStep: () => void;
}

/** More of one event are not a calendar's business: a rule by the minute. Two years of days are fewer. */
export const MAX_OCCURRENCES = 800;
/** One event's rule is followed through so many, the rest of the file must have its turn. */
const MAX_STEPS = 10_000;

/** An occurrence, by the title of what tells it. */
export interface TitledOccurrence extends Occurrence {
  readonly summary: string;
}

export type Series =
  | { readonly occurrences: readonly TitledOccurrence[] }
  | { readonly refused: 'too-many-repeats' | 'takes-too-long' | 'rule-over' };

/**
 * The occurrences of an event that repeats: its start, its rules and extra dates, without its exceptions, and with what
 * was told apart for one of them or for all from one on (RFC 5545 §3.8.4.4, §3.8.5). Everything is compared as instants,
 * whatever zones the properties are in.
 *
 * @param counts whether an occurrence told by this event takes time at all (not cancelled, not free)
 *
 * Throws `Unreadable` for a rule that can't be followed.
 */
export function seriesOf(
  event: CalendarEvent,
  apart: readonly CalendarEvent[],
  counts: (event: CalendarEvent) => boolean,
  window: Window,
  budget: Budget,
): Series {
  if (!event.first) throw new Unreadable('no-start', '');
  const own = new Map<string, Occurrence>();
  const wanted = (occurrence: Occurrence) =>
    'date' in occurrence.end ? occurrence.end.date > window.from : occurrence.end.instant > window.fromInstant;
  const add = (start: Moment, end: Moment | null = null): boolean => {
    const occurrence = { start, end: end ?? event.endOf(start) };
    if (wanted(occurrence)) own.set(keyOf(start), occurrence);
    return own.size <= MAX_OCCURRENCES;
  };
  add(event.first.start);
  for (const { start, end } of event.more) add(start, end);
  for (const rule of event.rules) {
    const refused = follow(rule, event, window, budget, add);
    if (refused) return { refused };
  }
  const exact = apart.filter(({ insteadOf }) => insteadOf && !insteadOf.andFuture);
  const onward = apart
    .filter(({ insteadOf }) => insteadOf?.andFuture)
    .sort((a, b) => orderOf(momentOfApart(a)) - orderOf(momentOfApart(b)));
  const gone = [...event.except, ...exact.map(momentOfApart)];
  const left = [...own.values()].filter(({ start }) => !gone.some((moment) => isSame(moment, start)));
  const titled = (occurrence: Occurrence, by: CalendarEvent) => ({
    ...occurrence,
    summary: by.summary || event.summary,
  });
  const occurrences = left.flatMap((occurrence) => {
    const since = onward.findLast((each) => orderOf(momentOfApart(each)) <= orderOf(occurrence.start));
    if (!since) return counts(event) ? [titled(occurrence, event)] : [];
    return counts(since) ? [titled(shifted(occurrence, since), since)] : [];
  });
  for (const each of exact)
    if (each.first && counts(each) && wanted(each.first)) occurrences.push(titled(each.first, each));
  occurrences.sort((a, b) => orderOf(a.start) - orderOf(b.start));
  if (!occurrences.length) return { refused: 'rule-over' };
  return { occurrences };
}

const momentOfApart = ({ insteadOf }: CalendarEvent): Moment => {
  if (!insteadOf) throw new Error('Only what is told apart has one.');
  return insteadOf.moment;
};

/** Later occurrences move as far on the clock as the first of them did. */
function shifted(occurrence: Occurrence, since: CalendarEvent): Occurrence {
  const [from, to] = [momentOfApart(since), since.first?.start];
  const { start } = occurrence;
  if (!to) return occurrence;
  if ('date' in start || 'date' in from || 'date' in to) {
    if (!('date' in start && 'date' in from && 'date' in to)) return occurrence;
    const date = addDays(start.date, daysBetween(from.date, to.date));
    return { start: { date }, end: since.endOf({ date }) };
  }
  const wall = start.wall + (to.wall - start.clock.wallOf(from.instant));
  const moved = { wall, instant: to.clock.instantOf(wall), clock: to.clock };
  return { start: moved, end: since.endOf(moved) };
}

/** Calls back with what a rule gives, up to the window's end; `null` if it was followed to there, else why not. */
function follow(
  rule: object,
  event: CalendarEvent,
  window: Window,
  budget: Budget,
  add: (start: Moment) => boolean,
): 'too-many-repeats' | 'takes-too-long' | null {
  if (!event.first) return null;
  const { start, end } = event.first;
  const { until, ...endless } = rule as Rule;
  const startDate = 'date' in start ? start.date : dateOfWall(start.wall);
  const length = daysBetween(startDate, 'date' in end ? end.date : dateOfWall(end.wall));
  const skip = daysToSkip(endless, daysBetween(startDate, window.from) - length - 2);
  const begin = 'date' in start ? addDays(start.date, skip) : isoOf(start.wall + skip * DAY_SECONDS);
  const iterator = readable(() => ICAL.Recur.fromData(onItsOwnDay(endless, startDate)).iterator(icalTime(begin)));
  for (let steps = 0; steps < MAX_STEPS && budget.steps-- > 0; steps++) {
    budget.onStep();
    const next = readable(() => iterator.next());
    if (!next) return null;
    const date = next.toString().slice(0, 10);
    if (date > window.last) return null;
    const moment: Moment = 'date' in start ? { date } : { ...start, ...at(start, wallFrom(next.toString())) };
    if (until && isOver(moment, until)) return null;
    if (!add(moment)) return 'too-many-repeats';
  }
  return 'takes-too-long';
}

/** The library finds out at any step that a rule makes no sense. */
function readable<T>(read: () => T): T {
  try {
    return read();
  } catch {
    throw new Unreadable('rule-not-read', 'RRULE');
  }
}

interface Rule {
  readonly freq: string;
  readonly interval?: number;
  readonly until?: string;
  readonly count?: number;
  readonly [part: string]: unknown;
}

const at = ({ clock }: Extract<Moment, { wall: number }>, wall: number) => ({ wall, instant: clock.instantOf(wall) });
const isoOf = (wall: number) => new Date(wall * 1000).toISOString().slice(0, 19);

/** Rules by days and weeks that began long ago start anew near the window, in step with themselves. */
function daysToSkip({ freq, interval = 1, count }: Rule, days: number): number {
  const period = freq === 'DAILY' ? interval : freq === 'WEEKLY' ? interval * 7 : 0;
  if (!period || count !== undefined) return 0;
  // One period earlier, for the days of a week before its first.
  return Math.max(0, Math.floor(days / period) - 1) * period;
}

const DAY_PARTS = ['byday', 'bymonthday', 'byyearday', 'byweekno'];

/** A yearly rule that names no day keeps that of its start, and skips years without it (RFC 5545 §3.3.10). */
function onItsOwnDay(rule: Rule, start: LocalDate): object {
  if (rule.freq !== 'YEARLY' || DAY_PARTS.some((part) => part in rule)) return rule;
  const [, month, day] = start.split('-').map(Number);
  return { ...rule, bymonth: rule.bymonth ?? month, bymonthday: day };
}

/** UNTIL is in UTC for times with a zone, floating for floating ones, and a day for whole days (RFC 5545 §3.3.10). */
function isOver(moment: Moment, until: string): boolean {
  if ('date' in moment) return moment.date > until.slice(0, 10);
  if (until.length === 10) return dateOfWall(moment.wall) > until;
  return until.endsWith('Z') ? moment.instant > wallFrom(until) : moment.wall > wallFrom(until);
}

const keyOf = (moment: Moment) => ('date' in moment ? moment.date : String(moment.instant));
const orderOf = (moment: Moment) => ('date' in moment ? wallOf(moment.date, 0) : moment.instant);

/** Whether an exception means this occurrence. One that names a day only means that day on the occurrence’s clock. */
function isSame(exception: Moment, occurrence: Moment): boolean {
  if ('date' in occurrence)
    return ('date' in exception ? exception.date : dateOfWall(exception.wall)) === occurrence.date;
  if ('date' in exception) return dateOfWall(occurrence.wall) === exception.date;
  return exception.instant === occurrence.instant;
}
