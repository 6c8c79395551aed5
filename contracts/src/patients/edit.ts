import { ACCESS } from '@zaguan/core/availability';
import { IDENTITY_REASONS, MAX_EXTRA_MIN, readConditionCode } from '@zaguan/core/patients';
import { z } from 'zod';
import { namePart } from '../booking/person.ts';
import { defineEndpoint } from '../endpoint.ts';
import { birthDate, language, localDate, resourceId, siteId, undoable, version } from '../wire.ts';

/** As FHIR's administrative gender has them. */
export const SEXES = ['female', 'male', 'other', 'unknown'] as const;

/** A text of one line, or of several; what is too long is refused and never cut. */
const text = (most: number) => z.string().trim().max(most, { error: 'too-long' });

/** A name, typed; at least one of both parts. */
export const names = { givenName: namePart, familyName: namePart };
export const hasName = ({ givenName, familyName }: { givenName: string; familyName: string }) =>
  Boolean(givenName || familyName);

const changed = z.strictObject({ version: z.number(), undo: undoable });
const patient = z.strictObject({ id: z.uuid() });
const access = { kind: 'role', action: 'patients.edit' } as const;

export const saveIdentity = defineEndpoint({
  name: 'patients.saveIdentity',
  method: 'post',
  path: '/patients/:id/identity',
  summary:
    'Change names, date of birth or sex. A changed name or birth date needs a reason; a change that would make the record another person’s is refused.',
  access,
  params: patient,
  body: z
    .strictObject({
      version,
      ...names,
      preferredName: text(100).nullable(),
      birthDate,
      sex: z.enum(SEXES).nullable(),
      /** Why a name or birth date is another one; `null` where none is. */
      reason: z.enum(IDENTITY_REASONS).nullable(),
    })
    .refine(hasName, { path: ['givenName'], error: 'name-empty' }),
  output: changed,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput', 'SomeoneElse'],
});

/** The language of an interpreter, by its tag (BCP 47), such as `vi` or `zh-Hant`. */
const interpreter = z
  .string()
  .regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { error: 'not-a-language' })
  .nullable();

export const address = {
  street: text(120),
  city: text(80),
  region: text(40),
  postalCode: text(20),
};

export const saveDetails = defineEndpoint({
  name: 'patients.saveDetails',
  method: 'post',
  path: '/patients/:id/details',
  summary:
    'Change the address, language, needs with every visit, home site and provider, notes or the alert; only what is given.',
  access,
  params: patient,
  body: z
    .strictObject({
      ...address,
      language,
      interpreter,
      access: z.array(z.enum(ACCESS)).max(ACCESS.length),
      extraMin: z
        .number({ error: 'not-a-number' })
        .int()
        .min(0, { error: 'extra-range' })
        .max(MAX_EXTRA_MIN, { error: 'extra-range' })
        .multipleOf(5, { error: 'not-on-five-minutes' }),
      companion: text(120),
      homeSiteId: siteId.nullable(),
      homeProviderId: resourceId.nullable(),
      referralSource: text(120),
      staffNotes: text(2000),
      alert: text(200),
    })
    .partial()
    .extend({ version }),
  output: changed,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});

/** An ICD-10-CM code as people write it. */
const code = z
  .string()
  .max(12, { error: 'not-icd' })
  .transform((typed, check) => {
    const read = readConditionCode(typed);
    if (read.ok) return read.code;
    check.addIssue({ code: 'custom', message: read.problem === 'empty' ? 'needed' : 'not-icd' });
    return z.NEVER;
  });

export const saveCodes = defineEndpoint({
  name: 'patients.saveCodes',
  method: 'post',
  path: '/patients/:id/codes',
  summary: 'Save the conditions of a patient as ICD-10-CM codes, for registers; all of them, as they are to stand.',
  access,
  params: patient,
  body: z.strictObject({
    version,
    codes: z
      .array(z.strictObject({ code, words: text(120) }))
      .max(40)
      .superRefine((rows, check) => {
        rows.forEach((row, at) => {
          if (rows.findIndex((other) => other.code === row.code) < at)
            check.addIssue({ code: 'custom', path: [at, 'code'], message: 'code-twice' });
        });
      }),
  }),
  output: changed,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

/** What the desk may set by hand; `new` and `archived` come about by themselves. */
export const SET_STATUSES = ['active', 'inactive', 'deceased'] as const;

export const savePatientStatus = defineEndpoint({
  name: 'patients.saveStatus',
  method: 'post',
  path: '/patients/:id/status',
  summary:
    'Say that a patient comes, no longer comes, or has died. Of one who has died, everything planned stops at once: visits to come are canceled without a message, and no message goes out.',
  access,
  params: patient,
  body: z
    .strictObject({ version, status: z.enum(SET_STATUSES), deceasedOn: localDate.nullable() })
    .superRefine(({ status, deceasedOn }, check) => {
      if (deceasedOn !== null && status !== 'deceased')
        check.addIssue({ code: 'custom', path: ['deceasedOn'], message: 'only-deceased' });
    }),
  output: changed.extend({ canceled: z.number() }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});

export const saveFields = defineEndpoint({
  name: 'patients.saveFields',
  method: 'post',
  path: '/patients/:id/fields',
  summary: 'Save the clinic’s own fields of a patient; all of them, as they are to stand.',
  access,
  params: patient,
  body: z.strictObject({
    version,
    answers: z.record(z.uuid(), z.union([z.string().max(500), z.number(), z.boolean()])),
  }),
  output: changed,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});
