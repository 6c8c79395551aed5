import type { LocalDate, Weekday } from '../time/index.ts';

/** Times of the day at the site, on some weekdays: a visit starts from the first minute on and before the last. */
export interface LimitHours {
  readonly weekdays: readonly Weekday[];
  readonly fromMinute: number;
  readonly toMinute: number;
}

/** What one kind of invitation may book. Each has its own: two that share a clinic day never see each other's times. */
export interface InvitationLimits {
  readonly typeIds: readonly string[];
  /** `null`: any. */
  readonly siteIds: readonly string[] | null;
  readonly providerIds: readonly string[] | null;
  readonly hours: readonly LimitHours[] | null;
  /** Dates at the site, both included. */
  readonly fromDate: LocalDate | null;
  readonly untilDate: LocalDate | null;
}
