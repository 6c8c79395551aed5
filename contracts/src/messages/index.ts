import { REMINDER_CODES } from '@zaguan/core/reminders';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant } from '../wire.ts';

/** Why a message was not sent: a reminder rule, or what was found when it was due. */
export const DROP_CODES = [...REMINDER_CODES, 'too-late'] as const;

const visitMessage = z.strictObject({
  id: z.string(),
  kind: z.enum(['confirmation', 'reminder', 'cancellation', 'restored', 'reply', 'code']),
  step: z.string().nullable(),
  body: z.string(),
  sendAt: instant,
  status: z.enum(['planned', 'sent', 'delivered', 'failed', 'withdrawn', 'dropped']),
  droppedCode: z.enum(DROP_CODES).nullable(),
  failReason: z.string().nullable(),
  settledAt: instant.nullable(),
});
export type VisitMessage = z.output<typeof visitMessage>;

export const visitMessages = defineEndpoint({
  name: 'messages.ofVisit',
  method: 'get',
  path: '/appointments/:id/messages',
  summary: 'What was or will be sent about a visit, and for what is not sent, why.',
  access: { kind: 'role', action: 'messages.view' },
  params: z.strictObject({ id: appointmentId }),
  output: z.strictObject({ messages: z.array(visitMessage) }),
  errors: ['NotFound', 'NotAllowed'],
});

const phone = z.strictObject({
  number: z.string(),
  messages: z.array(
    z.strictObject({
      id: z.string(),
      direction: z.enum(['to-patient', 'from-patient']),
      body: z.string(),
      at: instant,
      parts: z.number(),
    }),
  ),
});

export const CARRIER_MODES = ['works', 'down', 'refuses'] as const;

export const postroom = defineEndpoint({
  name: 'messages.postroom',
  method: 'get',
  path: '/postroom',
  summary: 'Every simulated phone, newest first, and how the simulated carrier behaves.',
  access: { kind: 'role', action: 'postroom.use' },
  output: z.strictObject({ now: instant, mode: z.enum(CARRIER_MODES), waiting: z.number(), phones: z.array(phone) }),
  errors: ['NotFound'],
});

export const postroomReply = defineEndpoint({
  name: 'messages.postroomReply',
  method: 'post',
  path: '/postroom/replies',
  summary: 'Answer from a simulated phone.',
  access: { kind: 'role', action: 'postroom.use' },
  body: z.strictObject({ number: z.string().regex(/^\+\d{8,15}$/), body: z.string().min(1).max(480) }),
  output: z.strictObject({ meaning: z.enum(['confirm', 'stop', 'other']) }),
  errors: ['NotFound'],
});

export const postroomClock = defineEndpoint({
  name: 'messages.postroomClock',
  method: 'post',
  path: '/postroom/clock',
  summary: 'Move the demo clinic’s clock forward; what is due is sent.',
  access: { kind: 'role', action: 'postroom.use' },
  body: z.strictObject({
    minutes: z
      .number()
      .int()
      .min(1)
      .max(60 * 24 * 60),
  }),
  output: z.strictObject({ now: instant }),
  errors: ['NotFound'],
});

export const postroomCarrier = defineEndpoint({
  name: 'messages.postroomCarrier',
  method: 'post',
  path: '/postroom/carrier',
  summary: 'Let the simulated carrier work, fail for a while, or refuse every number.',
  access: { kind: 'role', action: 'postroom.use' },
  body: z.strictObject({ mode: z.enum(CARRIER_MODES) }),
  output: z.strictObject({}),
  errors: ['NotFound'],
});
