import { CODES } from '@zaguan/core/openings';
import { GROUP_KINDS } from '@zaguan/core/visits';
import { z } from 'zod';
import { waive } from '../booking/change.ts';
import { defineEndpoint } from '../endpoint.ts';
import { instant, localDate, payerId, resourceId, siteId, startInstant, undoable, visitTypeId } from '../wire.ts';
import { ownParts } from './parts.ts';
import { benchEntry } from './bench.ts';
import { wish } from './wish.ts';

/** As many visits are booked in one go: a weekly series of half a year. */
export const MAX_AT_ONCE = 26;

/** A visit at a time, as the desk asks about it. */
export const askedVisit = z.strictObject({
  patientId: z.uuid(),
  visitTypeId,
  /** `null`: the type's. */
  parts: ownParts.nullable().default(null),
  siteId,
  providerId: resourceId.nullable(),
  start: startInstant,
  /** Who pays, if that is known; `null`: the patient. */
  payerId: payerId.nullable().optional(),
  hasReferral: z.boolean().optional(),
  hasAuthorization: z.boolean().optional(),
});
export type AskedVisit = z.output<typeof askedVisit>;

const code = z.enum(CODES);

const newVisit = askedVisit.extend({
  /** A usual reason of the visit type. */
  reasonId: z.uuid().nullable().default(null),
  reason: z.string().trim().max(500, { error: 'too-long' }).default(''),
  waive,
  /** Who asks for it, where that is not the patient: the relationship. */
  askedBy: z.uuid().nullable().default(null),
  requestId: z.uuid().nullable().default(null),
  /** What lay on the Bench and gets its time now. */
  unplacedId: z.uuid().nullable().default(null),
  sooner: wish.nullable().default(null),
});
export type NewVisit = z.output<typeof newVisit>;

const bookedVisit = z.strictObject({
  id: z.string(),
  patientId: z.string(),
  siteId: z.string(),
  providerId: z.string().nullable(),
  visitTypeId: z.string(),
  date: localDate,
  start: instant,
  end: instant,
  timeZone: z.string(),
  /** The rules it was booked against. */
  waived: z.array(code),
  /** What its patient is told, where, and in which language; `null`: nothing can be sent. */
  told: z.strictObject({ contact: z.string(), language: z.enum(['en', 'es']), reminders: z.number() }).nullable(),
});
export type DeskBooked = z.output<typeof bookedVisit>;

export const bookAtDesk = defineEndpoint({
  name: 'desk.book',
  method: 'post',
  path: '/desk/bookings',
  summary:
    'Book one visit, or several that belong together: all of them or none. The same call twice gives the same visits. What is to have a time later goes onto the Bench.',
  access: { kind: 'role', action: 'appointment.book' },
  body: z
    .strictObject({
      /** Of this press of the button. */
      key: z.uuid(),
      /** The booking whose held times are meant. */
      flowId: z.uuid(),
      group: z.enum(GROUP_KINDS).nullable(),
      visits: z.array(newVisit).max(MAX_AT_ONCE, { error: 'too-many' }),
      bench: z.array(benchEntry).max(8, { error: 'too-many' }).default([]),
    })
    .superRefine(({ visits, bench, group }, check) => {
      if (visits.length + bench.length === 0) check.addIssue({ code: 'custom', path: ['visits'], message: 'needed' });
      if (visits.length > 1 && group === null) check.addIssue({ code: 'custom', path: ['group'], message: 'needed' });
    }),
  bodyLimit: 256 * 1024,
  output: z.strictObject({ visits: z.array(bookedVisit), undo: undoable }),
  errors: [
    'NotFound',
    'NotAllowed',
    'TimeTaken',
    'NotOffered',
    'NotBookable',
    'MayNotBook',
    'HoldUsed',
    'ChangedMeanwhile',
    'WrongStatus',
  ],
});

const held = z.strictObject({
  flowId: z.string(),
  expiresAt: instant,
  secondsLeft: z.number(),
  mayExtend: z.boolean(),
});
export type DeskHold = z.output<typeof held>;

export const holdAtDesk = defineEndpoint({
  name: 'desk.hold',
  method: 'post',
  path: '/desk/holds',
  summary:
    'Keep the times of one booking at the desk for ten minutes; other desks see who books. What the same booking held before is given back.',
  access: { kind: 'role', action: 'appointment.book' },
  body: z.strictObject({ flowId: z.uuid(), visits: z.array(askedVisit).min(1).max(MAX_AT_ONCE) }),
  bodyLimit: 256 * 1024,
  output: z.strictObject({ hold: held }),
  errors: ['NotFound', 'NotAllowed', 'TimeTaken', 'NotOffered', 'NotBookable'],
});

export const extendDeskHold = defineEndpoint({
  name: 'desk.extendHold',
  method: 'post',
  path: '/desk/holds/:flowId/extend',
  summary: 'Ten minutes more for the times of a booking at the desk.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ flowId: z.uuid() }),
  output: z.strictObject({ hold: held }),
  errors: ['HoldGone', 'NotAllowed'],
});

export const releaseDeskHold = defineEndpoint({
  name: 'desk.releaseHold',
  method: 'delete',
  path: '/desk/holds/:flowId',
  summary: 'Give the times of a booking at the desk back.',
  access: { kind: 'role', action: 'appointment.book' },
  params: z.strictObject({ flowId: z.uuid() }),
  output: z.strictObject({}),
  errors: ['NotAllowed'],
});
