import { addDays, epochToWall, type LocalDate } from '@zaguan/core/time';
import {
  type CalendarQuestion,
  type CalendarsRead,
  type ReadOccurrence,
  readCalendars,
  type RefusedEvent,
} from './calendarIn/readCalendars.ts';

/** A closure on the site's wall clock; whole days end with the minute 1440. */
export interface ReadClosure {
  readonly startDate: LocalDate;
  readonly startMinute: number;
  readonly endDate: LocalDate;
  readonly endMinute: number;
  readonly reason: string;
  readonly uid: string | null;
}

export interface ClosuresRead {
  readonly closures: readonly ReadClosure[];
  readonly refused: readonly RefusedEvent[];
}

/** Nothing is left out, and free days are read too, if not said otherwise. */
export type ReadOptions = Partial<Pick<CalendarQuestion, 'busyOnly' | 'leaveOut' | 'onEvent'>>;

const CELL_SECONDS = 300;
/** A rule that repeats is followed so far ahead of today. */
const AHEAD_DAYS = 730;

/**
 * Reads closures, or busy times, out of an iCalendar file (RFC 5545), on a site's wall clock. A rule that repeats is
 * followed two years ahead. What can't be used is named, not dropped. Times are widened to five minutes.
 *
 * @param zone the site's IANA zone
 * @param today the date from which rules that repeat are followed
 * @returns `null` if the text is no iCalendar file at all
 */
export function closuresFromCalendar(
  text: string,
  zone: string,
  today: LocalDate,
  { busyOnly = false, leaveOut = [], onEvent = () => undefined }: ReadOptions = {},
): ClosuresRead | null {
  const last = addDays(today, AHEAD_DAYS);
  const read = readCalendars(text, { zone, today, last, busyOnly, leaveOut, onEvent });
  return read && { closures: closuresOf(read, zone), refused: read.refused };
}

function closuresOf({ occurrences }: CalendarsRead, zone: string): ReadClosure[] {
  const closures = new Map<string, ReadClosure>();
  for (const occurrence of occurrences) {
    const closure = { ...spanOf(occurrence, zone), reason: occurrence.summary, uid: occurrence.uid };
    // The same event may stand in two calendars of one file.
    closures.set(Object.values(closure).join(' '), closure);
  }
  return [...closures.values()].sort((a, b) => (a.startDate < b.startDate ? -1 : a.startDate > b.startDate ? 1 : 0));
}

type Span = Omit<ReadClosure, 'reason' | 'uid'>;

function spanOf({ start, end }: ReadOccurrence, zone: string): Span {
  // The end of whole days is the first day that is free again (RFC 5545 §3.6.1).
  if ('date' in start || 'date' in end) {
    const [startDate, free] = [start, end].map((moment) => ('date' in moment ? moment.date : ''));
    return { startDate, startMinute: 0, endDate: addDays(free, -1), endMinute: 1440 };
  }
  const from = epochToWall(zone, (Math.floor(start.instant / CELL_SECONDS) * CELL_SECONDS) / 60);
  const to = epochToWall(zone, (Math.ceil(end.instant / CELL_SECONDS) * CELL_SECONDS) / 60);
  // Midnight at the end belongs to the day before.
  const atMidnight = to.minute === 0;
  return {
    startDate: from.date,
    startMinute: from.minute,
    endDate: atMidnight ? addDays(to.date, -1) : to.date,
    endMinute: atMidnight ? 1440 : to.minute,
  };
}
