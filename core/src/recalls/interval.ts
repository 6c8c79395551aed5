import { addDays, addMonths, type LocalDate } from '../time/index.ts';

export const INTERVAL_UNITS = ['days', 'weeks', 'months', 'years'] as const;

/** A span of calendar time. */
export interface Interval {
  readonly n: number;
  readonly unit: (typeof INTERVAL_UNITS)[number];
}

/**
 * The date an interval later. A month later is the same day, or the last of the month where there is no such day: what is
 * due a year after February 29 is due on February 28 (as Temporal's `PlainDate.add` constrains it).
 */
export function addInterval(date: LocalDate, { n, unit }: Interval): LocalDate {
  switch (unit) {
    case 'days':
      return addDays(date, n);
    case 'weeks':
      return addDays(date, 7 * n);
    case 'months':
      return addMonths(date, n);
    case 'years':
      return addMonths(date, 12 * n);
  }
}

/** Of some dates the first one after today; `null`: none. */
export function firstAfter(today: LocalDate, dates: readonly (LocalDate | null)[]): LocalDate | null {
  let first: LocalDate | null = null;
  for (const date of dates) if (date !== null && date > today && (first === null || date < first)) first = date;
  return first;
}
