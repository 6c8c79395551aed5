import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, undoable } from '../wire.ts';

/** The visit a piece of work is about. */
const about = z.strictObject({
  appointmentId: z.string(),
  name: z.string(),
  siteName: z.string(),
  timeZone: z.string(),
  date: localDate,
  start: instant,
});

const today = z.strictObject({
  now: instant,
  vestibule: z.strictObject({ count: z.number(), firstStart: instant.nullable(), timeZone: z.string().nullable() }),
  inbox: z.array(
    z.strictObject({
      id: z.string(),
      number: z.string(),
      body: z.string(),
      receivedAt: instant,
      visit: about.nullable(),
    }),
  ),
  failed: z.array(
    z.strictObject({
      id: z.string(),
      number: z.string(),
      kind: z.string(),
      step: z.string().nullable(),
      reason: z.string(),
      at: instant,
      visit: about.nullable(),
    }),
  ),
});
export type Today = z.output<typeof today>;

export const todaysWork = defineEndpoint({
  name: 'today.list',
  method: 'get',
  path: '/today',
  summary: 'What needs a hand now: people not known, answers to read, messages that failed.',
  access: { kind: 'role', action: 'today.work' },
  output: today,
  errors: [],
  readsPatients: true,
});

export const handleWork = defineEndpoint({
  name: 'today.handle',
  method: 'post',
  path: '/today/:kind/:id/handle',
  summary: 'Mark an answer or a failed message as dealt with.',
  access: { kind: 'role', action: 'today.work' },
  params: z.strictObject({ kind: z.enum(['inbox', 'failed']), id: z.uuid() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'DecidedAlready', 'NotAllowed'],
});
