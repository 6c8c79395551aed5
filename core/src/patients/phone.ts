import { parsePhoneNumberFromString } from 'libphonenumber-js/min';

export type PhoneReading =
  | { readonly ok: true; readonly e164: string; readonly national: string }
  | { readonly ok: false; readonly problem: 'empty' | 'not-a-phone' };

/** The North American fiction range 555-0100 to 555-0199 is no real line, but demo and tests need numbers that reach nobody. */
const FICTION = /^\+1[2-9]\d{2}55501\d{2}$/;

/**
 * Reads a telephone number as people write it, national numbers as North American (NANP), and gives ITU-T E.164.
 * Accepts valid numbers and the range set aside for fiction.
 */
export function readPhone(text: string): PhoneReading {
  if (!text.trim()) return { ok: false, problem: 'empty' };
  const parsed = parsePhoneNumberFromString(text, 'US');
  if (!parsed || parsed.ext || !(parsed.isValid() || FICTION.test(parsed.number)))
    return { ok: false, problem: 'not-a-phone' };
  return { ok: true, e164: parsed.number, national: parsed.formatNational() };
}
