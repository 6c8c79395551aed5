import type { Channel } from '@zaguan/core/messages';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant, siteId, version } from '../wire.ts';
import { line } from '../setup/fields.ts';
import { impactVisit } from './impact.ts';

const time = z.strictObject({ siteId: z.string(), start: instant, providerId: z.string().nullable() });

/** How a call to a patient ended. */
export const CALL_OUTCOMES = ['no-answer', 'left-message', 'spoke'] as const;
const outcome = z.enum(CALL_OUTCOMES);

const visitToMove = z.strictObject({
  ...impactVisit.shape,
  version: z.number(),
  /** When it was found not to fit. */
  since: instant,
  /** A change of the caller's put it on the list. */
  mine: z.boolean(),
  /** Whether a message about it is on its way or has arrived since then; who has none must be called. */
  told: z.boolean(),
  /** Where the patient can be called (E.164). */
  phone: z.string().nullable(),
  /** `null`: not known, or not for the reader to see. */
  patientId: z.string().nullable(),
  /** The last call about it. */
  call: z.strictObject({ outcome, at: instant, by: z.string() }).nullable(),
  /** Best first: by day, hour, provider; other sites come last. */
  alternatives: z.array(time),
  /** The one at its own site that stands in no other proposal's way; `null` where nothing was found. */
  proposed: time.nullable(),
});
export type VisitToMove = z.output<typeof visitToMove>;

export const visitsToMove = defineEndpoint({
  name: 'availability.visitsToMove',
  method: 'get',
  path: '/availability/visits-to-move',
  summary:
    'Booked visits whose hours, rooms or people are gone, each with the best other times and one that fits all others.',
  access: { kind: 'role', action: 'appointment.move' },
  query: z.strictObject({ siteId: siteId.optional() }),
  output: z.strictObject({
    visits: z.array(visitToMove),
    /** What the caller moved within the last day and may still take back, newest first. */
    moves: z.array(z.strictObject({ undoId: z.string(), at: instant, visits: z.number() })),
  }),
  errors: ['NotAllowed'],
  readsPatients: true,
});

/** As many visits as are moved, or asked about, at once. */
export const MAX_MOVES = 100;

const acceptance = z.strictObject({
  appointmentId,
  version,
  /** Its own site, if none is named. */
  siteId: siteId.optional(),
  start: instant,
  providerId: z.uuid().nullable(),
});

export const acceptTimes = defineEndpoint({
  name: 'availability.acceptTimes',
  method: 'post',
  path: '/availability/visits-to-move',
  summary:
    'Move visits to other times, one or many; each is judged by itself, and those that can’t be moved stay on the list.',
  access: { kind: 'role', action: 'appointment.move' },
  body: z.strictObject({ times: z.array(acceptance).min(1).max(MAX_MOVES) }),
  output: z.strictObject({
    moved: z.number(),
    refused: z.array(z.strictObject({ appointmentId: z.string(), tag: z.string() })),
    undo: z.strictObject({ id: z.string() }).nullable(),
  }),
  errors: ['NotAllowed'],
});

export const messagesOfMoves = defineEndpoint({
  name: 'availability.messagesOfMoves',
  method: 'post',
  path: '/availability/visits-to-move/messages',
  summary:
    'What the patients would be told if visits moved to these times, in the words that would go out. Moves and sends nothing.',
  access: { kind: 'role', action: 'appointment.move' },
  body: z.strictObject({ times: z.array(acceptance).min(1).max(MAX_MOVES) }),
  output: z.strictObject({
    messages: z.array(
      z.strictObject({
        appointmentId: z.string(),
        /** `null`: nothing goes out, the patient must be called. */
        channel: z.enum(['sms', 'email'] satisfies Channel[]).nullable(),
        /** With `{link}` where each patient's own link goes. */
        text: z.string(),
      }),
    ),
  }),
  errors: ['NotAllowed'],
  readsPatients: true,
});

export const keepTime = defineEndpoint({
  name: 'availability.keepTime',
  method: 'post',
  path: '/availability/visits-to-move/:appointmentId/keep',
  summary: 'Leave a visit at its time all the same, for a reason; it is taken from the list.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ appointmentId }),
  body: z.strictObject({ reason: line(200).min(3, { error: 'reason-needed' }) }),
  output: z.strictObject({ undo: z.strictObject({ id: z.string() }) }),
  errors: ['NotAllowed', 'NotFound'],
});

export const recordCall = defineEndpoint({
  name: 'availability.noteCall',
  method: 'post',
  path: '/availability/visits-to-move/:appointmentId/call',
  summary: 'Say how a call to the patient of a visit on the list ended.',
  access: { kind: 'role', action: 'appointment.move' },
  params: z.strictObject({ appointmentId }),
  body: z.strictObject({ outcome }),
  output: z.strictObject({ undo: z.strictObject({ id: z.string() }) }),
  errors: ['NotAllowed', 'NotFound'],
});
