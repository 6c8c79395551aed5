import { type DateOrder, readBirthDate } from '../patients/index.ts';
import type { LocalDate } from '../time/index.ts';
import { foldWord, isUnspaced } from './fold.ts';

/** Longest text that is looked for, and most words of it. */
export const MAX_QUERY_LENGTH = 100;
const MAX_WORDS = 8;
/** As many readings of one text are followed; more would only come of figures strewn about. */
const MAX_READINGS = 60;

/** Something that a patient must have, in one reading of what was typed. */
export type Item =
  /** A word of a name, folded; or the beginning of one. */
  | { readonly is: 'name'; readonly word: string }
  /** The end of a phone number, or the beginning of its national form. */
  | { readonly is: 'phone'; readonly digits: string }
  | { readonly is: 'record'; readonly text: string }
  | { readonly is: 'email'; readonly text: string }
  | { readonly is: 'born'; readonly date: LocalDate }
  /** Born in this year, or in this month of it: the beginning of a date. */
  | { readonly is: 'born-in'; readonly start: string };

export interface Reading {
  readonly items: readonly Item[];
  /** With a comma the family name comes first. */
  readonly familyFirst: boolean;
}

/**
 * Everything that what was typed may mean: "mar 1984" is somebody called Mar… born in 1984, or somebody born in March of
 * that year. A patient is found who fits all of any reading. Empty where there is too little to look for.
 *
 * @param today the date at the clinic; nobody is born after it
 * @param order how a date of figures is written here
 */
export function readQuery(text: string, today: LocalDate, order: DateOrder): readonly Reading[] {
  const clean = text.normalize('NFC').slice(0, MAX_QUERY_LENGTH);
  const familyFirst = /^[^,]*\p{L},/u.test(clean);
  const chunks = clean
    .split(/[\s,;]+/u)
    .filter((chunk) => /[\p{L}\p{N}]/u.test(chunk))
    .slice(0, MAX_WORDS);
  const readings = partitions(chunks, today, order).filter(isEnough);
  const seen = new Map(readings.map((items) => [JSON.stringify(items), { items, familyFirst }]));
  return [...seen.values()];
}

/** One letter alone is nothing to look for, unless it is a word. */
function isEnough(items: readonly Item[]): boolean {
  return items.some((item) => item.is !== 'name' || [...item.word].length > 1 || isUnspaced(item.word));
}

/** Every way to read the chunks one after the other, some of them together as a date. */
function partitions(chunks: readonly string[], today: LocalDate, order: DateOrder): Item[][] {
  if (!chunks.length) return [[]];
  const found: Item[][] = [];
  for (let length = Math.min(4, chunks.length); length >= 1; length--) {
    const first = itemsOf(chunks.slice(0, length), today, order);
    if (!first.length) continue;
    const rest = partitions(chunks.slice(length), today, order);
    for (const items of first) for (const others of rest) found.push([...items, ...others]);
  }
  return found.slice(0, MAX_READINGS);
}

/** The 1 before a North American number is no part of what is compared. */
function withoutCountry(digits: string): string {
  return digits.length === 11 && digits.startsWith('1') ? digits.slice(1) : digits;
}

/** What one or several chunks together may be; several are a date, or a phone number in groups. */
function itemsOf(chunks: readonly string[], today: LocalDate, order: DateOrder): Item[][] {
  const text = chunks.join(' ');
  const found: Item[][] = datesIn(text, today, order).map((date) => [{ is: 'born', date }]);
  const month = monthIn(text, today, order);
  if (month) found.push([{ is: 'born-in', start: month }]);
  const digits = text.replace(/\D/g, '');
  const hasLetters = /\p{L}/u.test(text);
  // A number is written in groups.
  if (chunks.length > 1)
    return !hasLetters && digits.length >= 7 ? [...found, [{ is: 'phone', digits: withoutCountry(digits) }]] : found;
  if (text.includes('@')) return [[{ is: 'email', text: text.toLowerCase() }]];
  const plain = foldWord(text.replace(/[^\p{L}\p{N}]/gu, ''));
  if (/^(1[89]|20)\d\d$/.test(text) && text <= today.slice(0, 4)) found.push([{ is: 'born-in', start: `${text}-` }]);
  if (!hasLetters && digits.length >= 3) found.push([{ is: 'phone', digits: withoutCountry(digits) }]);
  if (digits) found.push([{ is: 'record', text: plain }]);
  if (hasLetters) found.push(...nameItems(text));
  return found;
}

/** Parts of a name written with hyphen or apostrophe, each for itself and all in one. */
function nameItems(chunk: string): Item[][] {
  const parts = (chunk.match(/[\p{L}\p{N}\p{M}]+/gu) ?? []).map(foldWord).filter(Boolean);
  const named = (words: readonly string[]) => words.map((word): Item => ({ is: 'name', word }));
  return parts.length > 1 ? [named(parts), named([parts.join('')])] : [named(parts)];
}

/** Every date of birth that the text may be; one in figures with a short year may be several. */
function datesIn(text: string, today: LocalDate, order: DateOrder): readonly LocalDate[] {
  if (!/\d/.test(text)) return [];
  const read = readBirthDate(text, order, today);
  if (read.ok) return [read.date];
  return read.problem === 'ambiguous' ? read.readings : [];
}

/** "Mar 1984", "3/1984": the month of a year, as dates in it begin. */
function monthIn(text: string, today: LocalDate, order: DateOrder): string | null {
  const year = /(?:^|\D)((?:1[89]|20)\d\d)$/.exec(text)?.[1];
  if (!year) return null;
  // A month is read as its first day.
  const rest = text.slice(0, -4).replace(/[\s/.-]+$/, '');
  if (!rest || /\d.*\D.*\d/.test(rest)) return null;
  const read = readBirthDate(/^\d+$/.test(rest) ? `${year}-${rest}-1` : `${rest} 1 ${year}`, order, today);
  return read.ok ? read.date.slice(0, 8) : null;
}
