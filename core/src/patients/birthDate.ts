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

/** English and Spanish, whole and short. */
const MONTHS: ReadonlyMap<string, number> = new Map(
  [
    'jan january ene enero',
    'feb february febrero',
    'mar march marzo',
    'apr april abr abril',
    'may mayo',
    'jun june junio',
    'jul july julio',
    'aug august ago agosto',
    'sep sept september septiembre setiembre',
    'oct october octubre',
    'nov november noviembre',
    'dec december dic diciembre',
  ].flatMap((names, n) => names.split(' ').map((name) => [name, n + 1] as const)),
);

/** They say nothing that the date does not. `mar` is left out: it is March before it is martes. */
const WEEKDAYS: ReadonlySet<string> = new Set(
  [
    'mon monday tue tues tuesday wed wednesday thu thur thurs thursday fri friday sat saturday sun sunday',
    'lun lunes martes mie miercoles jue jueves vie viernes sab sabado dom domingo',
  ].flatMap((names) => names.split(' ')),
);

/**
 * Reads a date of birth as people write it: ISO 8601, figures with / . - or spaces, month names in English or
 * Spanish (also in one word: 04MAR1987), a weekday before it, eight figures in a row. A year of two figures leaves century and order open, so it is asked.
 *
 * @param today the date at the clinic; a birth date after it is refused
 * @example readBirthDate('4 March 1987', …) gives 1987-03-04; '7/8/12' gives both centuries and orders that exist
 */
export function readBirthDate(text: string, order: DateOrder, today: LocalDate): BirthDateReading {
  const clean = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    // 1st, 1º, 1.ª and 1ero; NFKD has made letters of the raised ones.
    .replace(/\b(\d+)\.?(st|nd|rd|th|o|a|er|ero)\b/g, '$1')
    .replace(/\b(de|of|del|the|el)\b/g, ' ')
    // The apostrophe of a year without its century.
    .replace(/['‘’`](?=\d\d\b)/g, ' ')
    // 04MAR1987
    .replace(/(?<=\d)(?=[a-z])|(?<=[a-z])(?=\d)/g, ' ')
    .trim();
  if (!clean) return { ok: false, problem: 'empty' };
  const tokens = clean.split(/[\s/.,\-‐-―−]+/).filter((token) => token && !WEEKDAYS.has(token));
  if (tokens.length === 1 && /^\d{8}$/.test(tokens[0])) return judge(eightFigures(tokens[0], order), today);
  if (tokens.length !== 3) return { ok: false, problem: 'not-a-date' };
  const months = tokens.map((token) => MONTHS.get(token));
  const named = months.findIndex((month) => month !== undefined);
  const figures = tokens.filter((_, i) => i !== named);
  if (!figures.every((token) => /^\d{1,4}$/.test(token))) return { ok: false, problem: 'not-a-date' };
  if (named >= 0) return judge(withMonthName(figures, months[named] ?? 0, named), today);
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
  const year = Number(token.slice(0, 4));
  const yearFirst = iso(year, Number(token.slice(4, 6)), Number(token.slice(6)));
  const yearLast = allFigures([token.slice(0, 2), token.slice(2, 4), token.slice(4)], order);
  // 19870304 has the year first; 19121987 can't, for there is no nineteenth month.
  return year >= 1800 && year <= 2199 && (isDate(yearFirst) || !yearLast.some(isDate)) ? [yearFirst] : yearLast;
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
