import { readContact } from '@zaguan/core/messages';
import { type DateOrder, MAX_NAME_LENGTH, readBirthDate, readNamePart } from '@zaguan/core/patients';
import { z } from 'zod';
import { birthDate } from '../wire.ts';

/** Longest reason in a patient's own words. */
export const MAX_REASON_LENGTH = 500;

/** A name part that may be left empty; the form asks that one of both is filled. */
export const namePart = z.string().transform((text, check) => {
  if (!text.trim()) return '';
  const read = readNamePart(text);
  if (read.ok) return read.name;
  check.addIssue({ code: 'custom', message: `name-${read.problem}` });
  return z.NEVER;
});

/** A cell phone number or, for people without one, an e-mail address: E.164, or the address in small letters. */
export const contact = z
  .string()
  .max(260)
  .transform((text, check) => {
    const read = readContact(text);
    if (read.ok) return read.value;
    check.addIssue({ code: 'custom', message: read.problem });
    return z.NEVER;
  });

/** Who books, as it goes over the wire: the date of birth has been read back and agreed to, so it is ISO here. */
export const person = z
  .strictObject({
    givenName: namePart,
    familyName: namePart,
    birthDate,
    contact,
    reason: z
      .string()
      .max(MAX_REASON_LENGTH, { error: 'reason-too-long' })
      .transform((text) => text.trim()),
  })
  .refine((who) => Boolean(who.givenName || who.familyName), {
    path: ['givenName'],
    error: 'name-empty',
    // Said beside whatever else is wrong, but not on top of another fault of the name itself.
    when: ({ issues, value }) =>
      value instanceof Object && !issues.some((issue) => ['givenName', 'familyName'].includes(String(issue.path?.[0]))),
  });

/** Faults of the form as typed, by field: the date of birth as it stands there, the rest by the contract's own rules. */
export function personFaults(
  typed: { givenName: string; familyName: string; birthDate: string; contact: string; reason: string },
  order: DateOrder,
  today: string,
): Partial<Record<keyof typeof typed, string>> {
  const faults: Partial<Record<keyof typeof typed, string>> = {};
  const read = readBirthDate(typed.birthDate, order, today);
  if (!read.ok) faults.birthDate = `birth-${read.problem}`;
  const result = person.safeParse({ ...typed, birthDate: '2000-01-01' });
  for (const issue of result.error?.issues ?? []) faults[issue.path[0] as keyof typeof typed] ??= issue.message;
  return faults;
}
export { MAX_NAME_LENGTH };
