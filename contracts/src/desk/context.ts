import { ACCESS } from '@zaguan/core/availability';
import { PATIENT_STATUSES } from '@zaguan/core/patients';
import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, patientKind } from '../wire.ts';
import { unplacedRow } from './bench.ts';
import { requestRow } from './requests.ts';
import { wishRow } from './wish.ts';

const contextVisit = z.strictObject({
  id: z.string(),
  date: localDate,
  start: instant,
  timeZone: z.string(),
  siteName: z.string(),
  visitTypeId: z.string(),
  visitType: z.string(),
  provider: z.string().nullable(),
  status: z.enum(APPOINTMENT_STATUSES),
});
export type ContextVisit = z.output<typeof contextVisit>;

const context = z.strictObject({
  patient: z.strictObject({
    id: z.string(),
    name: z.string(),
    birthDate: localDate,
    age: z.number(),
    phoneEnd: z.string().nullable(),
    recordNumber: z.string(),
    status: z.enum(PATIENT_STATUSES),
    kind: patientKind,
    homeSiteId: z.string().nullable(),
    homeProviderId: z.string().nullable(),
    alert: z.string(),
    staffNotes: z.string(),
    interpreter: z.string().nullable(),
    access: z.array(z.enum(ACCESS)),
    extraMin: z.number(),
    /** Not of age: somebody else books for them. */
    isMinor: z.boolean(),
    /** Who pays, as was said last. */
    payerId: z.string().nullable(),
  }),
  coming: z.array(contextVisit),
  past: z.array(contextVisit),
  missed: z.number(),
  /** Recall plans by which they are due now. */
  recalls: z.array(
    z.strictObject({
      planId: z.string(),
      plan: z.string(),
      dueOn: localDate,
      overdue: z.boolean(),
      /** What the plan goes by, where that is one visit type that the clinic still has. */
      visitTypeId: z.string().nullable(),
    }),
  ),
  requests: z.array(requestRow),
  bench: z.array(unplacedRow),
  household: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      age: z.number(),
      kind: patientKind,
      next: contextVisit.nullable(),
      /** Who may book for them, where they are not of age. */
      mayBook: z.array(z.strictObject({ id: z.string(), name: z.string() })),
    }),
  ),
  mayBook: z.array(z.strictObject({ id: z.string(), name: z.string(), kind: z.string(), limits: z.string() })),
  wishes: z.array(wishRow),
});
export type DeskContext = z.output<typeof context>;

export const contextOfPatient = defineEndpoint({
  name: 'desk.context',
  method: 'get',
  path: '/desk/patients/:id/context',
  summary: 'What matters when somebody is booked: their visits, requests, household, notes, and who may book for them.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({ context }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});
