import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import {
  appointmentId,
  instant,
  localDate,
  resourceId,
  siteId,
  undoable,
  unreadableRows,
  version,
  visitTypeId,
} from '../wire.ts';
import { namedVisit } from './named.ts';
import { ownParts } from './parts.ts';

/** A visit that gets its time later. */
export const benchEntry = z.strictObject({
  patientId: z.uuid(),
  visitTypeId,
  parts: ownParts.nullable().default(null),
  siteId: siteId.nullable().default(null),
  providerId: resourceId.nullable().default(null),
  requestId: z.uuid().nullable().default(null),
  reason: z.string().trim().max(500, { error: 'too-long' }).default(''),
  note: z.string().trim().max(500, { error: 'too-long' }).default(''),
});
export type BenchEntry = z.output<typeof benchEntry>;

export const unplacedRow = z.strictObject({
  ...namedVisit,
  parts: ownParts.nullable(),
  /** The visit that keeps its time until it is moved; `null`: it has none. */
  keeps: z
    .strictObject({ id: z.string(), version: z.number(), date: localDate, start: instant, timeZone: z.string() })
    .nullable(),
  groupId: z.string().nullable(),
  requestId: z.string().nullable(),
  ownerId: z.string().nullable(),
  owner: z.string().nullable(),
  reason: z.string(),
  note: z.string(),
  since: instant,
});
export type Unplaced = z.output<typeof unplacedRow>;

export const bench = defineEndpoint({
  name: 'desk.bench',
  method: 'get',
  path: '/desk/bench',
  summary: 'Visits without a time, and those that wait to be moved, the oldest first.',
  access: { kind: 'role', action: 'appointment.book' },
  output: z.strictObject({ unplaced: z.array(unplacedRow), unreadable: unreadableRows }),
  errors: [],
  readsPatients: true,
});

export const putOnBench = defineEndpoint({
  name: 'desk.putOnBench',
  method: 'post',
  path: '/desk/bench',
  summary: 'Put a booked visit onto the Bench until it is moved. It keeps its time unless that is freed now.',
  access: { kind: 'role', action: 'appointment.book' },
  body: z.strictObject({
    appointmentId,
    version,
    freeNow: z.boolean(),
    note: z.string().trim().max(500, { error: 'too-long' }).default(''),
  }),
  output: z.strictObject({ id: z.string(), undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile', 'WrongStatus', 'DecidedAlready'],
});

export const ownUnplaced = defineEndpoint({
  name: 'desk.ownUnplaced',
  method: 'post',
  path: '/desk/bench/:id/owner',
  summary: 'Take a visit of the Bench to place it, or leave it to anybody.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({ mine: z.boolean(), version }),
  output: z.strictObject({ version: z.number() }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

export const withdrawUnplaced = defineEndpoint({
  name: 'desk.withdrawUnplaced',
  method: 'post',
  path: '/desk/bench/:id/withdraw',
  summary: 'Take a visit off the Bench without a time. One that kept its time keeps it.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});
