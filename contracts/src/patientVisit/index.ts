import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, language, localDate } from '../wire.ts';

/** 32 random-looking bytes, base64url. */
export const linkToken = z.string().regex(/^[\w-]{16}$/);
/** What opens a link: the date of birth, at every call. */
export const who = z.strictObject({ birthDate: localDate, language });

const details = z.strictObject({
  start: instant,
  /** When it will start by how far behind the provider is just now; `null`: on time, or too early to say. */
  startsAbout: instant.nullable(),
  end: instant,
  timeZone: z.string(),
  site: z.string(),
  address: z.string(),
  directions: z.string(),
  visitType: z.string(),
  provider: z.string().nullable(),
  status: z.enum(['booked', 'cancelled', 'over', 'here']),
  /** The clinic has yet to agree to it. */
  waiting: z.boolean(),
  /** How to prepare, in the patient's language; may be empty. */
  preparation: z.string(),
  /** Whether the clinic asks patients to say that they will come. */
  asksToConfirm: z.boolean(),
  confirmed: z.boolean(),
  mayCancel: z.boolean(),
  cancelUntil: instant,
  /** The visit as an iCalendar object, to be kept as a file. */
  calendar: z.string(),
});
export type VisitDetails = z.output<typeof details>;

/** GET never acts: scanners and previews fetch links. */
export const lookAtLink = defineEndpoint({
  name: 'patientVisit.look',
  method: 'get',
  path: '/public/links/:token',
  summary: 'What a link shows before the date of birth: the clinic and the date.',
  access: { kind: 'public', limit: 'read' },
  params: z.strictObject({ token: linkToken }),
  output: z.strictObject({ clinic: z.string(), phone: z.string(), date: localDate, locked: z.boolean() }),
  errors: ['LinkGone'],
});

export const openLink = defineEndpoint({
  name: 'patientVisit.open',
  method: 'post',
  path: '/public/links/:token/open',
  summary: 'The visit, after the date of birth; five tries.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken }),
  body: who,
  output: z.strictObject({ visit: details }),
  errors: ['LinkGone', 'WrongBirthDate', 'LinkLocked'],
});

export const confirmByLink = defineEndpoint({
  name: 'patientVisit.confirm',
  method: 'post',
  path: '/public/links/:token/confirm',
  summary: 'The patient says they will come.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken }),
  body: who,
  output: z.strictObject({ visit: details }),
  errors: ['LinkGone', 'WrongBirthDate', 'LinkLocked', 'WrongStatus'],
});

export const cancelByLink = defineEndpoint({
  name: 'patientVisit.cancel',
  method: 'post',
  path: '/public/links/:token/cancel',
  summary: 'The patient cancels, until the cut-off.',
  access: { kind: 'public', limit: 'write' },
  params: z.strictObject({ token: linkToken }),
  body: who,
  output: z.strictObject({ visit: details }),
  errors: ['LinkGone', 'WrongBirthDate', 'LinkLocked', 'WrongStatus', 'AfterCutOff'],
});
