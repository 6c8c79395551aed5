import type { LocalDate, Weekday } from './units.ts';

const MS_A_DAY = 86_400_000;
const PATTERN = /^(\d{4})-(\d{2})-(\d{2})$/;

/** Days from 1970-01-01 to a date (negative before). Throws `RangeError` on a date that does not exist. */
export function dayNumber(date: LocalDate): number {
  const parts = PATTERN.exec(date);
  if (!parts) throw new RangeError('Not a date in the form YYYY-MM-DD.');
  const days = Date.UTC(Number(parts[1]), Number(parts[2]) - 1, Number(parts[3])) / MS_A_DAY;
  if (dateOfDay(days) !== date) throw new RangeError('There is no such date.');
  return days;
}

const written = new Map<number, LocalDate>();
const MAX_CACHED_DATES = 50_000;

/** The date that is `day` days after 1970-01-01. */
export function dateOfDay(day: number): LocalDate {
  const known = written.get(day);
  if (known) return known;
  const date = new Date(day * MS_A_DAY).toISOString().slice(0, 10);
  // Writing a date out is slow beside looking it up, and searches write the same ones over and over.
  if (written.size >= MAX_CACHED_DATES) written.clear();
  written.set(day, date);
  return date;
}

/** Whether a text is a date that exists: `2026-02-31` is not. */
export function isDate(text: string): boolean {
  const parts = PATTERN.exec(text);
  if (!parts) return false;
  const days = Date.UTC(Number(parts[1]), Number(parts[2]) - 1, Number(parts[3])) / MS_A_DAY;
  return dateOfDay(days) === text;
}

/** The date `days` calendar days later (earlier when negative). Adding a day is not adding 24 hours. */
export function addDays(date: LocalDate, days: number): LocalDate {
  return dateOfDay(dayNumber(date) + days);
}

/** Calendar days from `from` to `to`. */
export function daysBetween(from: LocalDate, to: LocalDate): number {
  return dayNumber(to) - dayNumber(from);
}

/** ISO 8601 weekday of a date, 1 (Monday) to 7. */
export function weekdayOf(date: LocalDate): Weekday {
  return weekdayOfDay(dayNumber(date));
}

/** The same of a day counted from 1970-01-01, which was a Thursday (4). */
export function weekdayOfDay(day: number): Weekday {
  return (((((day + 3) % 7) + 7) % 7) + 1) as Weekday;
}

/** Number of the Monday-started week that holds a date; only differences mean anything. */
export function weekNumber(date: LocalDate): number {
  return weekOfDay(dayNumber(date));
}

/** The same of a day counted from 1970-01-01. */
export function weekOfDay(day: number): number {
  return Math.floor((day + 3) / 7);
}

/** All dates from `from` to `until`, both included. */
export function datesFrom(from: LocalDate, until: LocalDate): LocalDate[] {
  const last = dayNumber(until);
  const dates: LocalDate[] = [];
  for (let day = dayNumber(from); day <= last; day++) dates.push(dateOfDay(day));
  return dates;
}

/** The same day `months` later; the last day of the month where that day does not exist (January 31 + 1: February 28). */
export function addMonths(date: LocalDate, months: number): LocalDate {
  const [year, month, day] = date.split('-').map(Number);
  const first = Date.UTC(year, month - 1 + months, 1) / MS_A_DAY;
  const last = Date.UTC(year, month + months, 0) / MS_A_DAY;
  return dateOfDay(Math.min(first + day - 1, last));
}
