import { isDate, type LocalDate } from '../time/index.ts';

/** Whole years on a date. Who was born on February 29 turns a year older on March 1 in other years (common practice in the US). */
export function ageOn(birthDate: LocalDate, on: LocalDate): number {
  const years = Number(on.slice(0, 4)) - Number(birthDate.slice(0, 4));
  return on.slice(5) < birthDate.slice(5) ? years - 1 : years;
}

/** The first date on which somebody is so many whole years old: the inverse of `ageOn`. */
export function birthdayAt(birthDate: LocalDate, years: number): LocalDate {
  const date = `${String(Number(birthDate.slice(0, 4)) + years).padStart(4, '0')}${birthDate.slice(4)}`;
  return isDate(date) ? date : `${date.slice(0, 4)}-03-01`;
}
