import type { ICalCalendar } from 'ical-generator';

/** A calendar object as it goes out: every line ends with CRLF, the last one too (RFC 5545 §3.1). */
export function calendarText(calendar: ICalCalendar): string {
  return `${calendar.toString().trimEnd()}\r\n`;
}

/**
 * A name as the value of a parameter such as CN. A quoted value may hold no quotes and no line ends; RFC 6868 §3.1 says
 * what stands for them.
 */
export function parameterText(name: string): string {
  return name.replace(/[\^"\r\n]+/g, (found) =>
    found
      .replaceAll('^', '^^')
      .replaceAll('"', "^'")
      .replace(/\r\n|\r|\n/g, '^n'),
  );
}
