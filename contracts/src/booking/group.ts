import { APPOINTMENT_STATUSES, GROUP_KINDS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, localDate, undoable, version } from '../wire.ts';
import { canceling, moving } from './change.ts';

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
    /** How many more there are at sites that the caller may not change. */
    elsewhere: z.number(),
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

const MOST_OTHERS = 25;
const others = z
  .array(z.strictObject({ id: appointmentId, version }))
  .min(1)
  .max(MOST_OTHERS, { error: 'too-many' });

export const moveGroup = defineEndpoint({
  name: 'booking.moveGroup',
  method: 'post',
  path: '/appointments/:id/move-together',
  summary:
    'Move a visit and others that belong together with it, each by as many days and minutes: all of them, or none.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ id: appointmentId }),
  body: z.strictObject({ ...moving, others }),
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
  body: z.strictObject({ ...canceling, others }),
  output: z.strictObject({ canceled: z.number(), version: z.number(), undo: undoable }),
  errors: ['NotFound', 'WrongStatus', 'ChangedMeanwhile', 'NotAllowed'],
});
