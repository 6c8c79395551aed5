import { PATIENT_STATUSES } from '@zaguan/core/patients';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, localDate, undoable, unreadableRows, version } from '../wire.ts';

const likeness = z.enum(['agrees', 'alike', 'differs', 'unknown']);

const candidate = z.strictObject({
  patientId: z.string(),
  recordNumber: z.string(),
  name: z.string(),
  birthDate: localDate,
  contact: z.string(),
  status: z.enum(PATIENT_STATUSES),
  verdict: z.enum(['likely', 'relative', 'possible']),
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
  /** The same for bookings that look like they came from one person; `null`: this one stands alone. */
  source: z.string().nullable(),
  candidates: z.array(candidate),
});
export type Waiting = z.output<typeof waiting>;

const decision = {
  access: { kind: 'role', action: 'identityReview.decide' } as const,
  params: z.strictObject({ id: appointmentId }),
  errors: ['NotFound', 'ChangedMeanwhile', 'DecidedAlready'] as const,
};

export const listIdentityReview = defineEndpoint({
  name: 'identityReview.list',
  method: 'get',
  path: '/identity-review',
  summary: 'Self-bookings whose person is not known for sure, with the records that may be theirs.',
  access: decision.access,
  query: z.strictObject({ page: z.coerce.number().int().min(0).max(10_000).default(0) }),
  output: z.strictObject({
    /** One page, by the time of the visit. */
    waiting: z.array(waiting),
    total: z.number(),
    pageSize: z.number(),
    /** All that look like they came from one person, on whatever page, with how many they are. */
    sources: z.array(z.strictObject({ source: z.string(), bookings: z.number() })),
    unreadable: unreadableRows,
  }),
  errors: [],
  readsPatients: true,
});

export const linkPerson = defineEndpoint({
  name: 'identityReview.link',
  method: 'post',
  path: '/identity-review/:id/link',
  summary: 'It is this person: the visit goes onto their record.',
  ...decision,
  body: z.strictObject({ patientId: z.uuid(), version }),
  output: z.strictObject({ undo: undoable }),
});

export const createPerson = defineEndpoint({
  name: 'identityReview.create',
  method: 'post',
  path: '/identity-review/:id/create',
  summary: 'A new person: a record is made from what was typed.',
  ...decision,
  body: z.strictObject({ version }),
  output: z.strictObject({ recordNumber: z.string(), undo: undoable }),
});

export const discardBooking = defineEndpoint({
  name: 'identityReview.discard',
  method: 'post',
  path: '/identity-review/:id/discard',
  summary: 'Not a genuine booking: it is cancelled and its time free.',
  ...decision,
  errors: [...decision.errors, 'WrongStatus'],
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
});

/** More at once would be a list nobody has read. */
export const MAX_DISCARDED = 200;

export const discardMany = defineEndpoint({
  name: 'identityReview.discardMany',
  method: 'post',
  path: '/identity-review/sources/:source/discard',
  summary:
    'Not genuine: all bookings that look like they came from one person are discarded and their times freed, all or none.',
  access: decision.access,
  params: z.strictObject({ source: z.string().regex(/^[0-9a-f]{16}$/) }),
  /** How many were shown: more or fewer by now is another decision. */
  body: z.strictObject({ bookings: z.number().int().min(1).max(MAX_DISCARDED) }),
  output: z.strictObject({ discarded: z.number(), undo: undoable }),
  errors: ['NotFound', 'ChangedMeanwhile', 'WrongStatus'],
});

const request = z.strictObject({
  appointmentId: z.string(),
  version: z.number(),
  siteName: z.string(),
  timeZone: z.string(),
  date: localDate,
  start: instant,
  /** Nobody decided before it began; it waits until somebody does. */
  passed: z.boolean(),
  visitType: z.string(),
  provider: z.string().nullable(),
  kind: z.enum(['new', 'established']),
  name: z.string(),
  /** Whether it is sure whose it is. */
  known: z.boolean(),
  reason: z.string(),
  bookedAt: instant,
});
export type ApprovalRequest = z.output<typeof request>;

export const listApprovals = defineEndpoint({
  name: 'identityReview.listApprovals',
  method: 'get',
  path: '/approvals',
  summary: 'Self-bookings that wait until the clinic agrees; their time is kept.',
  access: decision.access,
  output: z.strictObject({ requests: z.array(request), unreadable: unreadableRows }),
  errors: [],
  readsPatients: true,
});

export const approveRequest = defineEndpoint({
  name: 'identityReview.approve',
  method: 'post',
  path: '/approvals/:id/approve',
  summary: 'Agree to a self-booking: the patient is told that the time is theirs.',
  ...decision,
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
});

/** Longer ones would make a text message of three. */
export const MAX_DECLINE_WORDS = 120;

/** What the patient reads when the clinic declines. */
export const declineBody = z.strictObject({
  words: z.string().trim().min(1, { error: 'reason-empty' }).max(MAX_DECLINE_WORDS, { error: 'reason-too-long' }),
});

export const declineRequest = defineEndpoint({
  name: 'identityReview.decline',
  method: 'post',
  path: '/approvals/:id/decline',
  summary: 'Decline a self-booking in own words, which the patient gets; the time is free.',
  access: decision.access,
  params: decision.params,
  body: declineBody.extend({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'ChangedMeanwhile', 'DecidedAlready', 'WrongStatus'],
});
