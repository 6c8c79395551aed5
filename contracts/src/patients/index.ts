import { SIGNERS } from '@zaguan/core/intake';
import { PATIENT_STATUSES, RIGHTS, TRAIL_FIELDS } from '@zaguan/core/patients';
import { MESSAGE_KINDS, MESSAGE_STATUSES, REMINDER_STEPS } from '@zaguan/core/reminders';
import { FIELD_KINDS } from '@zaguan/core/setup';
import { APPOINTMENT_STATUSES, ORIGINS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { answerValue, words } from '../intake/form.ts';
import { instant, localDate, undoable, version } from '../wire.ts';

const visit = z.strictObject({
  id: z.string(),
  date: localDate,
  start: instant,
  timeZone: z.string(),
  siteName: z.string(),
  visitType: z.string(),
  provider: z.string().nullable(),
  status: z.enum(APPOINTMENT_STATUSES),
  origin: z.enum(ORIGINS),
  reason: z.string(),
  upcoming: z.boolean(),
});

const changed = z.union([z.string(), z.number(), z.boolean()]).nullable();

const record = z.strictObject({
  id: z.string(),
  recordNumber: z.string(),
  name: z.string(),
  preferredName: z.string().nullable(),
  birthDate: localDate,
  sex: z.string().nullable(),
  language: z.enum(['en', 'es']),
  status: z.enum(PATIENT_STATUSES),
  restricted: z.boolean(),
  version: z.number(),
  mayEdit: z.boolean(),
  /** The clinic's own fields, with what stands there. */
  fields: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.enum(FIELD_KINDS),
      label: z.string(),
      required: z.boolean(),
      choices: z.array(z.string()),
      value: z.union([z.string(), z.number(), z.boolean(), z.null()]),
    }),
  ),
  /** Who may act for this patient, and what they may do today. */
  relationships: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      relatedPatientId: z.string().nullable(),
      kind: z.string(),
      rights: z.array(z.enum(RIGHTS)),
      rightsToday: z.array(z.enum(RIGHTS)),
      fromDate: localDate,
      untilDate: localDate.nullable(),
      /** What custody or a court limits, in words, for whoever stands before them. */
      limits: z.string(),
    }),
  ),
  contacts: z.array(z.strictObject({ value: z.string(), optedOut: z.boolean() })),
  visits: z.array(visit),
  /** What was or will be sent, newest first. */
  messages: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.enum(MESSAGE_KINDS),
      step: z.enum(REMINDER_STEPS).nullable(),
      contact: z.string().nullable(),
      at: instant,
      status: z.enum(MESSAGE_STATUSES),
      visitDate: localDate,
    }),
  ),
  /** Forms and consents of all visits, newest first. */
  forms: z.array(
    z.strictObject({
      id: z.string(),
      /** As the staff call it. */
      name: z.string(),
      visitDate: localDate,
      at: instant,
      completed: z.boolean(),
      answers: z.array(z.strictObject({ question: words, value: z.array(z.union([words, answerValue])) })),
    }),
  ),
  consents: z.array(
    z.strictObject({
      id: z.string(),
      /** As the staff call it. */
      name: z.string(),
      version: z.number(),
      visitDate: localDate,
      at: instant,
      signer: z.enum(SIGNERS),
      signerName: z.string(),
      language: z.enum(['en', 'es']),
    }),
  ),
  /** Newest first; what was read and what was changed, by whom. */
  trail: z.array(
    z.strictObject({
      at: instant,
      kind: z.enum(['read', 'write']),
      command: z.string(),
      actor: z.enum(['staff', 'patient', 'system']),
      by: z.string().nullable(),
      /** Before and after, what can be read of it; an id is given as its name, a field of the clinic's own by its label. */
      changes: z.array(
        z.strictObject({
          field: z.enum(TRAIL_FIELDS),
          label: z.string().nullable(),
          before: changed,
          after: changed,
        }),
      ),
    }),
  ),
});
export type PatientRecord = z.output<typeof record>;

export const patientRecord = defineEndpoint({
  name: 'patients.record',
  method: 'get',
  path: '/patients/:id',
  summary: 'One patient: details, visits, messages, forms, consents, and who saw and changed what.',
  access: { kind: 'role', action: 'patients.view' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({ record }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const saveFields = defineEndpoint({
  name: 'patients.saveFields',
  method: 'post',
  path: '/patients/:id/fields',
  summary: 'Save the clinic’s own fields of a patient; all of them, as they are to stand.',
  access: { kind: 'role', action: 'patients.edit' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({
    version,
    answers: z.record(z.uuid(), z.union([z.string().max(500), z.number(), z.boolean()])),
  }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'InvalidInput'],
});

export const RELATIONSHIP_KINDS = [
  'parent',
  'guardian',
  'step-parent',
  'foster-parent',
  'spouse',
  'child',
  'caregiver',
  'other',
] as const;

export const addRelationship = defineEndpoint({
  name: 'patients.addRelationship',
  method: 'post',
  path: '/patients/:id/relationships',
  summary: 'Say who may act for a patient, from when until when, and what they may do.',
  access: { kind: 'role', action: 'patients.edit' },
  params: z.strictObject({ id: z.uuid() }),
  body: z
    .strictObject({
      name: z.string().trim().min(1, { error: 'needed' }).max(80, { error: 'too-long' }),
      kind: z.enum(RELATIONSHIP_KINDS),
      rights: z.array(z.enum(RIGHTS)).max(RIGHTS.length),
      fromDate: localDate,
      untilDate: localDate.nullable(),
      limits: z.string().trim().max(200, { error: 'too-long' }).default(''),
    })
    .superRefine((row, check) => {
      if (row.untilDate !== null && row.untilDate < row.fromDate)
        check.addIssue({ code: 'custom', path: ['untilDate'], message: 'until-before-from' });
    }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed'],
});

export const endRelationship = defineEndpoint({
  name: 'patients.endRelationship',
  method: 'post',
  path: '/patients/:id/relationships/:relationshipId/end',
  summary: 'End what somebody may do for a patient, with a last date.',
  access: { kind: 'role', action: 'patients.edit' },
  params: z.strictObject({ id: z.uuid(), relationshipId: z.uuid() }),
  body: z.strictObject({ untilDate: localDate }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'InvalidInput'],
});
export * from './search.ts';
