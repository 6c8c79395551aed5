import { addDays, type LocalDate } from '../time/index.ts';

/**
 * Health care messages without written consent: at most one a day and three a week to a number, 47 CFR
 * 64.1200(a)(9)(iv). A week is any seven days in a row, which is the stricter reading; the clinic's date counts.
 */
export const PACE = { aDay: 1, aWeek: 3, weekDays: 7 } as const;

export interface Paced {
  readonly on: LocalDate;
  /** Which limit moved it to a later date; `null`: none. */
  readonly by: 'one-a-day' | 'three-a-week' | null;
}

/** The limit that one more on a date would break. */
function broken(dates: readonly LocalDate[], on: LocalDate): Paced['by'] {
  if (dates.filter((date) => date === on).length >= PACE.aDay) return 'one-a-day';
  // Each stretch of seven days that the date lies in.
  for (let back = 0; back < PACE.weekDays; back++) {
    const from = addDays(on, -back);
    const until = addDays(from, PACE.weekDays - 1);
    if (dates.filter((date) => date >= from && date <= until).length >= PACE.aWeek) return 'three-a-week';
  }
  return null;
}

/**
 * The first date on which one more invitation may go to a number or address.
 *
 * @param dates of all that went there or are planned, in any order
 * @param from the first date that would do
 */
export function paced(dates: readonly LocalDate[], from: LocalDate): Paced {
  let [on, by] = [from, null as Paced['by']];
  for (let next = broken(dates, on); next !== null; next = broken(dates, on)) {
    by = next;
    on = addDays(on, 1);
  }
  return { on, by };
}
