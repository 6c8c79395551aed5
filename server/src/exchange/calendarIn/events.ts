import { daysBetween } from '@zaguan/core/time';
import { type CalendarPart, propertiesOf, type Property } from './lines.ts';
import { after, type Length, lengthFrom, type Moment, momentOf, momentsOf, type Reading } from './moments.ts';
import { type Clock, type Instant, Unreadable } from './wall.ts';

/** From when to when; both are days, the end not included, or both are instants. */
export interface Occurrence {
  readonly start: Moment;
  readonly end: Moment;
}

/** The event or the one occurrence that a part of a calendar speaks of. */
export interface CalendarEvent {
  readonly uid: string | null;
  readonly summary: string;
  readonly sequence: number;
  readonly cancelled: boolean;
  readonly transparent: boolean;
  /** When it is; a cancellation need not say. */
  readonly first: Occurrence | null;
  /** The end of an occurrence that begins at another moment. */
  endOf(start: Moment): Moment;
  /** Which occurrence of its series this is instead of, and whether of all later ones too. */
  readonly insteadOf: { readonly moment: Moment; readonly andFuture: boolean } | null;
  /** Rules by which it repeats, as jCal has them. */
  readonly rules: readonly object[];
  readonly more: readonly { readonly start: Moment; readonly end: Moment | null }[];
  readonly except: readonly Moment[];
  /** Properties that could not be read and that the rest does not hang on. */
  readonly unread: readonly string[];
}

const NAMES = new Set(
  'uid summary sequence status transp dtstart dtend duration recurrence-id rrule rdate exdate exrule'.split(' '),
);
const MAX_SUMMARY_LENGTH = 80;

/** The title as far as the part has one that can be read: to name a part that can't. */
export function summaryOf(part: CalendarPart): string {
  try {
    return summaryIn(propertiesOf(part, new Set(['summary'])));
  } catch {
    return '';
  }
}

function summaryIn(found: ReadonlyMap<string, readonly Property[]>): string {
  return textOf(found, 'summary')
    .replace(/[\s\p{Cc}]+/gu, ' ')
    .slice(0, MAX_SUMMARY_LENGTH);
}

/**
 * Reads a VEVENT.
 *
 * @param cancels it stands in a calendar whose METHOD is CANCEL
 *
 * Throws `Unreadable` if it says nothing that can be relied on.
 */
export function eventOf(part: CalendarPart, reading: Reading, cancels: boolean): CalendarEvent {
  const found = readable(part);
  const start = firstOf(found, 'dtstart');
  const cancelled = cancels || textOf(found, 'status').toUpperCase() === 'CANCELLED';
  if (!start && !cancelled) throw new Unreadable('no-start', '');
  const from = start ? momentOf(start.values[0], start, reading) : null;
  const clock = from && 'clock' in from ? from.clock : undefined;
  const endOf = from ? endsOf(from, found, reading, clock) : (moment: Moment) => moment;
  const unread: string[] = found.has('exrule') ? ['EXRULE'] : [];
  const leniently = <T>(name: string, read: (property: Property) => readonly T[]): T[] =>
    (found.get(name) ?? []).flatMap((property) => {
      try {
        return read(property);
      } catch (error) {
        if (!(error instanceof Unreadable)) throw error;
        unread.push(error.code === 'unknown-zone' ? `${name.toUpperCase()}: ${error.detail}` : name.toUpperCase());
        return [];
      }
    });
  const instead = firstOf(found, 'recurrence-id');
  return {
    uid: textOf(found, 'uid') || null,
    summary: summaryIn(found),
    sequence: Number(textOf(found, 'sequence')) || 0,
    cancelled,
    transparent: textOf(found, 'transp').toUpperCase() === 'TRANSPARENT',
    first: from && { start: from, end: endOf(from) },
    endOf,
    insteadOf: instead
      ? {
          moment: momentOf(instead.values[0], instead, reading, clock),
          andFuture: instead.params.range?.toUpperCase() === 'THISANDFUTURE',
        }
      : null,
    rules: (found.get('rrule') ?? []).flatMap(({ values }) => values as object[]),
    more: leniently('rdate', (property) => extraDates(property, reading, clock)),
    except: leniently('exdate', (property) => momentsOf(property, reading, clock)),
    unread,
  };
}

function readable(part: CalendarPart): Map<string, Property[]> {
  try {
    return propertiesOf(part, NAMES);
  } catch (error) {
    const name = error instanceof SyntaxError ? error.message : '';
    throw new Unreadable(name === 'RRULE' ? 'rule-not-read' : 'not-readable', name);
  }
}

/** RDATE, also with an end of its own (VALUE=PERIOD). */
function extraDates(property: Property, reading: Reading, clock?: Clock): { start: Moment; end: Moment | null }[] {
  if (property.type !== 'period') return momentsOf(property, reading, clock).map((start) => ({ start, end: null }));
  return periodsOf(property, reading, clock);
}

/** Periods (RFC 5545 §3.3.9), as RDATE and FREEBUSY have them. */
export function periodsOf(property: Property, reading: Reading, clock?: Clock): Occurrence[] {
  return property.values.map((value) => {
    const [from, to] = value as [string, string];
    const start = momentOf(from, property, reading, clock);
    const end = /^[+-]?P/.test(to) ? after(start, lengthFrom(to)) : momentOf(to, property, reading, clock);
    return { start, end };
  });
}

/**
 * How an occurrence ends. One that is told by DTEND is always exactly as long (RFC 5545 §3.8.5.3), one told by DURATION
 * by the calendar's days and elapsed hours (§3.3.6); whole days without either are one day (§3.6.1).
 */
function endsOf(
  start: Moment,
  found: ReadonlyMap<string, readonly Property[]>,
  reading: Reading,
  clock?: Clock,
): (start: Moment) => Moment {
  const dtend = firstOf(found, 'dtend');
  if (dtend) {
    const end = momentOf(dtend.values[0], dtend, reading, clock);
    if ('date' in start !== 'date' in end) throw new Unreadable('not-readable', 'DTEND');
    return (moment) => after(moment, lengthBetween(start, end));
  }
  const duration = firstOf(found, 'duration');
  const length = duration ? lengthFrom(String(duration.values[0])) : { days: 'date' in start ? 1 : 0, seconds: 0 };
  return (moment) => after(moment, length);
}

/** An end on the first day itself is written by programs that count it in: it is one day. */
function lengthBetween(start: Moment, end: Moment): Length {
  if ('date' in start) {
    const days = 'date' in end ? daysBetween(start.date, end.date) : 0;
    if (days < 0) throw new Unreadable('end-before-start', '');
    return { days: Math.max(1, days), seconds: 0 };
  }
  const seconds: Instant = 'date' in end ? 0 : end.instant - start.instant;
  if (seconds < 0) throw new Unreadable('end-before-start', '');
  return { days: 0, seconds };
}

function firstOf(found: ReadonlyMap<string, readonly Property[]>, name: string): Property | undefined {
  return found.get(name)?.[0];
}

function textOf(found: ReadonlyMap<string, readonly Property[]>, name: string): string {
  return String(firstOf(found, name)?.values[0] ?? '');
}
