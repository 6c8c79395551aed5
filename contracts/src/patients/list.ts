import { MAX_QUERY_LENGTH } from '@zaguan/core/patientSearch';
import { PATIENT_STATUSES } from '@zaguan/core/patients';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { language, siteId, unreadableRows } from '../wire.ts';
import { found } from './search.ts';

/** Columns by which a list can be in order; `fit`: as the search ranks them. */
export const LIST_SORTS = ['fit', 'recent', 'name', 'birthDate', 'nextVisit'] as const;
export type ListSort = (typeof LIST_SORTS)[number];

/** When they were here. */
export const LIST_SEEN = ['any', 'never', 'within-year', 'not-within-year'] as const;
/** Whether they come again. */
export const LIST_NEXT = ['any', 'booked', 'none'] as const;

export const patientListQuery = z.strictObject({
  text: z.string().max(MAX_QUERY_LENGTH, { error: 'too-long' }),
  statuses: z.array(z.enum(PATIENT_STATUSES)).max(PATIENT_STATUSES.length),
  siteId: siteId.nullable(),
  language: language.nullable(),
  seen: z.enum(LIST_SEEN),
  next: z.enum(LIST_NEXT),
  /** The beginning of an ICD-10-CM code. */
  code: z.string().max(8),
  sort: z.enum(LIST_SORTS),
  descending: z.boolean(),
});
export type PatientListQuery = z.input<typeof patientListQuery>;

const row = found.extend({
  language: z.enum(['en', 'es']),
  homeSiteName: z.string().nullable(),
  codes: z.array(z.string()),
});
export type ListedPatient = z.output<typeof row>;

export const listPatients = defineEndpoint({
  name: 'patients.list',
  method: 'post',
  path: '/patients/list',
  summary: 'Patients as a table: the same search, with simple filters, in order, by pages. Changes nothing.',
  access: { kind: 'role', action: 'patients.view' },
  body: patientListQuery.extend({ page: z.number().int().min(0).max(1000) }),
  output: z.strictObject({
    patients: z.array(row),
    total: z.number(),
    /** There are more than are counted. */
    more: z.boolean(),
    pageSize: z.number(),
  }),
  errors: [],
  readsPatients: true,
});

const saved = z.strictObject({ id: z.string(), name: z.string(), query: patientListQuery });
export type SavedPatientList = z.input<typeof saved>;

export const savedPatientLists = defineEndpoint({
  name: 'patientLists.list',
  method: 'get',
  path: '/patient-lists',
  summary: 'The lists of patients that the account has saved.',
  access: { kind: 'role', action: 'patients.view' },
  output: z.strictObject({ lists: z.array(saved), unreadable: unreadableRows }),
  errors: [],
});

export const savePatientList = defineEndpoint({
  name: 'patientLists.save',
  method: 'post',
  path: '/patient-lists',
  summary: 'Save a list of patients under a name; one of the same name is written over.',
  access: { kind: 'role', action: 'patients.view' },
  body: z.strictObject({
    name: z.string().trim().min(1, { error: 'needed' }).max(60, { error: 'too-long' }),
    query: patientListQuery,
  }),
  output: z.strictObject({ id: z.string() }),
  errors: [],
});

export const deletePatientList = defineEndpoint({
  name: 'patientLists.delete',
  method: 'post',
  path: '/patient-lists/:id/delete',
  summary: 'Delete a saved list. The patients stay.',
  access: { kind: 'role', action: 'patients.view' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({}),
  errors: ['NotFound'],
});
