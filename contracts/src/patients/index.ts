import { APPOINTMENT_STATUSES, ORIGINS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { answerValue, words } from '../intake/form.ts';
import { instant, localDate } from '../wire.ts';

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
  coming: z.boolean(),
});

const record = z.strictObject({
  id: z.string(),
  recordNumber: z.string(),
  name: z.string(),
  preferredName: z.string().nullable(),
  birthDate: localDate,
  sex: z.string().nullable(),
  language: z.enum(['en', 'es']),
  status: z.string(),
  restricted: z.boolean(),
  contacts: z.array(z.strictObject({ value: z.string(), optedOut: z.boolean() })),
  visits: z.array(visit),
  /** What was or will be sent, newest first. */
  messages: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.string(),
      step: z.string().nullable(),
      contact: z.string().nullable(),
      at: instant,
      status: z.string(),
      visitDate: localDate,
    }),
  ),
  /** Forms and consents of all visits, newest first. */
  forms: z.array(
    z.strictObject({
      id: z.string(),
      title: words,
      visitDate: localDate,
      at: instant,
      completed: z.boolean(),
      answers: z.array(z.strictObject({ question: words, value: z.array(z.union([words, answerValue])) })),
    }),
  ),
  consents: z.array(
    z.strictObject({
      id: z.string(),
      title: words,
      version: z.number(),
      visitDate: localDate,
      at: instant,
      signer: z.string(),
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
