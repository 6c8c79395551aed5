import type { DateHours, WorkingHours, Subject } from '../availability/index.ts';
import type { WeeklyRule } from '../recurrence/index.ts';
import type { LocalDate, WallMinute, Weekday } from '../time/index.ts';

/** Recurring hours apart from whose they are, since when, and the week they count from. */
export type HoursPattern = Pick<
  WorkingHours,
  | 'siteId'
  | 'followsSiteHours'
  | 'fromMinute'
  | 'toMinute'
  | 'places'
  | 'accepts'
  | 'online'
  | 'release'
  | 'caps'
  | 'preferredRoomIds'
> & {
  readonly weekdays: readonly Weekday[];
  readonly everyWeeks: number;
  readonly effectiveUntil: LocalDate | null;
};

/**
 * How far a change of recurring hours reaches: one date, a date and all later ones, or all from today on. What was
 * worked before today is never rewritten. With `weekdays` only those days of their week change and the others stay.
 */
export type Reach =
  | { readonly of: 'date'; readonly date: LocalDate }
  | { readonly of: 'from'; readonly date: LocalDate; readonly weekdays?: readonly Weekday[] }
  | { readonly of: 'all'; readonly weekdays?: readonly Weekday[] };

export interface WallSpan {
  readonly startDate: LocalDate;
  readonly startMinute: WallMinute;
  readonly endDate: LocalDate;
  readonly endMinute: WallMinute;
}

export interface Stroke {
  readonly resourceId: string;
  readonly date: LocalDate;
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
}

/** One edit of the schedule, as people think of it. */
export type ScheduleEdit =
  | {
      readonly do: 'add-hours';
      readonly subject: Subject;
      readonly from: LocalDate;
      readonly pattern: HoursPattern;
    }
  | {
      readonly do: 'change-hours';
      readonly hoursId: string;
      readonly reach: Reach;
      readonly to: Partial<HoursPattern>;
      /** For one date: the hours go to this date instead. */
      readonly onDate?: LocalDate;
    }
  | { readonly do: 'end-hours'; readonly hoursId: string; readonly reach: Reach }
  | {
      readonly do: 'extra-hours';
      readonly subject: Subject;
      readonly date: LocalDate;
      readonly hours: DateHours;
      /** Where they lie in time off, the time off gives way for them. */
      readonly splitTimeOff?: boolean;
    }
  | { readonly do: 'drop-date-change'; readonly changeId: string }
  | ({
      readonly do: 'time-off';
      readonly resourceIds: readonly string[];
      readonly siteId: string | null;
      readonly reason: string;
      /** Gets extra hours wherever they would have worked. */
      readonly coverId?: string | null;
    } & WallSpan)
  | { readonly do: 'drop-time-off'; readonly id: string }
  | {
      readonly do: 'keep-free';
      readonly resourceIds: readonly string[];
      readonly siteId: string | null;
      readonly rule: WeeklyRule;
      readonly fromMinute: WallMinute;
      readonly toMinute: WallMinute;
      readonly note: string;
    }
  | { readonly do: 'drop-kept-free'; readonly id: string; readonly from: LocalDate | null }
  | {
      readonly do: 'brush';
      readonly siteId: string;
      readonly strokes: readonly Stroke[];
      readonly value: 'shown' | 'desk-only' | 'by-rule';
    }
  | {
      readonly do: 'copy-day';
      readonly subject: Subject;
      readonly weekday: Weekday;
      readonly to: readonly Weekday[];
      readonly from: LocalDate;
    }
  | {
      readonly do: 'copy-week';
      readonly of: string;
      readonly to: readonly string[];
      readonly from: LocalDate;
    }
  | ({ readonly do: 'close-site'; readonly siteId: string; readonly reason: string } & WallSpan)
  | { readonly do: 'drop-closure'; readonly id: string };

export type EditKind = ScheduleEdit['do'];

/** Why an edit can't be done. Nothing is changed by a set of edits of which one is refused. */
export const FAULTS = [
  /** What it speaks of is not there (any more). */
  'gone',
  /** A person would be in two places, or in one place twice. */
  'overlap',
  /** Two sites in a row, and no time to get from one to the other. */
  'no-travel-time',
  /** Extra hours inside time off: the time off must give way, or the hours. */
  'inside-time-off',
  /** Somebody can't cover for themselves. */
  'covers-themselves',
  /** Whoever would cover is away then. */
  'cover-away',
  /** Every painted stretch lies outside working hours. */
  'nothing-to-brush',
  /** A day or a week without hours of its own to copy. */
  'nothing-to-copy',
  /** The hours do not hold on that date. */
  'not-on-that-date',
  /** The hours would hold on no date at all. */
  'never-holds',
  /** A date that is over is not rewritten. */
  'over',
  /** They would end before they begin: hours across midnight are two stretches. */
  'across-midnight',
] as const;
export type FaultCode = (typeof FAULTS)[number];

/** What is worth knowing before saving, and stands in nobody's way. */
export const WARNINGS = [
  /** Patients are not offered what lies outside the site's hours. */
  'outside-site-hours',
  /** Part of what was painted lies outside working hours and changes nothing. */
  'brush-outside-hours',
  /** A time that does not exist on a date (clocks go forward). */
  'no-such-time',
  /** A time that comes twice on a date (clocks go back): the first one counts. */
  'time-twice',
  /** Single-date changes of hours that no longer hold on their date. */
  'change-without-hours',
  /** No visit type can be booked with this provider there: the hours offer nothing. */
  'no-visit-type',
  /** Released later than patients can still book: nobody gains by it online. */
  'release-under-lead',
] as const;
export type WarningCode = (typeof WARNINGS)[number];

/** Values: ids, dates, minutes. Never patient data. */
export type EditFacts = Readonly<Record<string, string | number>>;
export interface EditNotice<Code extends string> {
  readonly code: Code;
  /** Which edit, counted from 0. */
  readonly edit: number;
  readonly facts: EditFacts;
}
export type Fault = EditNotice<FaultCode>;
export type Warning = EditNotice<WarningCode>;
