import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import {
  appointmentId,
  holdId,
  instant,
  language,
  patientKind,
  payerId,
  resourceId,
  siteId,
  startInstant,
  undoable,
  visitTypeId,
  version,
} from '../wire.ts';
import { proof } from '../proof/index.ts';
import { canceling, moving, waive } from './change.ts';
import { person } from './person.ts';

export { MIN_WAIVE_REASON } from './change.ts';
export * from './group.ts';
export * from './looking.ts';
export * from './moveSnapshot.ts';
export * from './person.ts';

const hold = z.strictObject({
  id: z.string(),
  siteId: z.string(),
  visitTypeId: z.string(),
  providerId: z.string().nullable(),
  start: instant,
  end: instant,
  expiresAt: instant,
  mayExtend: z.boolean(),
  /** Seconds left at the time of the answer, so that a page with a wrong clock counts right. */
  secondsLeft: z.number(),
});
export type Hold = z.output<typeof hold>;

/** The time a patient wants. Sent again with the booking, so that a lost hold can be answered with other times. */
const requested = z.strictObject({
  siteId,
  visitTypeId,
  providerId: resourceId.nullable(),
  start: startInstant,
  kind: patientKind,
  /** Who pays, where that is asked; `null`: the patient. */
  payerId: payerId.nullable().optional(),
  hasReferral: z.boolean().optional(),
});

export const placeHold = defineEndpoint({
  name: 'booking.placeHold',
  method: 'post',
  path: '/public/holds',
  summary: 'Keep a start time for ten minutes for this browser; its earlier hold is given back.',
  access: { kind: 'public', limit: 'write' },
  body: requested.extend({ proof: proof.optional() }),
  output: z.strictObject({ hold }),
  errors: ['ProofNeeded', 'TimeTaken', 'NotOffered', 'NotFound', 'TooManyRequests'],
});

export const extendHold = defineEndpoint({
  name: 'booking.extendHold',
  method: 'post',
  path: '/public/holds/:id/extend',
  summary: 'Ten minutes more, once.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ id: holdId }),
  output: z.strictObject({ hold }),
  errors: ['HoldGone', 'TooManyRequests'],
});

export const releaseHold = defineEndpoint({
  name: 'booking.releaseHold',
  method: 'delete',
  path: '/public/holds/:id',
  summary: 'Give the time back.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ id: holdId }),
  output: z.strictObject({}),
  errors: [],
});

const booked = z.strictObject({
  id: z.string(),
  start: instant,
  end: instant,
  siteId: z.string(),
  visitTypeId: z.string(),
  providerId: z.string().nullable(),
  timeZone: z.string(),
  /** Whether the clinic has yet to agree. */
  waiting: z.boolean(),
  /** The visit's own page, as its messages name it: forms, confirming, cancelling. The date of birth stands before it. */
  link: z.string(),
});
export type Booked = z.output<typeof booked>;

export const releaseHoldAtDesk = defineEndpoint({
  name: 'booking.releaseHoldAtDesk',
  method: 'post',
  path: '/holds/:id/release',
  summary: 'The desk gives back a time that somebody keeps online.',
  access: { kind: 'role', action: 'appointment.cancel' },
  params: z.strictObject({ id: holdId }),
  output: z.strictObject({}),
  errors: ['NotFound', 'NotAllowed'],
});

export const bookHeld = defineEndpoint({
  name: 'booking.bookHeld',
  method: 'post',
  path: '/public/bookings',
  summary: 'Book the held time. The same call twice (a double click) gives the same visit.',
  access: { kind: 'public', limit: 'write' },
  body: z.strictObject({
    holdId,
    requested,
    person,
    language,
    /** To the clinic's own questions, by their ids. */
    answers: z.record(z.uuid(), z.union([z.string().max(500), z.number(), z.boolean()])).optional(),
  }),
  output: z.strictObject({ visit: booked }),
  errors: [
    'TooManyBookings',
    'HoldGone',
    'HoldUsed',
    'NotVerified',
    'TimeTaken',
    'NotOffered',
    'InvalidInput',
    'TooManyRequests',
  ],
});

export const visitCalendar = defineEndpoint({
  name: 'booking.visitCalendar',
  method: 'get',
  path: '/public/bookings/:id/visit.ics',
  summary: 'The visit as an iCalendar file with a neutral title, for the browser that booked it.',
  access: { kind: 'public', limit: 'read' },
  params: z.strictObject({ id: appointmentId }),
  query: z.strictObject({ language }),
  answers: 'calendar',
  fileName: 'visit.ics',
  output: z.string(),
  errors: ['NotFound'],
});

export const setStatus = defineEndpoint({
  name: 'booking.setStatus',
  method: 'post',
  path: '/appointments/:id/status',
  summary: 'Move a visit through the day: arrived, checked in, fulfilled, no-show.',
  access: { kind: 'role', action: 'appointment.status' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ to: z.enum(APPOINTMENT_STATUSES), version }),
  output: z.strictObject({ status: z.enum(APPOINTMENT_STATUSES), version: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'NotAllowed', 'NeedsCheckIn'],
});

export const confirmVisit = defineEndpoint({
  name: 'booking.confirmVisit',
  method: 'post',
  path: '/appointments/:id/confirmed',
  summary: 'Note that the patient has told the desk they come, or take that back.',
  access: { kind: 'role', action: 'appointment.status' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ confirmed: z.boolean(), version }),
  output: z.strictObject({ confirmed: z.boolean(), version: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'NotAllowed'],
});

export const cancelVisit = defineEndpoint({
  name: 'booking.cancelVisit',
  method: 'post',
  path: '/appointments/:id/cancel',
  summary: 'Cancel with a reason; the time is free at once.',
  access: { kind: 'role', action: 'appointment.cancel' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject(canceling),
  output: z.strictObject({ version: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'NotAllowed'],
});

export const moveVisit = defineEndpoint({
  name: 'booking.moveVisit',
  method: 'post',
  path: '/appointments/:id/move',
  summary:
    'Move a booked visit to another time, at its site or another, or make it longer or shorter; messages are planned anew, and the patient is told.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({
    ...moving,
    /** The whole visit's minutes from now on; its main part becomes longer or shorter. */
    lengthMin: z.number().int().min(5).max(720, { error: 'too-big' }).multipleOf(5).optional(),
    waive,
  }),
  output: z.strictObject({ version: z.number(), date: z.iso.date(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'TimeTaken', 'NotOffered', 'NotAllowed'],
});
