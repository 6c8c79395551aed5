import { PATIENT_STATUSES } from '@zaguan/core/patients';
import { FITS, MAX_QUERY_LENGTH } from '@zaguan/core/patientSearch';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate } from '../wire.ts';

export const found = z.strictObject({
  id: z.string(),
  fit: z.enum(FITS),
  name: z.string(),
  preferredName: z.string().nullable(),
  formerNames: z.array(z.string()),
  birthDate: localDate,
  age: z.number(),
  /** The last four figures of the first phone number. */
  phoneEnd: z.string().nullable(),
  recordNumber: z.string(),
  /** The home site; where none is set, where the last visit was, else where the next one is. */
  siteName: z.string().nullable(),
  lastVisit: localDate.nullable(),
  nextVisit: z.strictObject({ id: z.string(), date: localDate }).nullable(),
  status: z.enum(PATIENT_STATUSES),
  restricted: z.boolean(),
});
export type FoundPatient = z.output<typeof found>;

export const searchPatients = defineEndpoint({
  name: 'patients.search',
  method: 'post',
  path: '/patients/search',
  summary:
    'Find patients by any part of any name in any order, a date of birth, figures of a phone, an e-mail address or record number, several at once; best first. Inactive ones and those who died are included. Changes nothing.',
  access: { kind: 'role', action: 'patients.view' },
  body: z.strictObject({ text: z.string().max(MAX_QUERY_LENGTH, { error: 'too-long' }) }),
  output: z.strictObject({
    patients: z.array(found),
    /** There are more; another word tells them apart. */
    more: z.boolean(),
  }),
  errors: [],
  readsPatients: true,
});
