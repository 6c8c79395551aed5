import { MATCH_FIELDS } from '@zaguan/core/matching';
import { readContact } from '@zaguan/core/messages';
import { PATIENT_STATUSES, RIGHTS } from '@zaguan/core/patients';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { birthDate, language, localDate, undoable } from '../wire.ts';
import { address, hasName, names, SEXES } from './edit.ts';
import { MAX_HOUSEHOLD } from './household.ts';
import { RELATIONSHIP_KINDS } from './relationships.ts';

const access = { kind: 'role', action: 'patients.edit' } as const;

const like = z.strictObject({
  /** `null` where the caller may not open the record. */
  patientId: z.string().nullable(),
  recordNumber: z.string().nullable(),
  /** Of a restricted record, "Restricted" and initials. */
  name: z.string(),
  birthDate: localDate.nullable(),
  contact: z.string().nullable(),
  status: z.enum(PATIENT_STATUSES),
  verdict: z.enum(['likely', 'relative', 'possible']),
  fields: z.record(z.enum(MATCH_FIELDS), z.enum(['agrees', 'alike', 'differs', 'unknown'])),
});
export type LikePatient = z.output<typeof like>;

export const likePatients = defineEndpoint({
  name: 'patients.like',
  method: 'post',
  path: '/patients/like',
  summary: 'Records that may be the person who is being entered, with what agrees and what differs. Changes nothing.',
  access,
  body: z.strictObject({
    givenName: z.string().max(200),
    familyName: z.string().max(200),
    birthDate: localDate.nullable(),
    /** As typed: what can't be read as a number or address is left out of the comparison. */
    contact: z.string().max(260),
  }),
  output: z.strictObject({ patients: z.array(like) }),
  errors: [],
  readsPatients: true,
});

/** No phone and no e-mail is an answer too, if somebody says so. */
const reach = z
  .string()
  .max(260, { error: 'too-long' })
  .transform((text, check) => {
    if (!text.trim()) return null;
    const read = readContact(text);
    if (read.ok) return read.value;
    check.addIssue({ code: 'custom', message: read.problem });
    return z.NEVER;
  });

const newPatient = z
  .strictObject({
    ...names,
    birthDate,
    sex: z.enum(SEXES).nullable(),
    preferredName: z.string().trim().max(100, { error: 'too-long' }),
    /** Their own number or address; empty: the household's. */
    contact: reach,
  })
  .refine(hasName, { path: ['givenName'], error: 'name-empty' });

type Named = Readonly<Record<'givenName' | 'familyName' | 'birthDate', string>>;
const isSame = (a: Named, b: Named) =>
  a.givenName === b.givenName && a.familyName === b.familyName && a.birthDate === b.birthDate;

/** Somebody who may act for the children that are registered with them. */
const guardian = z
  .strictObject({
    /** One of those who are registered, by place; `null`: somebody who is no patient. */
    person: z.number().int().min(0).nullable(),
    name: z.string().trim().max(80, { error: 'too-long' }),
    kind: z.enum(RELATIONSHIP_KINDS),
    rights: z.array(z.enum(RIGHTS)).min(1, { error: 'no-right' }).max(RIGHTS.length),
  })
  .superRefine(({ person, name }, check) => {
    if (person === null && !name) check.addIssue({ code: 'custom', path: ['name'], message: 'needed' });
  });

export const registerPatients = defineEndpoint({
  name: 'patients.register',
  method: 'post',
  path: '/patients',
  summary:
    'Register a new patient, or a whole household at once; all or none. Refused while somebody on record is likely the same person and was not looked at.',
  access,
  body: z
    .strictObject({
      people: z.array(newPatient).min(1).max(MAX_HOUSEHOLD),
      language,
      /** How the household is reached. */
      contact: reach,
      /** There is no way to reach them, and whoever registers them says so. */
      unreachable: z.boolean(),
      ...address,
      guardians: z.array(guardian).max(6),
      /** Records that were looked at: they are other people. */
      notThese: z.array(z.uuid()).max(100),
    })
    .superRefine(({ people, contact: shared, unreachable, guardians }, check) => {
      if (shared === null && !unreachable && people.some((person) => person.contact === null))
        check.addIssue({ code: 'custom', path: ['contact'], message: 'contact-or-none' });
      people.forEach((person, at) => {
        if (people.findIndex((other) => isSame(other, person)) < at)
          check.addIssue({ code: 'custom', path: ['people', at, 'givenName'], message: 'person-twice' });
      });
      guardians.forEach(({ person }, at) => {
        if (person !== null && person >= people.length)
          check.addIssue({ code: 'custom', path: ['guardians', at, 'person'], message: 'needed' });
      });
    }),
  output: z.strictObject({
    patients: z.array(z.strictObject({ id: z.string(), recordNumber: z.string() })),
    undo: undoable,
  }),
  errors: ['InvalidInput', 'LikelySame'],
});
