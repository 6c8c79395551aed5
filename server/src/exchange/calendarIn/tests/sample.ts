import ICAL from 'ical.js';
import { expect, it } from 'vitest';
import { addDays } from '@zaguan/core/time';
import { readCalendars } from '../readCalendars.ts';
import type { Moment } from '../moments.ts';

/** A file as some program writes it, and what is in it, worked out by hand. */
export interface Sample {
  readonly what: string;
  /** The lines of the calendar, or several whole calendars. */
  readonly file: string;
  /** `start/end` of each occurrence: days, the end not included, or instants in UTC (without seconds if they are 0). */
  readonly is: readonly string[];
  /** The how-manieth thing, the code and, if any, the detail. */
  readonly refused?: readonly string[];
  readonly zone?: string;
  readonly today?: string;
  readonly days?: number;
  readonly all?: boolean;
  /** ical.js, expanding by itself, must give the same. */
  readonly peer?: boolean;
}

export const TODAY = '2026-11-01';
const DENVER = 'America/Denver';

/** Runs each sample. Only busy times are read unless it says `all`. */
export function samples(list: readonly Sample[]): void {
  it.each(list.map((sample) => [sample.what, sample] as const))('%s', (_, sample) => {
    const text = whole(sample.file);
    const { zone = DENVER, today = TODAY, days = 400 } = sample;
    const last = addDays(today, days);
    const asked = { zone, today, last, busyOnly: !sample.all, leaveOut: [], onEvent: () => undefined };
    const read = readCalendars(text, asked);
    if (!read) throw new Error('The file must be read.');
    const found = read.occurrences.map(({ start, end }) => `${shown(start)}/${shown(end)}`).sort();
    expect(found).toEqual([...sample.is].sort());
    expect(read.refused.map(({ at, code, detail }) => `${at} ${code} ${detail}`.trim())).toEqual(sample.refused ?? []);
    if (sample.peer) expect(byPeer(text, today, last)).toEqual([...sample.is].sort());
  });
}

/** Lines as a template has them, with the line ends of a file; one calendar around them if they have none. */
export function whole(file: string): string {
  const lines = file
    .split('\n')
    .map((line) => line.replace(/^ {6}/, ''))
    .filter((line) => line !== '');
  const inside = lines.some((line) => line.startsWith('BEGIN:VCALENDAR'));
  const calendar = inside ? lines : ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//test//EN', ...lines, 'END:VCALENDAR'];
  return `${calendar.join('\r\n')}\r\n`;
}

export function shown(moment: Moment): string {
  return 'date' in moment ? moment.date : instant(moment.instant * 1000);
}

const instant = (ms: number) => new Date(ms).toISOString().replace(/(:00)?\.000Z$/, 'Z');

/** The same by the library's own events, zones and rules. */
function byPeer(text: string, today: string, last: string): string[] {
  const found: string[] = [];
  const root = new ICAL.Component(ICAL.parse(text));
  for (const component of root.getAllSubcomponents('vevent')) {
    const event = new ICAL.Event(component);
    if (event.isRecurrenceException()) continue;
    const say = (time: ICAL.Time) => (time.isDate ? time.toString() : instant(time.toJSDate().getTime()));
    const add = (start: ICAL.Time, end: ICAL.Time) => {
      if (end.isDate ? end.toString() > today : end.toString() >= today) found.push(`${say(start)}/${say(end)}`);
    };
    if (!event.isRecurring()) {
      add(event.startDate, event.endDate);
      continue;
    }
    const iterator = event.iterator();
    for (let next = iterator.next(); next && next.toString().slice(0, 10) <= last; next = iterator.next()) {
      const { startDate, endDate } = event.getOccurrenceDetails(next);
      add(startDate, endDate);
    }
  }
  return found.sort();
}

/** As calendar programs write the zone of New York, with the rules since 2007. */
export const NEW_YORK_RULES = `
      BEGIN:DAYLIGHT
      TZOFFSETFROM:-0500
      TZOFFSETTO:-0400
      TZNAME:EDT
      DTSTART:19700308T020000
      RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=2SU
      END:DAYLIGHT
      BEGIN:STANDARD
      TZOFFSETFROM:-0400
      TZOFFSETTO:-0500
      TZNAME:EST
      DTSTART:19701101T020000
      RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=1SU
      END:STANDARD`;

export const zoneBlock = (tzid: string, rules = NEW_YORK_RULES) =>
  `      BEGIN:VTIMEZONE\n      TZID:${tzid}${rules}\n      END:VTIMEZONE`;
