import { isDate, type LocalDate } from '../time/index.ts';

/** Which comes first when a date is written in figures: month in American English, day in Spanish. */
export type DateOrder = 'month-first' | 'day-first';

export type BirthDateReading =
  | { readonly ok: true; readonly date: LocalDate }
  /** Two readings exist: ask which, never guess. */
  | { readonly ok: false; readonly problem: 'ambiguous'; readonly readings: readonly LocalDate[] }
  | { readonly ok: false; readonly problem: 'empty' | 'not-a-date' | 'no-such-day' | 'in-future' | 'too-long-ago' };

/** The oldest person with proven dates lived 122 years; a birth date before that is a slip of the finger. */
const OLDEST_YEARS = 125;

const MONTHS: Record<string, number> = {
  jan: 1,
  january: 1,
  ene: 1,
  enero: 1,
  feb: 2,
  february: 2,
  febrero: 2,
  mar: 3,
  march: 3,
  marzo: 3,
  apr: 4,
  april: 4,
  abr: 4,
  abril: 4,
  may: 5,
  mayo: 5,
  jun: 6,
  june: 6,
  junio: 6,
  jul: 7,
  july: 7,
  julio: 7,
  aug: 8,
  august: 8,
  ago: 8,
  agosto: 8,
  sep: 9,
  sept: 9,
  september: 9,
  septiembre: 9,
  setiembre: 9,
  oct: 10,
  october: 10,
  octubre: 10,
  nov: 11,
  november: 11,
  noviembre: 11,
  dec: 12,
  december: 12,
  dic: 12,
  diciembre: 12,
};

/**
 * Reads a date of birth as people write it: ISO 8601, figures with / . - or spaces, month names in English or
 * Spanish, eight figures in a row. A year of two figures leaves century and order open, so it is asked.
 *
 * @param today the date at the clinic; a birth date after it is refused
 * @example readBirthDate('4 March 1987', …) gives 1987-03-04; '7/8/12' gives both centuries and orders that exist
 */
export function readBirthDate(text: string, order: DateOrder, today: LocalDate): BirthDateReading {
  const clean = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/\b(\d+)(st|nd|rd|th)\b/g, '$1')
    .replace(/\b(de|of|del)\b/g, ' ')
    .trim();
  if (!clean) return { ok: false, problem: 'empty' };
  const tokens = clean.split(/[\s/.,-]+/).filter(Boolean);
  if (tokens.length === 1 && /^\d{8}$/.test(tokens[0])) return judge(eightFigures(tokens[0], order), today);
  if (tokens.length !== 3) return { ok: false, problem: 'not-a-date' };
  const months = tokens.map((token) => MONTHS[token]);
  const named = months.findIndex((month) => month !== undefined);
  const figures = tokens.filter((_, i) => i !== named);
  if (!figures.every((token) => /^\d{1,4}$/.test(token))) return { ok: false, problem: 'not-a-date' };
  if (named >= 0) return judge(withMonthName(figures, months[named], named), today);
  return judge(allFigures(figures, order), today);
}

function iso(year: number, month: number, day: number): LocalDate {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

function years(token: string): number[] {
  if (token.length === 4) return [Number(token)];
  return token.length === 2 ? [1900 + Number(token), 2000 + Number(token)] : [];
}

function eightFigures(token: string, order: DateOrder): LocalDate[] {
  const yearFirst = Number(token.slice(0, 4));
  if (yearFirst >= 1800 && yearFirst <= 2199)
    return [iso(yearFirst, Number(token.slice(4, 6)), Number(token.slice(6)))];
  return allFigures([token.slice(0, 2), token.slice(2, 4), token.slice(4)], order);
}

function withMonthName(figures: string[], month: number, namedAt: number): LocalDate[] {
  const [first, second] = figures;
  if (first.length === 4) return [iso(Number(first), month, Number(second))];
  // "March 4 1987" and "4 March 1987" both put the year last.
  return namedAt === 2 ? [] : years(second).map((year) => iso(year, month, Number(first)));
}

function allFigures([a, b, c]: string[], order: DateOrder): LocalDate[] {
  if (a.length === 4) return [iso(Number(a), Number(b), Number(c))];
  const readings: LocalDate[] = [];
  for (const year of years(c)) {
    readings.push(order === 'month-first' ? iso(year, Number(a), Number(b)) : iso(year, Number(b), Number(a)));
    // With a four-figure year the custom of the language decides; with two figures even the order is in doubt.
    if (c.length === 2 || !isDate(readings[readings.length - 1]))
      readings.push(order === 'month-first' ? iso(year, Number(b), Number(a)) : iso(year, Number(a), Number(b)));
  }
  return readings;
}

function judge(readings: readonly LocalDate[], today: LocalDate): BirthDateReading {
  if (!readings.length) return { ok: false, problem: 'not-a-date' };
  const existing = [...new Set(readings.filter(isDate))];
  if (!existing.length) return { ok: false, problem: 'no-such-day' };
  const oldest = `${String(Number(today.slice(0, 4)) - OLDEST_YEARS).padStart(4, '0')}${today.slice(4)}`;
  const possible = existing.filter((date) => date <= today && date >= oldest).sort();
  if (possible.length === 1) return { ok: true, date: possible[0] };
  if (possible.length > 1) return { ok: false, problem: 'ambiguous', readings: possible };
  return { ok: false, problem: existing.some((date) => date > today) ? 'in-future' : 'too-long-ago' };
}
