import { type DateOrder, LONGEST_NAME, readBirthDate, readNamePart, readPhone } from '@zaguan/core/patients';
import { z } from 'zod';

/** Longest reason in a patient's own words. */
export const LONGEST_REASON = 500;

/** A name part that may be left empty; the form asks that one of both is filled. */
const namePart = z.string().transform((text, check) => {
  if (!text.trim()) return '';
  const read = readNamePart(text);
  if (read.ok) return read.name;
  check.addIssue({ code: 'custom', message: `name-${read.problem}` });
  return z.NEVER;
});

/** Who books, as it goes over the wire: the date of birth has been read back and agreed to, so it is ISO here. */
export const person = z
  .strictObject({
    givenName: namePart,
    familyName: namePart,
    birthDate: z.iso.date({ error: 'not-a-date' }),
    phone: z
      .string()
      .max(40)
      .transform((text, check) => {
        const read = readPhone(text);
        if (read.ok) return read.e164;
        check.addIssue({ code: 'custom', message: `phone-${read.problem}` });
        return z.NEVER;
      }),
    reason: z
      .string()
      .max(LONGEST_REASON, { error: 'reason-too-long' })
      .transform((text) => text.trim()),
  })
  .superRefine((who, check) => {
    if (!who.givenName && !who.familyName)
      check.addIssue({ code: 'custom', path: ['givenName'], message: 'name-empty' });
  });

/** The form's fields as typed; gives what `person` wants. `today` and the order of figures come from the page. */
export function personForm(order: DateOrder, today: string) {
  return z.strictObject({
    givenName: z.string(),
    familyName: z.string(),
    birthDate: z.string().superRefine((text, check) => {
      const read = readBirthDate(text, order, today);
      if (!read.ok) check.addIssue({ code: 'custom', message: `birth-${read.problem}` });
    }),
    phone: z.string(),
    reason: z.string(),
  });
}
export { LONGEST_NAME };
