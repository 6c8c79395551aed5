import { DAY_PARTS } from '@zaguan/core/invitations';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { linkToken, who } from '../patientVisit/index.ts';
import { id } from '../setup/fields.ts';
import { instant, localDate, startInstant } from '../wire.ts';

const params = z.strictObject({ token: linkToken });
const AFTER_BIRTH_DATE = ['LinkGone', 'WrongBirthDate', 'LinkLocked'] as const;
const TO_BOOK = [...AFTER_BIRTH_DATE, 'InvitationOver'] as const;

/** Why nothing can be booked with it; each has its own next step. */
export const OVER = ['expired', 'used', 'withdrawn', 'answered'] as const;

/** GET never acts: scanners and previews fetch links. */
export const lookAtInvitation = defineEndpoint({
  name: 'invitations.look',
  method: 'get',
  path: '/public/invitations/:token',
  summary: 'What an invitation shows before the date of birth: the clinic, and whether it can still be used.',
  access: { kind: 'public', limit: 'read' },
  params,
  output: z.strictObject({
    clinic: z.string(),
    phone: z.string(),
    locked: z.boolean(),
    over: z.enum(OVER).nullable(),
  }),
  errors: ['LinkGone'],
});

const named = z.strictObject({ id, name: z.string() });
const opened = z.strictObject({
  givenName: z.string(),
  reason: z.string(),
  usesLeft: z.number(),
  /** The date where the patient's home site is. */
  today: localDate,
  until: localDate,
  types: z.array(named.extend({ minutes: z.number() })),
  sites: z.array(named.extend({ address: z.string() })),
  /** Of a plan: later, done elsewhere and no thanks can be said. */
  mayAnswer: z.boolean(),
  /** The visit that makes it needless, or gets another time by it. */
  visit: z
    .strictObject({ start: instant, timeZone: z.string(), site: z.string(), provider: z.string().nullable() })
    .nullable(),
  /** That visit gets the new time. */
  moves: z.boolean(),
});
export type OpenedInvitation = z.output<typeof opened>;

export const openInvitation = defineEndpoint({
  name: 'invitations.open',
  method: 'post',
  path: '/public/invitations/:token/open',
  summary: 'What an invitation may book, after the date of birth; five tries.',
  access: { kind: 'public', limit: 'write' },
  params,
  body: who,
  output: z.strictObject({ invitation: opened }),
  errors: [...TO_BOOK],
});

const narrowed = {
  visitTypeId: id,
  siteId: id.nullable(),
  providerId: id.nullable(),
  part: z.enum(Object.keys(DAY_PARTS) as [keyof typeof DAY_PARTS]).nullable(),
};

export const invitationDays = defineEndpoint({
  name: 'invitations.days',
  method: 'post',
  path: '/public/invitations/:token/days',
  summary: 'How many start times each day has that the invitation may book, over the whole window.',
  access: { kind: 'public', limit: 'write' },
  params,
  body: who.extend(narrowed),
  output: z.strictObject({
    from: localDate,
    until: localDate,
    days: z.array(z.strictObject({ date: localDate, starts: z.number() })),
    /** Whom anything can be booked with, whoever was asked for. */
    providers: z.array(named),
  }),
  errors: [...TO_BOOK],
});

export const invitationTimes = defineEndpoint({
  name: 'invitations.times',
  method: 'post',
  path: '/public/invitations/:token/times',
  summary: 'The start times of a day that the invitation may book, by site and provider.',
  access: { kind: 'public', limit: 'write' },
  params,
  body: who.extend({ ...narrowed, date: localDate }),
  output: z.strictObject({
    lanes: z.array(
      z.strictObject({ siteId: id, timeZone: z.string(), providerId: id.nullable(), starts: z.array(instant) }),
    ),
  }),
  errors: [...TO_BOOK],
});

export const bookByInvitation = defineEndpoint({
  name: 'invitations.book',
  method: 'post',
  path: '/public/invitations/:token/book',
  summary: 'Book a time with an invitation. The same call twice (a double click) gives the same visit.',
  access: { kind: 'public', limit: 'write' },
  params,
  body: who.extend({ visitTypeId: id, siteId: id, providerId: id.nullable(), start: startInstant }),
  output: z.strictObject({
    start: instant,
    timeZone: z.string(),
    site: z.string(),
    address: z.string(),
    provider: z.string().nullable(),
    /** The visit's own page: forms, confirming, canceling. */
    link: z.string(),
    usesLeft: z.number(),
  }),
  errors: [...TO_BOOK, 'TimeTaken', 'NotOffered', 'NotFound'],
});

export const answerInvitation = defineEndpoint({
  name: 'invitations.answer',
  method: 'post',
  path: '/public/invitations/:token/answer',
  summary:
    'The patient wants to be asked later, had it done elsewhere, or does not want to be invited to this, or to anything.',
  access: { kind: 'public', limit: 'write' },
  params,
  body: who.extend({
    /** `never`: no invitation to anything goes to that number or address any more. */
    kind: z.enum(['later', 'done-elsewhere', 'declined', 'never']),
    /** Of `later` when they may be asked again, of `done-elsewhere` when it was done. */
    date: localDate.nullable(),
  }),
  output: z.strictObject({}),
  errors: [...TO_BOOK, 'InvalidInput'],
});
