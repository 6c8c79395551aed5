export type CodeReading =
  | { readonly ok: true; readonly code: string }
  | { readonly ok: false; readonly problem: 'empty' | 'not-a-code' };

/**
 * A letter, a figure, a letter or figure, and up to four more after the point: "A code may be three, four, five, six or
 * seven characters" (ICD-10-CM Official Guidelines for Coding and Reporting, Section I.A.2, from memory). Whether the code
 * is one of the published list is not asked: the list changes each year and does not ship with this.
 */
const ICD_10_CM = /^[A-Z]\d[0-9A-Z](?:\.[0-9A-Z]{1,4})?$/;

/** The code system as FHIR names it (HL7 Terminology, from memory). */
export const ICD_10_CM_SYSTEM = 'http://hl7.org/fhir/sid/icd-10-cm';

/** Reads an ICD-10-CM code as people write it: small letters, spaces and a left-out point are mended. */
export function readConditionCode(text: string): CodeReading {
  const letters = text.replace(/[\s.]/g, '').toUpperCase();
  if (!letters) return { ok: false, problem: 'empty' };
  const code = letters.length > 3 ? `${letters.slice(0, 3)}.${letters.slice(3)}` : letters;
  return ICD_10_CM.test(code) ? { ok: true, code } : { ok: false, problem: 'not-a-code' };
}
