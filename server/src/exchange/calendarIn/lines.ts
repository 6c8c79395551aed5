import ICAL from 'ical.js';

/** One property as it stands in the file: its parameters, and its values in the writing of jCal (RFC 7265). */
export interface Property {
  readonly name: string;
  readonly params: Readonly<Record<string, string>>;
  readonly type: string;
  readonly values: readonly unknown[];
}

/** An event, a block of busy times, or whatever else stands in a calendar. */
export interface CalendarPart {
  /** In lower case, like `vevent`. */
  readonly name: string;
  readonly lines: readonly string[];
  /** What stands inside of it, like the two halves of a time zone. */
  readonly parts: readonly CalendarPart[];
  /** The file ends before it does. */
  readonly cut: boolean;
}

const NAME = /^([A-Za-z][A-Za-z0-9-]*)[;:]/;

/**
 * Takes an iCalendar file apart (RFC 5545 §3.1): a byte order mark, any kind of line end, lines folded anywhere, several
 * calendars in one file, and lines that are none, as programs write them. Nothing is understood yet, so nothing can
 * fail.
 *
 * @returns the calendars; none if this is no iCalendar file
 */
export function calendarsIn(text: string): CalendarPart[] {
  const top: OpenPart = { name: '', lines: [], parts: [], cut: false };
  const open: OpenPart[] = [top];
  for (const line of unfolded(text)) {
    const begin = /^BEGIN:(.+)$/i.exec(line)?.[1].trim().toLowerCase();
    const end = /^END:(.+)$/i.exec(line)?.[1].trim().toLowerCase();
    const last = open[open.length - 1];
    if (begin) {
      const part: OpenPart = { name: begin, lines: [], parts: [], cut: false };
      last.parts.push(part);
      open.push(part);
    } else if (end) close(open, end);
    else last.lines.push(line);
  }
  for (const part of open.slice(1)) part.cut = true;
  return top.parts.filter(({ name }) => name === 'vcalendar');
}

interface OpenPart {
  readonly name: string;
  readonly lines: string[];
  readonly parts: OpenPart[];
  cut: boolean;
}

/** What is still open inside of what ends here was cut off; an end without a beginning is nothing. */
function close(open: OpenPart[], name: string): void {
  const at = open.findLastIndex((part) => part.name === name);
  if (at < 1) return;
  for (const part of open.splice(at).slice(1)) part.cut = true;
}

function unfolded(text: string): string[] {
  const whole = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]/g, '');
  return whole.split('\n').filter((line) => line.trim() !== '');
}

/**
 * The properties of a part by their names, of those that are asked for: a line that nobody needs can't do harm.
 *
 * Throws `SyntaxError` with the property's name if one of them can't be read.
 */
export function propertiesOf(part: CalendarPart, names: ReadonlySet<string>): Map<string, Property[]> {
  const found = new Map<string, Property[]>();
  for (const line of part.lines) {
    const name = NAME.exec(line)?.[1].toLowerCase();
    if (!name || !names.has(name)) continue;
    found.set(name, [...(found.get(name) ?? []), propertyOf(name, line)]);
  }
  return found;
}

function propertyOf(name: string, line: string): Property {
  // Some programs write rules and names of values in small letters; both may be (RFC 5545 §2).
  const text = name === 'rrule' ? line.toUpperCase() : line;
  try {
    const [, params, type, ...values] = ICAL.parse.property(text) as [string, Record<string, string>, string, unknown];
    return { name, params, type, values };
  } catch {
    throw new SyntaxError(name.toUpperCase());
  }
}

/** A day or a floating time, as the library that follows rules wants it. */
export function icalTime(text: string): ICAL.Time {
  const [year, month, day, hour = 0, minute = 0, second = 0] = text.split(/[-T:]/).map(Number);
  return ICAL.Time.fromData({ year, month, day, hour, minute, second, isDate: text.length === 10 });
}
