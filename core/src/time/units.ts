/** Minutes elapsed since 1970-01-01T00:00Z. An instant; never a wall-clock time. */
export type EpochMinute = number;

/** A calendar date as ISO 8601 `YYYY-MM-DD`. A bare date is never an instant. */
export type LocalDate = string;

/** Minutes since 00:00 on a wall clock, 0 to 1440 (1440 only as the end of a stretch). */
export type WallMinute = number;

/** ISO 8601 weekday: 1 is Monday, 7 is Sunday. */
export type Weekday = 1 | 2 | 3 | 4 | 5 | 6 | 7;

/** An IANA time zone name, e.g. `America/Chicago`. */
export type ZoneId = string;

/** One cell of a day is always five minutes of elapsed time (not a setting: the base unit 5/10/15 only draws). */
export const CELL_MIN = 5;

/** A half-open stretch of instants `[start, end)`. */
export interface Interval {
  readonly start: EpochMinute;
  readonly end: EpochMinute;
}

/** A half-open stretch of wall-clock minutes on one date, `[fromMinute, toMinute)`. */
export interface WallStretch {
  readonly fromMinute: WallMinute;
  readonly toMinute: WallMinute;
}
