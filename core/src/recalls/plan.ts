import type { LocalDate } from '../time/index.ts';
import type { Answer } from '../setup/index.ts';
import type { Interval } from './interval.ts';

/** A day of any year, as `MM-DD`; never February 29. */
export type MonthDay = string;

/** When somebody is due, worked out from what they have had. Visits count by the date at their site once they are completed. */
export type When =
  /** So long after the last visit of these types. */
  | { readonly kind: 'after-visit'; readonly typeIds: readonly string[]; readonly every: Interval }
  /** A course: so many visits at one interval, then at the next one, and so on for good at the last. */
  | {
      readonly kind: 'build-up';
      readonly typeIds: readonly string[];
      readonly steps: readonly CourseStep[];
      readonly afterwards: Interval;
      /** A longer gap than this starts the course over; `null`: it never does. */
      readonly restartAfter: Interval | null;
    }
  /** Once in each season. A season may run over the turn of the year. */
  | { readonly kind: 'season'; readonly typeIds: readonly string[]; readonly from: MonthDay; readonly until: MonthDay }
  /** So long after the record was made, if there has been no visit at all. */
  | { readonly kind: 'never-seen'; readonly after: Interval }
  /** So long after they were put on a register, and again at an interval. */
  | {
      readonly kind: 'on-register';
      readonly registerId: string;
      readonly typeIds: readonly string[];
      readonly after: Interval;
      /** `null`: once. */
      readonly every: Interval | null;
    };

export interface CourseStep {
  /** How many visits of the course end this step; the first visit of the course counts. */
  readonly visits: number;
  readonly every: Interval;
}

export type Sex = 'female' | 'male' | 'other' | 'unknown';

/** Whom a plan is for: all that is said must hold; `null`: whatever it is. */
export interface Who {
  /** Whole years on the date, both included. */
  readonly ageFrom: number | null;
  readonly ageTo: number | null;
  readonly sexes: readonly Sex[] | null;
  readonly languages: readonly ('en' | 'es')[] | null;
  readonly homeSiteIds: readonly string[] | null;
  /** ICD-10-CM codes or the beginnings of codes: one of them is on the record. */
  readonly codes: readonly string[] | null;
  /** On one of these registers. */
  readonly registerIds: readonly string[] | null;
  /** The clinic's own fields: each has one of these values. */
  readonly fields: readonly { readonly fieldId: string; readonly values: readonly Answer[] }[];
}

/** A recall plan, as data that core reads. */
export interface RecallPlan {
  readonly id: string;
  readonly who: Who;
  readonly when: When;
  /** Listed so many days before they are due, so that an invitation comes in time. */
  readonly aheadDays: number;
  /** So many days after the due date they are overdue. It changes nothing but what is said of them. */
  readonly graceDays: number;
  /** A coming visit of these types counts as booked; `null`: of the types that the plan goes by, or of any if it names none. */
  readonly comingTypeIds: readonly string[] | null;
  /** Whoever was invited by any plan within so many days is left alone. */
  readonly quietDays: number;
}

/** A stretch on a register, both included; `null`: until further notice. */
export interface Membership {
  readonly registerId: string;
  readonly from: LocalDate;
  readonly until: LocalDate | null;
}

/** What a patient, or the desk for them, has said to a plan. */
export interface Choice {
  readonly planId: string;
  readonly kind: 'later' | 'declined' | 'done-elsewhere';
  readonly on: LocalDate;
  /** Of `later`: the first date on which they may be invited again. Of `done-elsewhere`: when it was done. */
  readonly date: LocalDate | null;
}

/** An invitation that can still be used. */
export interface LiveInvitation {
  readonly planId: string | null;
  readonly on: LocalDate;
  /** The last date on which it can be used. */
  readonly until: LocalDate;
}

/** All of a patient that any plan asks about. Dates are the site's. */
export interface RecallPerson {
  readonly birthDate: LocalDate;
  readonly sex: Sex | null;
  readonly language: 'en' | 'es';
  readonly homeSiteId: string | null;
  readonly isInactive: boolean;
  readonly hasDied: boolean;
  readonly registeredOn: LocalDate;
  readonly codes: readonly string[];
  readonly fields: Readonly<Record<string, Answer>>;
  readonly registers: readonly Membership[];
  /** Every completed visit, in any order. */
  readonly completed: readonly { readonly typeId: string; readonly date: LocalDate }[];
  /** Visits that are booked, or wait for the clinic's word, in any order; those before today don't count. */
  readonly coming: readonly { readonly typeId: string; readonly date: LocalDate }[];
  /** Whether an automated message about recalls may go to any number or address of theirs. */
  readonly reach: 'open' | 'opted-out' | 'none';
  /** When each invitation of any plan went out. */
  readonly invitedOn: readonly LocalDate[];
  readonly live: readonly LiveInvitation[];
  readonly choices: readonly Choice[];
}
