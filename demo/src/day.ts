import { addDays, type LocalDate, weekdayOf } from '@zaguan/core/time';

/** 10:20 at the first site: when the demo's clock starts. */
export const OPENS_AT_MINUTE = 620;

/** The nearest working weekday: Saturday goes back to Friday, Sunday on to Monday. */
export function demoDay(today: LocalDate): LocalDate {
  const weekday = weekdayOf(today);
  return weekday === 6 ? addDays(today, -1) : weekday === 7 ? addDays(today, 1) : today;
}
