import { gapsOf, isOneSlip, type Item, type Reading, SLIP_FROM_LETTERS } from '@zaguan/core/patientSearch';
import type { Born, Way, WordRange } from './patientSearch.sql.ts';

/** Above every letter there is (the last code point). */
const LAST = '\u{10ffff}';
const ANY_BIRTH: Born = { bornFrom: '0001-01-01', bornUntil: '9999-12-31' };

/** Words of names that are one slip from a typed one, by the typed one. */
export type Slips = ReadonlyMap<string, readonly string[]>;

/** The gaps of all typed words that may hold a slip. */
export function gapsOfReadings(readings: readonly Reading[]): string[] {
  return [...new Set(typedWords(readings).flatMap(gapsOf))];
}

/** Of words that share a gap with a typed one, those that are one slip from it. */
export function slipsAmong(readings: readonly Reading[], words: readonly string[]): Slips {
  return new Map(typedWords(readings).map((typed) => [typed, words.filter((word) => isOneSlip(typed, word))]));
}

function typedWords(readings: readonly Reading[]): string[] {
  const words = readings.flatMap(({ items }) => items.flatMap((item) => (item.is === 'name' ? [item.word] : [])));
  return [...new Set(words)].filter((word) => [...word].length >= SLIP_FROM_LETTERS);
}

/** How the patients of one reading are looked up: by what few have, where there is such a thing. */
export function waysOf({ items }: Reading, slips: Slips): Way[] {
  const few = items.find(
    (item) => item.is === 'record' || item.is === 'email' || (item.is === 'phone' && item.digits.length >= 4),
  );
  if (few) return waysOfItem(few);
  const born = bornOf(items);
  const names = items.flatMap((item) => (item.is === 'name' ? [item.word] : []));
  if (names.length) {
    const ranges = names.flatMap((word, n) => rangesOf(word, n, slips));
    const longest = names.reduce((best, word, n) => (word.length > names[best].length ? n : best), 0);
    return [{ by: 'words', ranges, driver: longest, ...born }];
  }
  const phone = items.find((item) => item.is === 'phone');
  return phone ? waysOfItem(phone) : [{ by: 'born', ...born }];
}

const begins = (start: string) => ({ low: start, high: start + LAST });

function waysOfItem(item: Item): Way[] {
  if (item.is === 'email') return [{ by: 'contact', ...begins(item.text) }];
  if (item.is === 'record') {
    const figures = /^\d+$/.test(item.text) ? item.text.replace(/^0+/, '') : '';
    return [
      { by: 'record', ...begins(item.text) },
      ...(figures ? [{ by: 'figures' as const, low: figures, high: `${figures}\u0001` }] : []),
    ];
  }
  if (item.is !== 'phone') return [];
  const { digits } = item;
  return [
    { by: 'contact', ...begins(`+1${digits}`) },
    { by: 'contact', ...begins(`+${digits}`) },
    ...(digits.length >= 4 ? [{ by: 'phone-end' as const, ...begins([...digits].reverse().join('')) }] : []),
  ];
}

/** Between which dates somebody was born who fits all that is said of it. */
function bornOf(items: readonly Item[]): Born {
  return items.reduce((born, item) => {
    const [from, until] =
      item.is === 'born'
        ? [item.date, item.date]
        : item.is === 'born-in'
          ? [`${item.start}${item.start.length > 5 ? '01' : '01-01'}`, lastOf(item.start)]
          : [born.bornFrom, born.bornUntil];
    return { bornFrom: max(born.bornFrom, from), bornUntil: min(born.bornUntil, until) };
  }, ANY_BIRTH);
}

function lastOf(start: string): string {
  if (start.length <= 5) return `${start}12-31`;
  const [year, month] = start.split('-').map(Number);
  return `${start}${new Date(Date.UTC(year, month, 0)).getUTCDate()}`;
}

const max = (a: string, b: string) => (a > b ? a : b);
const min = (a: string, b: string) => (a < b ? a : b);

function rangesOf(word: string, n: number, slips: Slips): WordRange[] {
  return [
    { n, from: word, until: word + LAST },
    ...(slips.get(word) ?? []).map((other) => ({ n, from: other, until: `${other}\u0001` })),
  ];
}
