import type { LocalDate } from '@zaguan/core/time';
import { type CalendarEvent, eventOf, type Occurrence, periodsOf, summaryOf } from './events.ts';
import { type CalendarPart, calendarsIn, propertiesOf } from './lines.ts';
import type { Reading } from './moments.ts';
import { type Budget, MAX_OCCURRENCES, seriesOf, type TitledOccurrence, type Window } from './series.ts';
import { ianaClock } from './clocks.ts';
import { Unreadable, wallOf } from './wall.ts';

export type RefusedCode =
  | 'no-start'
  | 'unknown-zone'
  | 'end-before-start'
  | 'takes-no-time'
  | 'not-readable'
  /** Some of its repeats or exceptions; the rest of it was read. */
  | 'part-not-read'
  /** The file ends in the middle of it. */
  | 'cut-off'
  | 'rule-not-read'
  | 'too-many-days'
  | 'too-many-repeats'
  | 'rule-over'
  /** Working it out took so long that it was left. */
  | 'takes-too-long'
  /** Cancelled; or marked as free time, where only busy times are wanted. */
  | 'not-busy'
  /** Tasks, notes and whatever else a calendar may hold. */
  | 'not-an-event'
  /** Busy times without a word of what they are, where events are wanted. */
  | 'only-busy-times';

/** What was not read: the how-manieth thing of the file it is, and why. */
export interface RefusedEvent {
  readonly at: number;
  readonly summary: string;
  readonly code: RefusedCode;
  readonly detail: string;
}

/** When something is, what it is called, and whose part of the file it came from. */
export interface ReadOccurrence extends TitledOccurrence {
  readonly at: number;
  readonly uid: string | null;
}

export interface CalendarsRead {
  readonly occurrences: readonly ReadOccurrence[];
  readonly refused: readonly RefusedEvent[];
}

export interface CalendarQuestion {
  /** The clock of times that name none (IANA). */
  readonly zone: string;
  /** Repeats are followed from this day on … */
  readonly today: LocalDate;
  /** … up to this one. */
  readonly last: LocalDate;
  /** Only what takes time: no free time (RFC 5545 §3.8.2.7), and blocks of busy times too (§3.6.4). */
  readonly busyOnly: boolean;
  /** Things that took too long before: the how-manieth they are. */
  readonly leaveOut: readonly number[];
  /** Called before each thing with the how-manieth it is. */
  readonly onEvent: (at: number) => void;
}

/** All rules of a file together are followed through so many occurrences. */
const MAX_STEPS = 30_000;

/** One thing of the file, as far as it was read. */
interface Item {
  readonly at: number;
  readonly part: CalendarPart;
  readonly event: CalendarEvent;
}

/**
 * Reads what is when out of the calendars of a file. What can't be used is named, one by one, and never stands in the
 * way of the rest.
 *
 * @returns `null` if this is no iCalendar file
 */
export function readCalendars(text: string, question: CalendarQuestion): CalendarsRead | null {
  const calendars = calendarsIn(text);
  return calendars.length ? new CalendarReader(calendars, question).read() : null;
}

class CalendarReader {
  private readonly refused: RefusedEvent[] = [];
  private readonly occurrences: ReadOccurrence[] = [];
  private readonly others = new Map<string, number[]>();
  private readonly window: Window;
  private readonly budget: Budget = { steps: MAX_STEPS, onStep: () => this.question.onEvent(this.current) };
  private current = 1;

  constructor(
    private readonly calendars: readonly CalendarPart[],
    private readonly question: CalendarQuestion,
  ) {
    const { zone, today, last } = question;
    this.window = { from: today, last, fromInstant: ianaClock(zone).instantOf(wallOf(today, 0)) };
  }

  read(): CalendarsRead {
    const items = this.items();
    const byUid = new Map<string, Item[]>();
    for (const item of items) {
      const { uid } = item.event;
      if (uid === null) continue;
      const known = byUid.get(uid);
      if (known) known.push(item);
      else byUid.set(uid, [item]);
    }
    for (const item of items) {
      this.current = item.at;
      this.question.onEvent(item.at);
      this.attempt(item.at, item.part, () => this.take(item, byUid.get(item.event.uid ?? '') ?? [item]));
    }
    for (const [name, ats] of this.others)
      this.refuse(ats[0], '', 'not-an-event', `${ats.length} ${name.toUpperCase()}`);
    return { occurrences: this.occurrences, refused: this.refused.sort((a, b) => a.at - b.at) };
  }

  /** The events; what else there is, is read or named on the way. */
  private items(): Item[] {
    const { zone } = this.question;
    const everyZone = this.calendars.flatMap(zonesOf);
    const items: Item[] = [];
    let at = 0;
    for (const calendar of this.calendars) {
      // Its own first: two calendars may mean two things by one name.
      const reading = { floating: ianaClock(zone), zones: [...zonesOf(calendar), ...everyZone] };
      const cancels = methodOf(calendar) === 'CANCEL';
      for (const part of calendar.parts) {
        if (part.name === 'vtimezone') continue;
        at++;
        const mine = at;
        this.question.onEvent(mine);
        if (part.name === 'vevent')
          this.attempt(mine, part, () => items.push({ at: mine, part, event: eventOf(part, reading, cancels) }));
        else if (part.name === 'vfreebusy') this.attempt(mine, part, () => this.takeBusyTimes(mine, part, reading));
        else this.others.set(part.name, [...(this.others.get(part.name) ?? []), mine]);
      }
    }
    return items;
  }

  private attempt(at: number, part: CalendarPart, read: () => void): void {
    try {
      if (this.question.leaveOut.includes(at)) this.refuse(at, summaryOf(part), 'takes-too-long');
      else if (part.cut) this.refuse(at, summaryOf(part), 'cut-off');
      else read();
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      this.refuse(at, summaryOf(part), error.code, error.detail);
    }
  }

  private take({ at, event }: Item, sameUid: readonly Item[]): void {
    const { summary, uid, first } = event;
    const repeats = (each: CalendarEvent) => each.rules.length > 0 || each.more.length > 0;
    const series = sameUid.find(({ event: each }) => !each.insteadOf && repeats(each));
    // Told apart for an occurrence of a series: that gives it.
    if (event.insteadOf && series) return;
    const counts = this.counts(event);
    if (isCalledOff(event, sameUid) || (!counts && !repeats(event))) {
      this.refuse(at, summary, 'not-busy');
      return;
    }
    for (const name of event.unread) this.refuse(at, summary, 'part-not-read', name);
    if (!repeats(event)) {
      if (first) this.keep([{ ...first, summary }], { at, uid });
      return;
    }
    const apart = series?.event === event ? sameUid.flatMap(({ event: each }) => (each.insteadOf ? [each] : [])) : [];
    const found = seriesOf(event, apart, (each) => this.counts(each), this.window, this.budget);
    if (!('refused' in found)) this.keep(found.occurrences, { at, uid });
    else if (found.refused === 'too-many-repeats') this.refuse(at, summary, found.refused, String(MAX_OCCURRENCES));
    else if (found.refused === 'rule-over' && !counts) this.refuse(at, summary, 'not-busy');
    else this.refuse(at, summary, found.refused);
  }

  /** One that can't be used takes none of the others away. */
  private keep(found: readonly TitledOccurrence[], of: { at: number; uid: string | null }): void {
    const faults = new Map<RefusedCode, string>();
    for (const occurrence of found) {
      const fault = faultOf(occurrence);
      if (fault) faults.set(fault, occurrence.summary);
      else this.occurrences.push({ ...occurrence, ...of });
    }
    for (const [fault, summary] of faults) this.refuse(of.at, summary, fault);
  }

  private takeBusyTimes(at: number, part: CalendarPart, reading: Reading): void {
    if (!this.question.busyOnly) {
      this.refuse(at, '', 'only-busy-times');
      return;
    }
    let found: ReturnType<typeof propertiesOf>;
    try {
      found = propertiesOf(part, new Set(['freebusy']));
    } catch {
      throw new Unreadable('not-readable', 'FREEBUSY');
    }
    for (const property of found.get('freebusy') ?? []) {
      if (property.params.fbtype?.toUpperCase() === 'FREE') continue;
      const periods = periodsOf(property, reading).map((period) => ({ ...period, summary: '' }));
      this.keep(periods, { at, uid: null });
    }
  }

  private counts({ cancelled, transparent }: CalendarEvent): boolean {
    return !cancelled && !(this.question.busyOnly && transparent);
  }

  private refuse(at: number, summary: string, code: RefusedCode, detail = ''): void {
    this.refused.push({ at, summary, code, detail });
  }
}

/** Whether the same event is cancelled elsewhere in the file, by this version or a later one (RFC 5546 §3.2.5). */
function isCalledOff(event: CalendarEvent, sameUid: readonly Item[]): boolean {
  return sameUid.some(
    ({ event: other }) =>
      other !== event &&
      other.cancelled &&
      !other.insteadOf &&
      other.sequence >= event.sequence &&
      (!other.first || !event.first || event.insteadOf !== null || isSameStart(other, event)),
  );
}

function isSameStart({ first: one }: CalendarEvent, { first: two }: CalendarEvent): boolean {
  if (!one || !two) return false;
  if ('date' in one.start || 'date' in two.start)
    return 'date' in one.start && 'date' in two.start && one.start.date === two.start.date;
  return one.start.instant === two.start.instant;
}

const MAX_DAYS = 366;

function faultOf({ start, end }: Occurrence): RefusedCode | null {
  if ('date' in start || 'date' in end) {
    if (!('date' in start && 'date' in end)) return 'not-readable';
    const days = (Date.parse(end.date) - Date.parse(start.date)) / 86_400_000;
    return days <= 0 ? 'end-before-start' : days > MAX_DAYS ? 'too-many-days' : null;
  }
  const seconds = end.instant - start.instant;
  if (seconds <= 0) return seconds < 0 ? 'end-before-start' : 'takes-no-time';
  return seconds > MAX_DAYS * 86_400 ? 'too-many-days' : null;
}

function zonesOf(calendar: CalendarPart): CalendarPart[] {
  return calendar.parts.filter(({ name }) => name === 'vtimezone');
}

function methodOf(calendar: CalendarPart): string {
  try {
    return String(propertiesOf(calendar, new Set(['method'])).get('method')?.[0]?.values[0] ?? '').toUpperCase();
  } catch {
    return '';
  }
}
