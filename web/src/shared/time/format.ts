/** Formatting in a site's zone. American English for staff; patients' language for patients. */
const LOCALE = { en: 'en-US', es: 'es-US' } as const;
export type Language = keyof typeof LOCALE;

const formats = new Map<string, Intl.DateTimeFormat>();

function format(language: Language, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${language}${JSON.stringify(options)}`;
  let made = formats.get(key);
  if (!made) {
    made = new Intl.DateTimeFormat(LOCALE[language], options);
    formats.set(key, made);
  }
  return made;
}

/** Of each language and zone: a full board asks for thousands of times of day, and most of them again. */
const clocks = new Map<string, { readonly format: Intl.DateTimeFormat; readonly said: Map<string, string> }>();
/** Times of a day at five minutes, over a few weeks. */
const MOST_KEPT = 20_000;

/** "9:20 am" at the site. */
export function timeOf(instant: string, timeZone: string, language: Language = 'en'): string {
  const key = `${language} ${timeZone}`;
  let clock = clocks.get(key);
  if (!clock) {
    clock = { format: format(language, { timeZone, hour: 'numeric', minute: '2-digit' }), said: new Map() };
    clocks.set(key, clock);
  }
  let words = clock.said.get(instant);
  if (words === undefined) {
    words = clock.format.format(new Date(instant)).replace(/\s(AM|PM)/, (_, half: string) => ` ${half.toLowerCase()}`);
    if (clock.said.size >= MOST_KEPT) clock.said.clear();
    clock.said.set(instant, words);
  }
  return words;
}

/** "Thursday, December 3" of a bare date; a date is never an instant, so noon UTC stands for it. */
export function formatDate(date: string, language: Language = 'en', withYear = false): string {
  return capital(
    format(language, {
      timeZone: 'UTC',
      weekday: 'long',
      month: 'long',
      day: 'numeric',
      ...(withYear && { year: 'numeric' }),
    }).format(new Date(`${date}T12:00:00Z`)),
  );
}

/** "Wed, Nov 25" of a bare date; with the year where it is another than that of `near`, a date. */
export function shortDate(date: string, language: Language = 'en', near = date): string {
  return capital(
    format(language, {
      timeZone: 'UTC',
      weekday: 'short',
      month: 'short',
      day: 'numeric',
      ...(date.slice(0, 4) !== near.slice(0, 4) && { year: 'numeric' }),
    }).format(new Date(`${date}T12:00:00Z`)),
  );
}

/** "Nov 25" of a bare date. */
export function dayAndMonth(date: string, language: Language = 'en'): string {
  return format(language, { timeZone: 'UTC', month: 'short', day: 'numeric' }).format(new Date(`${date}T12:00:00Z`));
}

/** A date of birth read back unmistakably: "March 4, 1987" / "4 de marzo de 1987". */
export function formatBirthDate(date: string, language: Language = 'en'): string {
  return format(language, { timeZone: 'UTC', year: 'numeric', month: 'long', day: 'numeric' }).format(
    new Date(`${date}T12:00:00Z`),
  );
}

/** The date at a site of an instant, ISO 8601. */
export function dateAt(instant: string, timeZone: string): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(
    new Date(instant),
  );
}

/** "Central Time" for people, in their language. */
export function formatZone(timeZone: string, language: Language = 'en', at = '2026-01-15T12:00:00Z'): string {
  const parts = format(language, { timeZone, timeZoneName: 'longGeneric' }).formatToParts(new Date(at));
  return parts.find((part) => part.type === 'timeZoneName')?.value ?? timeZone;
}

/** "CT" for a ruler. */
export function zoneShort(timeZone: string): string {
  const parts = format('en', { timeZone, timeZoneName: 'shortGeneric' }).formatToParts(
    new Date('2026-01-15T12:00:00Z'),
  );
  return parts.find((part) => part.type === 'timeZoneName')?.value ?? timeZone;
}

/** "8:30 am" of minutes after midnight on a wall clock; 1440 is midnight. */
export function wallTime(minute: number): string {
  const hour = Math.floor(minute / 60) % 24;
  const half = hour < 12 ? 'am' : 'pm';
  return `${hour % 12 === 0 ? 12 : hour % 12}:${String(minute % 60).padStart(2, '0')} ${half}`;
}

/** Monday to Sunday, short. */
export function weekdayNames(language: Language = 'en', width: 'short' | 'long' | 'narrow' = 'short'): string[] {
  return Array.from({ length: 7 }, (_, i) =>
    capital(format(language, { timeZone: 'UTC', weekday: width }).format(new Date(Date.UTC(2024, 0, 1 + i, 12)))),
  );
}

function capital(text: string): string {
  return text.charAt(0).toLocaleUpperCase() + text.slice(1);
}

/** A number as people here write it: "(312) 555-0142"; others stay as they are. */
export function formatPhone(e164: string): string {
  const parts = /^\+1(\d{3})(\d{3})(\d{4})$/.exec(e164);
  return parts ? `(${parts[1]}) ${parts[2]}-${parts[3]}` : e164;
}

/** The date so many days later (or earlier). */
export function shiftDate(date: string, days: number): string {
  return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
}

/** The Monday of a date's week. */
export function weekOf(date: string): string {
  return shiftDate(date, -((new Date(`${date}T12:00:00Z`).getUTCDay() + 6) % 7));
}

/** "Nov 30, 2026, 9:32 am" at a site. */
export function dateTimeOf(instant: string, timeZone: string, language: Language = 'en'): string {
  const day = format(language, { timeZone, year: 'numeric', month: 'short', day: 'numeric' }).format(new Date(instant));
  return `${day}, ${timeOf(instant, timeZone, language)}`;
}

/** "December" of a bare date. */
export function monthOf(date: string, language: Language = 'en'): string {
  return format(language, { timeZone: 'UTC', month: 'long' }).format(new Date(`${date}T12:00:00Z`));
}

/** The reader's own clock, where nothing of the clinic is known: before sign-in. */
export const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
