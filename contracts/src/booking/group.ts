import { APPOINTMENT_STATUSES, CANCEL_REASONS, GROUP_KINDS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, localDate, resourceId, siteId, startInstant, undoable, version } from '../wire.ts';

const known = z.strictObject({ id: appointmentId, version });

export const groupOfVisit = defineEndpoint({
  name: 'booking.groupOfVisit',
  method: 'get',
  path: '/appointments/:id/group',
  summary: 'The coming visits that belong together with a visit: of a household, a series, or linked to it.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({
    kind: z.enum(GROUP_KINDS).nullable(),
    /** The others, in the order in which they were booked. */
    others: z.array(
      z.strictObject({
        id: z.string(),
        version: z.number(),
        /** Initials, where the record is restricted. */
        patient: z.string(),
        visitType: z.string(),
        siteName: z.string(),
        timeZone: z.string(),
        date: localDate,
        start: instant,
        status: z.enum(APPOINTMENT_STATUSES),
        /** Starts after the visit that was asked about. */
        isLater: z.boolean(),
      }),
    ),
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

const MOST_OTHERS = 25;

export const moveGroup = defineEndpoint({
  name: 'booking.moveGroup',
  method: 'post',
  path: '/appointments/:id/move-together',
  summary:
    'Move a visit and others that belong together with it, each by as many days and minutes: all of them, or none.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({
    siteId: siteId.optional(),
    start: startInstant,
    providerId: resourceId.nullable(),
    version,
    others: z.array(known).min(1).max(MOST_OTHERS, { error: 'too-many' }),
  }),
  output: z.strictObject({ moved: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'TimeTaken', 'NotOffered', 'NotAllowed'],
});

export const cancelGroup = defineEndpoint({
  name: 'booking.cancelGroup',
  method: 'post',
  path: '/appointments/:id/cancel-together',
  summary: 'Cancel a visit and others that belong together with it, with a reason: all of them, or none.',
  access: { kind: 'role', action: 'appointment.cancel' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({
    reason: z.enum(CANCEL_REASONS),
    note: z.string().max(500),
    version,
    others: z.array(known).min(1).max(MOST_OTHERS, { error: 'too-many' }),
  }),
  output: z.strictObject({ canceled: z.number(), version: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'NotAllowed'],
});
