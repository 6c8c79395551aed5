import { FUNNEL_STEPS, INVITATION_EVENTS, INVITATION_STATES, NOT_INVITED } from '@zaguan/core/invitations';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { id } from '../setup/fields.ts';
import { instant, language, localDate, undoable, version } from '../wire.ts';

/** So many are sent by one call; more go in several. */
export const INVITED_AT_ONCE = 50;
/** So many can be looked at before they are sent. */
const PREVIEWED_AT_ONCE = 1000;

/** What it is about: at most one of them. */
const about = {
  templateId: id,
  planId: id.nullable(),
  requestId: id.nullable().default(null),
  /** The visit that gets another time by it. */
  moveId: id.nullable().default(null),
};

/** `too-late`: by the time it could go out, its dates would be over. */
const refusal = z.enum([...NOT_INVITED, 'too-late', 'restricted', 'unknown']);
export type InvitationRefusal = z.output<typeof refusal>;

const toSend = z.strictObject({
  patientId: id,
  name: z.string(),
  /** Why they get none; `null`: they get this. */
  refused: refusal.nullable(),
  message: z
    .strictObject({
      channel: z.enum(['sms', 'email']),
      address: z.string(),
      language,
      body: z.string(),
      /** Of a text message. */
      parts: z.number(),
      sendAt: instant,
      timeZone: z.string(),
      /** The limit that makes it later than now. */
      laterBy: z.enum(['quiet-hours', 'one-a-day', 'three-a-week']).nullable(),
    })
    .nullable(),
});
export type PreviewedInvitation = z.output<typeof toSend>;

export const previewInvitations = defineEndpoint({
  name: 'invitations.preview',
  method: 'post',
  path: '/invitations/preview',
  summary: 'What each of these patients would be sent and when, and who would get nothing and why. Sends nothing.',
  access: { kind: 'role', action: 'recalls.decide' },
  body: z.strictObject({ ...about, patientIds: z.array(id).min(1).max(PREVIEWED_AT_ONCE) }),
  output: z.strictObject({ people: z.array(toSend) }),
  errors: ['NotFound', 'InvalidInput'],
  readsPatients: true,
});

export const sendInvitations = defineEndpoint({
  name: 'invitations.send',
  method: 'post',
  path: '/invitations',
  summary:
    'Invite patients: each gets one message with a link of their own. Who may get none is left out, with the reason.',
  access: { kind: 'role', action: 'recalls.decide' },
  body: z.strictObject({ ...about, patientIds: z.array(id).min(1).max(INVITED_AT_ONCE) }),
  output: z.strictObject({
    sent: z.array(z.strictObject({ id, patientId: id, sendAt: instant })),
    leftOut: z.array(z.strictObject({ patientId: id, refused: refusal })),
    /** `null` where nobody was invited. */
    undo: undoable.nullable(),
  }),
  errors: ['NotFound', 'InvalidInput', 'FindsNothing'],
});

export const withdrawInvitation = defineEndpoint({
  name: 'invitations.withdraw',
  method: 'post',
  path: '/invitations/:id/withdraw',
  summary: 'Nothing can be booked with an invitation any more; its message is not sent if it has not been.',
  access: { kind: 'role', action: 'recalls.decide' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'ChangedMeanwhile', 'NotAllowed'],
});

const followed = z.strictObject({
  id,
  version,
  patientId: id,
  name: z.string(),
  template: z.string(),
  planId: id.nullable(),
  plan: z.string().nullable(),
  state: z.enum(INVITATION_STATES),
  /** Five wrong dates of birth: the link waits, and somebody should call. */
  locked: z.boolean(),
  channel: z.enum(['sms', 'email']).nullable(),
  invitedOn: localDate,
  until: localDate,
  isLive: z.boolean(),
  failReason: z.string().nullable(),
  /** What was written, without its link; empty where the reader may not see whose it is. */
  body: z.string(),
  visit: z.strictObject({ siteId: id, date: localDate, id }).nullable(),
  events: z.array(z.strictObject({ kind: z.enum(INVITATION_EVENTS), at: instant })),
});
export type FollowedInvitation = z.output<typeof followed>;

export const invitationsOfPatient = defineEndpoint({
  name: 'invitations.ofPatient',
  method: 'get',
  path: '/patients/:patientId/invitations',
  summary: 'All invitations of a patient with what became of each, the latest first.',
  access: { kind: 'role', action: 'recalls.view' },
  params: z.strictObject({ patientId: id }),
  output: z.strictObject({ invitations: z.array(followed) }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});

const steps = z.record(z.enum(FUNNEL_STEPS), z.number());
export const FOLLOWED = [...FUNNEL_STEPS, 'not-reached', 'declined', 'later', 'expired'] as const;
export type Followed = (typeof FOLLOWED)[number];

export const planFunnel = defineEndpoint({
  name: 'invitations.funnel',
  method: 'get',
  path: '/recalls/plans/:planId/funnel',
  summary: 'How many people of a plan were invited since a date, and how far each step of them came.',
  access: { kind: 'role', action: 'recalls.view' },
  params: z.strictObject({ planId: id }),
  query: z.strictObject({ since: localDate }),
  output: z.strictObject({
    due: z.number(),
    steps,
    notReached: z.number(),
    declined: z.number(),
    later: z.number(),
    expired: z.number(),
  }),
  errors: ['NotFound'],
});
export type PlanFunnel = z.output<typeof planFunnel.output>;

export const planInvited = defineEndpoint({
  name: 'invitations.ofPlan',
  method: 'get',
  path: '/recalls/plans/:planId/invited',
  summary:
    'The invitations of a plan since a date that came to a step, the latest first; no more than can be looked through.',
  access: { kind: 'role', action: 'recalls.view' },
  params: z.strictObject({ planId: id }),
  query: z.strictObject({ since: localDate, step: z.enum(FOLLOWED) }),
  output: z.strictObject({ invitations: z.array(followed), more: z.boolean() }),
  errors: ['NotFound'],
  readsPatients: true,
});
