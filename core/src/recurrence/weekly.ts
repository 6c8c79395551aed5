import {
  dateOfDay,
  dayNumber,
  type LocalDate,
  type Weekday,
  weekdayOf,
  weekdayOfDay,
  weekNumber,
  weekOfDay,
} from '../time/index.ts';

/**
 * A weekly rule: the subset of RFC 5545 RRULE that working hours need, namely
 * `FREQ=WEEKLY;INTERVAL=everyWeeks;WKST=MO;BYDAY=weekdays;UNTIL=effectiveUntil`.
 */
export interface WeeklyRule {
  readonly weekdays: readonly Weekday[];
  /** Every n weeks, n from 1. */
  readonly everyWeeks: number;
  /** Any date of a week in which the rule is on. A split of the hours keeps it, and with it the parity. */
  readonly anchorDate: LocalDate;
  /** First date on which it may hold, included. */
  readonly effectiveFrom: LocalDate;
  /** Last date on which it may hold, included; `null` for no end. */
  readonly effectiveUntil: LocalDate | null;
}

/** Whether the rule holds on a date. Weeks start on Monday, so a Sunday belongs to the week before it. */
export function occursOn(rule: WeeklyRule, date: LocalDate): boolean {
  return occursOnDay(rule, { date, weekday: weekdayOf(date) });
}

/** The same for a day whose weekday is known: what the openings search asks for every resource and day. */
export function occursOnDay(rule: WeeklyRule, { date, weekday }: { date: LocalDate; weekday: Weekday }): boolean {
  if (!rule.weekdays.includes(weekday)) return false;
  if (date < rule.effectiveFrom) return false;
  if (rule.effectiveUntil !== null && date > rule.effectiveUntil) return false;
  if (rule.everyWeeks === 1) return true;
  return (weekNumber(date) - weekNumber(rule.anchorDate)) % rule.everyWeeks === 0;
}

/** All dates from `from` to `until` (both included) on which the rule holds, ascending. */
export function expandWeekly(rule: WeeklyRule, from: LocalDate, until: LocalDate): LocalDate[] {
  const first = Math.max(dayNumber(from), dayNumber(rule.effectiveFrom));
  const end = rule.effectiveUntil === null ? until : rule.effectiveUntil < until ? rule.effectiveUntil : until;
  const last = dayNumber(end);
  const anchorWeek = weekNumber(rule.anchorDate);
  const dates: LocalDate[] = [];
  for (let day = first; day <= last; day++) {
    if (!rule.weekdays.includes(weekdayOfDay(day))) continue;
    if (rule.everyWeeks === 1 || (weekOfDay(day) - anchorWeek) % rule.everyWeeks === 0) dates.push(dateOfDay(day));
  }
  return dates;
}

/** The rule that holds on exactly one date. */
export function onceOn(date: LocalDate): WeeklyRule {
  return { weekdays: [weekdayOf(date)], everyWeeks: 1, anchorDate: date, effectiveFrom: date, effectiveUntil: date };
}
