import { READINESS_CODES, RED_FLAG_SEVERITIES } from '@zaguan/core/intake';
import { MESSAGE_KINDS, REMINDER_STEPS } from '@zaguan/core/reminders';
import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { WORK_KINDS, WORK_OUTCOMES } from '@zaguan/core/work';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { words } from '../intake/form.ts';
import { instant, localDate, undoable, unreadableRows } from '../wire.ts';

/** The visit a piece of work is about. */
const about = z.strictObject({
  appointmentId: z.string(),
  name: z.string(),
  siteId: z.string(),
  siteName: z.string(),
  timeZone: z.string(),
  date: localDate,
  start: instant,
});

const base = z.strictObject({
  id: z.string(),
  since: instant,
  due: instant,
  /** Who has taken it; `mine` if it is the reader. */
  owner: z.strictObject({ name: z.string(), mine: z.boolean() }).nullable(),
  visit: about.nullable(),
});

const work = z.discriminatedUnion('kind', [
  base.extend({
    kind: z.literal('red-flag'),
    question: words,
    answer: words,
    /** What the patient's page told them to do. */
    told: words,
    severity: z.enum(RED_FLAG_SEVERITIES),
    /** The number to call; `null` if the clinic has none. */
    phone: z.string().nullable(),
    visitStatus: z.enum(APPOINTMENT_STATUSES),
    /** Assigned to the clinician who owns it: until when it is theirs alone. Then it counts at the desk again. */
    withClinicianUntil: instant.nullable(),
    /** Whether it may be given to a clinician now. */
    mayAssign: z.boolean(),
  }),
  base.extend({ kind: z.literal('inbox'), contact: z.string(), body: z.string() }),
  base.extend({
    kind: z.literal('failed'),
    contact: z.string(),
    message: z.enum(MESSAGE_KINDS),
    step: z.enum(REMINDER_STEPS).nullable(),
    reason: z.string(),
    /** Whom an invitation was for. */
    invited: z.strictObject({ patientId: z.string(), name: z.string() }).nullable(),
  }),
  base.extend({ kind: z.literal('identity-review') }),
  base.extend({ kind: z.literal('approval') }),
  base.extend({ kind: z.literal('coverage'), payer: z.string(), referralSaid: z.boolean().nullable() }),
  base.extend({ kind: z.literal('not-ready'), missing: z.array(z.enum(READINESS_CODES)) }),
]);
export type Work = z.output<typeof work>;

export const todaysWork = defineEndpoint({
  name: 'today.list',
  method: 'get',
  path: '/today',
  summary: 'What needs attention now, each with its owner and when it is due, the most urgent first.',
  access: { kind: 'role', action: 'today.work' },
  output: z.strictObject({
    now: instant,
    work: z.array(work),
    unreadable: unreadableRows,
    /** Codes sent today, once most of the day's budget is used up. */
    codes: z.strictObject({ sent: z.number(), budget: z.number() }).nullable(),
    /** Booked visits whose hours, rooms or people are gone; they have a list of their own. */
    toMove: z.number(),
    /** Requests to book whose last date is over. */
    overdueRequests: z.number(),
    /** Restricted records that somebody has opened with a reason; empty for who may not restrict records. */
    opened: z.array(
      z.strictObject({
        id: z.string(),
        patientId: z.string(),
        recordNumber: z.string(),
        by: z.string(),
        reason: z.string(),
        at: instant,
      }),
    ),
    /** Who may clear red flags. */
    clinicians: z.array(z.strictObject({ accountId: z.string(), name: z.string() })),
  }),
  errors: [],
  readsPatients: true,
});

export const countWork = defineEndpoint({
  name: 'today.count',
  method: 'get',
  path: '/today/count',
  summary: 'How much work waits, without whose: what the menu shows. Visits that are not ready are not counted.',
  access: { kind: 'role', action: 'today.work' },
  output: z.strictObject({ redFlags: z.number(), work: z.number(), identityReview: z.number() }),
  errors: [],
});

const ofWork = z.strictObject({ kind: z.enum(WORK_KINDS), id: z.uuid() });

export const claimWork = defineEndpoint({
  name: 'today.claim',
  method: 'post',
  path: '/today/:kind/:id/claim',
  summary: 'Take a piece of work, or give it back, so that two people never call one patient.',
  access: { kind: 'role', action: 'today.work' },
  params: ofWork,
  body: z.strictObject({ take: z.boolean() }),
  output: z.strictObject({}),
  errors: ['NotFound', 'TakenBy', 'NotAllowed'],
});

export const assignFlag = defineEndpoint({
  name: 'today.assignFlag',
  method: 'post',
  path: '/today/red-flag/:id/assign',
  summary:
    'Assign a red flag to a clinician who may clear it. It stays in everybody’s sight, and is the desk’s again if it still stands after half an hour.',
  access: { kind: 'role', action: 'today.work' },
  params: z.strictObject({ id: z.uuid() }),
  body: z.strictObject({ accountId: z.uuid() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'TakenBy', 'NotAllowed'],
});

export const handleWork = defineEndpoint({
  name: 'today.handle',
  method: 'post',
  path: '/today/:kind/:id/handle',
  summary: 'Mark an answer or a failed message as dealt with, and say how it ended.',
  access: { kind: 'role', action: 'today.work' },
  params: z.strictObject({ kind: z.enum(['inbox', 'failed']), id: z.uuid() }),
  body: z.strictObject({ outcome: z.enum(WORK_OUTCOMES) }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'DecidedAlready', 'NotAllowed'],
});

export const seeOpening = defineEndpoint({
  name: 'today.seeOpening',
  method: 'post',
  path: '/today/restricted-openings/:id/seen',
  summary: 'Say that one has seen who opened a restricted record, and why. It stays in the record’s trail.',
  access: { kind: 'role', action: 'patients.restrict' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({}),
  errors: ['NotFound'],
});
