import { URGENCIES } from '@zaguan/core/booking';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { namedVisit } from './named.ts';
import { instant, localDate, resourceId, siteId, undoable, unreadableRows, version, visitTypeId } from '../wire.ts';

export const REQUEST_STATES = ['open', 'booked', 'completed', 'withdrawn'] as const;

export const requestRow = z.strictObject({
  ...namedVisit,
  fromDate: localDate,
  dueDate: localDate,
  overdue: z.boolean(),
  reason: z.string(),
  urgency: z.enum(URGENCIES),
  state: z.enum(REQUEST_STATES),
  askedBy: z.string(),
  askedAt: instant,
  visit: z.strictObject({ id: z.string(), date: localDate }).nullable(),
});
export type BookingRequestRow = z.output<typeof requestRow>;

export const requests = defineEndpoint({
  name: 'desk.requests',
  method: 'get',
  path: '/desk/requests',
  summary: 'Requests to book that are open, by due date; with those that are booked, if asked.',
  access: { kind: 'role', action: 'bookingRequest.ask' },
  query: z.strictObject({ booked: z.enum(['yes', 'no']).default('no') }),
  output: z.strictObject({ requests: z.array(requestRow), unreadable: unreadableRows }),
  errors: [],
  readsPatients: true,
});

export const newRequest = z
  .strictObject({
    patientId: z.uuid({ error: 'needed' }),
    visitTypeId,
    siteId: siteId.nullable(),
    providerId: resourceId.nullable(),
    fromDate: localDate,
    dueDate: localDate,
    reason: z.string().trim().max(500, { error: 'too-long' }),
    urgency: z.enum(URGENCIES),
  })
  .superRefine(({ fromDate, dueDate }, check) => {
    if (dueDate < fromDate) check.addIssue({ code: 'custom', path: ['dueDate'], message: 'until-before-from' });
  });

export const askRequest = defineEndpoint({
  name: 'desk.askRequest',
  method: 'post',
  path: '/desk/requests',
  summary: 'Ask that a patient be booked for a visit type between two dates.',
  access: { kind: 'role', action: 'bookingRequest.ask' },
  body: newRequest,
  output: z.strictObject({ id: z.string(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'NotBookable'],
});

export const withdrawRequest = defineEndpoint({
  name: 'desk.withdrawRequest',
  method: 'post',
  path: '/desk/requests/:id/withdraw',
  summary: 'End a request without a visit, saying why.',
  access: { kind: 'role', action: 'bookingRequest.ask' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({
    because: z.string().trim().min(3, { error: 'reason-needed' }).max(200, { error: 'too-long' }),
    version,
  }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'WrongStatus'],
});
