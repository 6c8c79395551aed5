import { Temporal } from 'temporal-polyfill';
import type { WeeklyRule } from '../src/recurrence/index.ts';

/** What Temporal answered before: the calls are slow, and the same few days are asked for again and again. */
export const instants = new Map<string, number>();
export const walls = new Map<string, { date: string; minute: number }>();
const sums = new Map<string, string>();

/** A date some days later. */
export function plus(date: string, days: number): string {
  const key = `${date}|${days}`;
  const sum = sums.get(key) ?? Temporal.PlainDate.from(date).add({ days }).toString();
  sums.set(key, sum);
  return sum;
}

/** Whether two stretches share a minute. */
export function meets(start: number, end: number, [from, to]: readonly [number, number]): boolean {
  return start < to && end > from;
}

const held = new WeakMap<WeeklyRule, Map<string, boolean>>();

/** Whether a rule holds on a date. */
export function holds(rule: WeeklyRule, date: string): boolean {
  const known = held.get(rule) ?? new Map<string, boolean>();
  held.set(rule, known);
  if (!known.has(date)) known.set(date, holdsOn(rule, date));
  return known.get(date) as boolean;
}

function holdsOn(rule: WeeklyRule, date: string): boolean {
  if (date < rule.effectiveFrom || (rule.effectiveUntil !== null && date > rule.effectiveUntil)) return false;
  const day = Temporal.PlainDate.from(date);
  const monday = (d: Temporal.PlainDate) => d.subtract({ days: d.dayOfWeek - 1 });
  const weeks = monday(Temporal.PlainDate.from(rule.anchorDate)).until(monday(day), { largestUnit: 'day' }).days / 7;
  return (rule.weekdays as readonly number[]).includes(day.dayOfWeek) && weeks % rule.everyWeeks === 0;
}
