import { MESSAGE_KINDS, MESSAGE_STATUSES, REMINDER_CODES, REMINDER_STEPS } from '@zaguan/core/reminders';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { appointmentId, instant } from '../wire.ts';

/** Why a message was not sent: a reminder rule, or what was found when it was due. */
export const DROP_CODES = [
  ...REMINDER_CODES,
  ...(['too-late', 'superseded', 'quiet-hours'] as const),
  ...(['invitation-over', 'deceased', 'inactive', 'booked-already'] as const),
] as const;
export type DropCode = (typeof DROP_CODES)[number];

/** The rule that made a message later than planned. */
export const HELD_CODES = ['quiet-hours', 'one-a-day', 'three-a-week'] as const;
export type HeldCode = (typeof HELD_CODES)[number];

const visitMessage = z.strictObject({
  id: z.string(),
  kind: z.enum(MESSAGE_KINDS),
  channel: z.enum(['sms', 'email']),
  step: z.enum(REMINDER_STEPS).nullable(),
  body: z.string(),
  sendAt: instant,
  status: z.enum(MESSAGE_STATUSES),
  droppedCode: z.enum(DROP_CODES).nullable(),
  heldCode: z.enum(HELD_CODES).nullable(),
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

const mailbox = z.strictObject({
  address: z.string(),
  messages: z.array(
    z.strictObject({
      id: z.string(),
      direction: z.enum(['to-patient', 'from-patient']),
      subject: z.string(),
      body: z.string(),
      at: instant,
      /** A calendar object is attached. */
      calendar: z.boolean(),
    }),
  ),
});

/** How the simulated carriers may behave: what each can be told. */
export const CARRIER_MODES = {
  sms: ['works', 'late', 'muddled', 'unreachable', 'slow', 'down', 'refuses'],
  email: ['works', 'bounces', 'down', 'refuses'],
} as const;
const carrierMode = z.enum([...new Set([...CARRIER_MODES.sms, ...CARRIER_MODES.email])]);

export const simulatedCarriers = defineEndpoint({
  name: 'messages.simulatedCarriers',
  method: 'get',
  path: '/simulated-carriers',
  summary: 'Every simulated phone and mailbox, newest first, and how the simulated carriers behave.',
  access: { kind: 'role', action: 'simulatedCarriers.use' },
  output: z.strictObject({
    now: instant,
    modes: z.strictObject({ sms: carrierMode, email: carrierMode }),
    waiting: z.number(),
    phones: z.array(phone),
    mailboxes: z.array(mailbox),
  }),
  errors: ['NotFound'],
});

export const simulatedMail = defineEndpoint({
  name: 'messages.simulatedMail',
  method: 'post',
  path: '/simulated-carriers/mails',
  summary: 'Answer from a simulated mailbox.',
  access: { kind: 'role', action: 'simulatedCarriers.use' },
  body: z.strictObject({ address: z.email(), body: z.string().trim().min(1).max(2000) }),
  output: z.strictObject({}),
  errors: ['NotFound'],
});

export const stopMessages = defineEndpoint({
  name: 'messages.stop',
  method: 'post',
  path: '/public/stop/:token',
  summary: 'One click in a mail program, or on the page, ends automated messages to this address (RFC 8058).',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: z.string().regex(/^[\w-]{64}$/) }),
  output: z.strictObject({ purpose: z.enum(['visit-messages', 'recalls']) }),
  errors: ['LinkGone'],
});

export const simulatedReply = defineEndpoint({
  name: 'messages.simulatedReply',
  method: 'post',
  path: '/simulated-carriers/replies',
  summary: 'Answer from a simulated phone.',
  access: { kind: 'role', action: 'simulatedCarriers.use' },
  body: z.strictObject({ number: z.string().regex(/^\+\d{8,15}$/), body: z.string().trim().min(1).max(480) }),
  output: z.strictObject({ meaning: z.enum(['confirm', 'stop', 'other']) }),
  errors: ['NotFound'],
});

export const simulatedClock = defineEndpoint({
  name: 'messages.simulatedClock',
  method: 'post',
  path: '/simulated-carriers/clock',
  summary: 'Move the demo clinic’s clock forward; what is due is sent.',
  access: { kind: 'role', action: 'simulatedCarriers.use' },
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

export const simulatedCarrier = defineEndpoint({
  name: 'messages.simulatedCarrier',
  method: 'post',
  path: '/simulated-carriers/carrier',
  summary: 'Let a simulated carrier work, fail for a while, refuse, or report late and muddled.',
  access: { kind: 'role', action: 'simulatedCarriers.use' },
  body: z.discriminatedUnion('channel', [
    z.strictObject({ channel: z.literal('sms'), mode: z.enum(CARRIER_MODES.sms) }),
    z.strictObject({ channel: z.literal('email'), mode: z.enum(CARRIER_MODES.email) }),
  ]),
  output: z.strictObject({}),
  errors: ['NotFound'],
});
