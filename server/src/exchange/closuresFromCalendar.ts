import { addDays, epochToWall, isZone, type LocalDate, wallToEpoch } from '@zaguan/core/time';
import ICAL from 'ical.js';

/** A closure on the site's wall clock; whole days end with the minute 1440. */
export interface ReadClosure {
  readonly startDate: LocalDate;
  readonly startMinute: number;
  readonly endDate: LocalDate;
  readonly endMinute: number;
  readonly reason: string;
  readonly uid: string | null;
}

export type RefusedCode =
  | 'no-start'
  | 'unknown-zone'
  | 'end-before-start'
  | 'rule-not-read'
  | 'too-many-days'
  | 'too-many-repeats'
  | 'rule-over'
  /** Working it out took so long that it was left. */
  | 'takes-too-long'
  /** Cancelled, or marked as free time; told only to whoever reads busy times. */
  | 'not-busy';

/** An event that was not read: the how-manieth it is, and why. */
export interface RefusedEvent {
  readonly at: number;
  readonly summary: string;
  readonly code: RefusedCode;
  readonly detail: string;
}

export interface ClosuresRead {
  readonly closures: readonly ReadClosure[];
  readonly refused: readonly RefusedEvent[];
}

const CELL_MIN = 5;
const MAX_SUMMARY_LENGTH = 80;
/** A rule that repeats is followed so far ahead of today. */
const AHEAD_DAYS = 730;
const MAX_OCCURRENCES = 200;
/** The rules of a file are followed through so many occurrences in all: one by the second can't hold the server. */
const MAX_STEPS = 20_000;
const MAX_DAYS = 366;

/**
 * Reads closures out of an iCalendar file (RFC 5545): each event is one closure, whole days or part of one, in the
 * zone of its TZID, in UTC, or floating (then by the site's own clock); a rule that repeats is followed two years
 * ahead, with its exceptions. What can't be read is named, not dropped. Times are widened to five minutes.
 *
 * @param zone the site's IANA zone
 * @param today the date from which rules that repeat are followed
 * @param busyOnly leave out what is cancelled or transparent (RFC 5545 §3.8.1.11, §3.8.2.7)
 * @returns `null` if the text is no iCalendar file at all
 */
export function closuresFromCalendar(
  text: string,
  zone: string,
  today: LocalDate,
  options: ReadOptions = {},
): ClosuresRead | null {
  return closuresInZones(text, [zone], today, options)?.[0] ?? null;
}

export interface ReadOptions {
  readonly busyOnly?: boolean;
  /** Events that took too long before: the how-manieth they are. */
  readonly leaveOut?: readonly number[];
  /** Called before each event with the how-manieth it is. */
  readonly onEvent?: (at: number) => void;
}

/** The same for several clocks, with the file taken apart once. */
export function closuresInZones(
  text: string,
  zones: readonly string[],
  today: LocalDate,
  { busyOnly = false, leaveOut = [], onEvent }: ReadOptions = {},
): ClosuresRead[] | null {
  let root: ICAL.Component;
  try {
    root = new ICAL.Component(ICAL.parse(text));
  } catch {
    return null;
  }
  if (root.name !== 'vcalendar') return null;
  const events = root.getAllSubcomponents('vevent');
  const uidOf = (each: ICAL.Component) => String(each.getFirstPropertyValue('uid') ?? '');
  const rules = new Set(events.filter((each) => each.hasProperty('rrule')).map(uidOf));
  // By rule, so that not every event looks through all the others for its own.
  const moved = new Map<string, ICAL.Component[]>();
  for (const each of events)
    if (each.hasProperty('recurrence-id')) moved.set(uidOf(each), [...(moved.get(uidOf(each)) ?? []), each]);
  return zones.map((zone) => {
    const closures: ReadClosure[] = [];
    const refused: RefusedEvent[] = [];
    const budget = { steps: MAX_STEPS };
    events.forEach((component, i) => {
      onEvent?.(i + 1);
      const own = component.hasProperty('recurrence-id') ? [] : (moved.get(uidOf(component)) ?? []);
      const event = new ICAL.Event(component, { exceptions: own, strictExceptions: false });
      // One occurrence moved by RECURRENCE-ID: its rule's event gives it, as moved.
      if (event.isRecurrenceException() && rules.has(event.uid)) return;
      const summary = String(event.summary ?? '')
        .replace(/[\s\p{Cc}]+/gu, ' ')
        .slice(0, MAX_SUMMARY_LENGTH);
      const refuse = (code: RefusedCode, detail = '') => refused.push({ at: i + 1, summary, code, detail });
      if (leaveOut.includes(i + 1)) {
        refuse('takes-too-long');
        return;
      }
      const told = (name: string) => String(component.getFirstPropertyValue(name) ?? '').toUpperCase();
      if (busyOnly && (told('transp') === 'TRANSPARENT' || told('status') === 'CANCELLED')) {
        refuse('not-busy');
        return;
      }
      try {
        const read = readEvent(event, zone, today, budget);
        if ('code' in read) refuse(read.code, read.detail);
        else
          closures.push(...read.closures.map((closure) => ({ ...closure, reason: summary, uid: event.uid ?? null })));
      } catch (error) {
        refuse('rule-not-read', error instanceof Error ? error.message.slice(0, MAX_SUMMARY_LENGTH) : '');
      }
    });
    return { closures: closures.sort((a, b) => (a.startDate < b.startDate ? -1 : 1)), refused };
  });
}

type Span = Omit<ReadClosure, 'reason' | 'uid'>;

function readEvent(
  event: ICAL.Event,
  zone: string,
  today: LocalDate,
  budget: { steps: number },
): { closures: Span[] } | { code: RefusedCode; detail: string } {
  if (!event.component.getFirstProperty('dtstart')) return { code: 'no-start', detail: '' };
  const tzid = event.component.getFirstProperty('dtstart')?.getParameter('tzid');
  if (typeof tzid === 'string' && !isZone(tzid)) return { code: 'unknown-zone', detail: tzid.slice(0, 60) };
  const own = typeof tzid === 'string' ? tzid : null;
  const closures: Span[] = [];
  const add = (from: ICAL.Time, to: ICAL.Time): RefusedCode | null => {
    const span = from.isDate
      ? wholeDays(from, to)
      : partOfDay(instantOf(from, own, zone), instantOf(to, own, zone), zone);
    if (!span) return 'end-before-start';
    if (span.endDate > addDays(span.startDate, MAX_DAYS)) return 'too-many-days';
    closures.push(span);
    return null;
  };
  if (!event.isRecurring()) {
    const code = add(event.startDate, event.endDate);
    return code ? { code, detail: '' } : { closures };
  }
  const last = addDays(today, AHEAD_DAYS);
  const iterator = event.iterator();
  while (budget.steps-- > 0) {
    const next = iterator.next();
    if (!next || dateOf(next) > last) return closures.length ? { closures } : { code: 'rule-over', detail: '' };
    if (dateOf(next) < today) continue;
    if (closures.length === MAX_OCCURRENCES) return { code: 'too-many-repeats', detail: String(MAX_OCCURRENCES) };
    const { startDate, endDate } = event.getOccurrenceDetails(next);
    const code = add(startDate, endDate);
    if (code) return { code, detail: '' };
  }
  return { code: 'too-many-repeats', detail: String(MAX_OCCURRENCES) };
}

function dateOf(time: ICAL.Time): LocalDate {
  const two = (n: number) => String(n).padStart(2, '0');
  return `${time.year}-${two(time.month)}-${two(time.day)}`;
}

/** DTEND of whole days is the first day that is free again (RFC 5545 §3.6.1). */
function wholeDays(from: ICAL.Time, to: ICAL.Time): Span | null {
  const startDate = dateOf(from);
  const endDate = dateOf(to) > startDate ? addDays(dateOf(to), -1) : startDate;
  if (dateOf(to) < startDate) return null;
  return { startDate, startMinute: 0, endDate, endMinute: 1440 };
}

function instantOf(time: ICAL.Time, tzid: string | null, siteZone: string): number {
  const zone = time.zone === ICAL.Timezone.utcTimezone ? 'UTC' : (tzid ?? siteZone);
  return wallToEpoch(zone, dateOf(time), time.hour * 60 + time.minute);
}

function partOfDay(from: number, to: number, zone: string): Span | null {
  if (to <= from) return null;
  const start = epochToWall(zone, Math.floor(from / CELL_MIN) * CELL_MIN);
  const end = epochToWall(zone, Math.ceil(to / CELL_MIN) * CELL_MIN);
  // Midnight at the end belongs to the day before.
  const atMidnight = end.minute === 0;
  return {
    startDate: start.date,
    startMinute: start.minute,
    endDate: atMidnight ? addDays(end.date, -1) : end.date,
    endMinute: atMidnight ? 1440 : end.minute,
  };
}
