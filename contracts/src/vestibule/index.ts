import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, localDate, undoable, unreadableRows } from '../wire.ts';

const likeness = z.enum(['agrees', 'alike', 'differs', 'unknown']);

const candidate = z.strictObject({
  patientId: z.string(),
  recordNumber: z.string(),
  name: z.string(),
  birthDate: localDate,
  contact: z.string(),
  status: z.string(),
  likely: z.boolean(),
  fields: z.strictObject({
    'family-name': likeness,
    'given-name': likeness,
    'birth-date': likeness,
    contact: likeness,
  }),
});

const waiting = z.strictObject({
  appointmentId: z.string(),
  version: z.number(),
  siteName: z.string(),
  timeZone: z.string(),
  start: instant,
  visitType: z.string(),
  provider: z.string().nullable(),
  kind: z.enum(['new', 'established']),
  givenName: z.string(),
  familyName: z.string(),
  birthDate: localDate,
  contact: z.string(),
  reason: z.string(),
  bookedAt: instant,
  candidates: z.array(candidate),
});
export type Waiting = z.output<typeof waiting>;

const decision = {
  access: { kind: 'role', action: 'vestibule.decide' } as const,
  params: z.strictObject({ id: appointmentId }),
  errors: ['NotFound', 'ChangedMeanwhile', 'DecidedAlready'] as const,
};

export const listVestibule = defineEndpoint({
  name: 'vestibule.list',
  method: 'get',
  path: '/vestibule',
  summary: 'Self-bookings whose person is not known for sure, with the records that may be theirs.',
  access: decision.access,
  output: z.strictObject({ waiting: z.array(waiting), unreadable: unreadableRows }),
  errors: [],
  readsPatients: true,
});

export const linkPerson = defineEndpoint({
  name: 'vestibule.link',
  method: 'post',
  path: '/vestibule/:id/link',
  summary: 'It is this person: the visit goes onto their record.',
  ...decision,
  body: z.strictObject({ patientId: z.uuid(), version: z.number().int() }),
  output: z.strictObject({ undo: undoable }),
});

export const createPerson = defineEndpoint({
  name: 'vestibule.create',
  method: 'post',
  path: '/vestibule/:id/create',
  summary: 'A new person: a record is made from what was typed.',
  ...decision,
  body: z.strictObject({ version: z.number().int() }),
  output: z.strictObject({ recordNumber: z.string(), undo: undoable }),
});

export const discardBooking = defineEndpoint({
  name: 'vestibule.discard',
  method: 'post',
  path: '/vestibule/:id/discard',
  summary: 'Not a genuine booking: it is cancelled and its time free.',
  ...decision,
  body: z.strictObject({ version: z.number().int() }),
  output: z.strictObject({ undo: undoable }),
});
