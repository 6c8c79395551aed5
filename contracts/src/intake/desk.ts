import { IDENTIFIERS, READINESS_CODES, RED_FLAG_SEVERITIES } from '@zaguan/core/intake';
import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, askedDate, instant, localDate, undoable, version } from '../wire.ts';
import { words } from './form.ts';

const readinessItem = z.strictObject({
  code: z.enum(READINESS_CODES),
  documentId: z.string().nullable(),
  state: z.enum(['done', 'missing', 'waived']),
  needed: z.boolean(),
  waivable: z.boolean(),
});

/** How far a visit is, in figures: what a plate can show. */
export const readinessShort = z.strictObject({
  done: z.number(),
  total: z.number(),
  ready: z.boolean(),
  held: z.boolean(),
});
export type ReadinessShort = z.output<typeof readinessShort>;

const boardVisit = z.strictObject({
  id: z.string(),
  date: localDate,
  start: instant,
  name: z.string(),
  patientId: z.string().nullable(),
  visitType: z.string(),
  provider: z.string().nullable(),
  status: z.enum(APPOINTMENT_STATUSES),
  readiness: readinessShort.extend({ items: z.array(readinessItem) }),
});
export type BoardVisit = z.output<typeof boardVisit>;

export const board = defineEndpoint({
  name: 'intake.board',
  method: 'get',
  path: '/intake/board',
  summary: 'Readiness of every visit of today and the next working day, or of a day that is asked for, by site.',
  access: { kind: 'role', action: 'intake.view' },
  query: z.strictObject({ date: askedDate.optional() }),
  output: z.strictObject({
    now: instant,
    /** As the staff call them. */
    documents: z.array(z.strictObject({ id: z.string(), name: z.string() })),
    sites: z.array(
      z.strictObject({
        id: z.string(),
        name: z.string(),
        timeZone: z.string(),
        today: localDate,
        /** The dates of the board at this site, in order. */
        days: z.array(localDate),
        visits: z.array(boardVisit),
      }),
    ),
  }),
  errors: [],
  readsPatients: true,
});

const flag = z.strictObject({
  id: z.string(),
  question: words,
  answer: words,
  /** What the patient's page told them to do. */
  told: words,
  severity: z.enum(RED_FLAG_SEVERITIES),
  raisedAt: instant,
  cleared: z.strictObject({ at: instant, by: z.string(), note: z.string() }).nullable(),
});

const visitReadiness = z.strictObject({
  id: z.string(),
  version: z.number(),
  status: z.enum(APPOINTMENT_STATUSES),
  ready: z.boolean(),
  held: z.boolean(),
  /** The day from which check-in is possible, while it is still to come. */
  opensOn: localDate.nullable(),
  items: z.array(
    readinessItem.extend({
      /** As the staff call the form or consent. */
      name: z.string().nullable(),
      waiver: z.strictObject({ by: z.string(), reason: z.string() }).nullable(),
    }),
  ),
  flags: z.array(flag),
  /** What the record says, to be compared with what the patient says; `null` while the person is not known. */
  identifiers: z.array(z.strictObject({ identifier: z.enum(IDENTIFIERS), value: z.string() })).nullable(),
});
export type VisitReadiness = z.output<typeof visitReadiness>;

export const readiness = defineEndpoint({
  name: 'intake.readiness',
  method: 'get',
  path: '/appointments/:id/readiness',
  summary: 'What one visit still needs before check-in.',
  access: { kind: 'role', action: 'intake.view' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({ readiness: visitReadiness }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

export const checkIn = defineEndpoint({
  name: 'intake.checkIn',
  method: 'post',
  path: '/appointments/:id/check-in',
  summary: 'Check in: two identifiers, nothing missing; makes the encounter.',
  access: { kind: 'role', action: 'intake.check-in' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ identifiers: z.array(z.enum(IDENTIFIERS)).max(4), version }),
  output: z.strictObject({ version: z.number(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'NotReady', 'WrongStatus', 'ChangedMeanwhile'],
});

export const waive = defineEndpoint({
  name: 'intake.waive',
  method: 'post',
  path: '/appointments/:id/waivers',
  summary: 'Let something missing through, with a reason. A red flag or an unknown person never.',
  access: { kind: 'role', action: 'intake.waive' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({
    code: z.enum(READINESS_CODES),
    documentId: z.uuid().nullable(),
    reason: z.string().trim().min(1, { error: 'reason-empty' }).max(300, { error: 'reason-too-long' }),
  }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'DecidedAlready'],
});

export const clearFlag = defineEndpoint({
  name: 'intake.clearFlag',
  method: 'post',
  path: '/red-flags/:id/clear',
  summary: 'A clinician has looked at a red flag; check-in may go on.',
  access: { kind: 'role', action: 'red-flag.clear' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({
    note: z.string().trim().min(1, { error: 'reason-empty' }).max(300, { error: 'reason-too-long' }),
  }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'DecidedAlready'],
});

export const consentPdf = defineEndpoint({
  name: 'intake.consentPdf',
  method: 'get',
  path: '/signed-consents/:id/consent.pdf',
  summary: 'A signed consent as it was kept.',
  access: { kind: 'role', action: 'intake.view' },
  params: z.strictObject({ id: z.uuid() }),
  answers: 'pdf',
  fileName: 'consent.pdf',
  output: z.string(),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});
