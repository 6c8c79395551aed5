import type { InputOf } from '@zaguan/contracts';
import type {
  previewInvitations as previewContract,
  sendInvitations as sendContract,
} from '@zaguan/contracts/invitations';
import { booksWhatIsAsked } from '@zaguan/core/invitations';
import { comingTypesOf } from '@zaguan/core/recalls';
import { addDays, wallToEpoch } from '@zaguan/core/time';
import { accountIdOf, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { openRequest } from '../desk/index.ts';
import { hashOfToken, tokenOf } from '../linkTokens/index.ts';
import { insertMessages } from '../messages/index.ts';
import { catchUp } from '../recalls/index.ts';
import { findsAnything } from './finds.ts';
import { clinicOf, endExpired, insertInvitations, noteEvents, planOf, visitOf } from './invitations.repository.ts';
import { lockInvitations } from './people.sql.ts';
import { type Planned, planInvitations, type Sending } from './plan.ts';
import { templateRow } from './templates.repository.ts';

type About = Pick<InputOf<typeof sendContract>, 'templateId' | 'planId' | 'requestId' | 'moveId' | 'patientIds'>;

/** What a call is about, if all of it stands: a request and a visit to move are of one patient, and still open. */
async function resolve(ctx: Ctx, about: About): Promise<Sending | Failure<'NotFound' | 'InvalidInput'>> {
  const { templateId, planId, requestId, moveId, patientIds } = about;
  const template = await templateRow(ctx.em, templateId);
  const plan = planId === null ? null : await planOf(ctx.em, planId);
  if (!template?.active || (planId !== null && !plan)) return ctx.fail('NotFound');
  const named = [planId, requestId, moveId].filter((each) => each !== null);
  if (named.length > 1 || ((requestId ?? moveId) !== null && patientIds.length > 1))
    return ctx.fail('InvalidInput', { issues: [{ path: 'patientIds', code: 'one-thing-only' }] });
  const asked = plan ? comingTypesOf(plan.rules) : await typeOfSubject(ctx, about);
  if (asked instanceof Failure) return asked;
  if (!booksWhatIsAsked(template.rules.typeIds, asked))
    return ctx.fail('InvalidInput', { issues: [{ path: 'templateId', code: 'other-type' }] });
  return {
    ...{ templateId, planId, requestId, moveId, template },
    plan: plan && { id: plan.id, ...plan.rules },
    clinic: await clinicOf(ctx.em),
  };
}

/** The type that a request or a visit to move asks for, if it still stands; `null`: it is to neither. */
async function typeOfSubject(
  ctx: Ctx,
  { requestId, moveId, patientIds: [patientId] }: About,
): Promise<readonly string[] | null | Failure<'NotFound'>> {
  if (requestId !== null) {
    const request = await openRequest(ctx, requestId, patientId);
    return request instanceof Failure ? ctx.fail('NotFound') : [request.visitTypeId];
  }
  if (moveId === null) return null;
  const visit = await visitOf(ctx.em, moveId);
  const isOpen = visit?.patientId === patientId && visit.status === 'booked' && visit.startsAt > ctx.now;
  return isOpen ? [visit.visitTypeId] : ctx.fail('NotFound');
}

/** What each would be sent; nothing is written. */
export async function previewInvitations(
  ctx: Ctx,
  input: InputOf<typeof previewContract>,
): Promise<AnswerOf<typeof previewContract>> {
  const sending = await resolve(ctx, input);
  if (sending instanceof Failure) return sending;
  if (input.planId !== null) await catchUp(ctx.em, ctx.now);
  const planned = await planInvitations(ctx, sending, input.patientIds);
  ctx.viewed(planned.flatMap(({ patientId, name }) => (name ? [patientId] : [])));
  return {
    people: planned.map(({ patientId, name, refused, message }) => {
      if (!message) return { patientId, name, refused, message };
      const { channel, address, language, body, parts, sendAt, timeZone, laterBy } = message;
      return {
        patientId,
        name,
        refused,
        message: { channel, address, language, body, parts, sendAt, timeZone, laterBy },
      };
    }),
  };
}

/** Invitations, links and messages of all that are sent, each in one go. */
export async function writeInvitations(ctx: Ctx, sending: Sending, planned: readonly Planned[]) {
  const { templateId, planId, requestId, moveId, template } = sending;
  const { livesDays, uses, untilDate } = template.rules;
  const made = planned.flatMap(({ patientId, message }) => {
    if (!message) return [];
    const lives = addDays(message.sendOn, livesDays);
    // Of no use when nothing may be booked with it any more.
    const lastDate = untilDate !== null && untilDate < lives ? untilDate : lives;
    const until = lastDate < message.sendOn ? message.sendOn : lastDate;
    const expiresAt = new Date(wallToEpoch(message.timeZone, addDays(until, 1), 0) * 60_000);
    return [{ id: ctx.newId(), linkId: ctx.newId(), patientId, message, until, expiresAt }];
  });
  await insertInvitations(
    ctx.em,
    made.map(({ id, patientId, message, until, expiresAt }) => ({
      ...{ id, templateId, patientId, planId, requestId, moveId, usesLeft: uses },
      ...{ invitedOn: message.sendOn, untilDate: until, expiresAt, endedAs: null, endedAt: null },
      ...{ createdBy: accountIdOf(ctx), createdAt: ctx.now },
    })),
    made.map(({ id, linkId, expiresAt }) => ({
      ...{ id: linkId, kind: 'invitation' as const, subjectId: id },
      tokenHash: hashOfToken(tokenOf(linkId, ctx.linkSecret)),
      // Kept a while longer, so that a late one is told what has become of it.
      expiresAt: new Date(expiresAt.getTime() + KEPT_MS),
    })),
  );
  await noteEvents(
    ctx.em,
    made.map(({ id }) => id),
    { kind: 'planned', at: ctx.now, accountId: accountIdOf(ctx) },
  );
  await insertMessages(
    ctx.em,
    made.map(({ id, message, expiresAt }) => ({
      ...{ id: ctx.newId(), appointmentId: null, visitDate: null, contactPointId: message.contactPointId },
      ...{ channel: message.channel, kind: 'invitation', step: null, language: message.language, body: message.body },
      ...{ subject: message.subject, sendAt: new Date(message.sendAt), notAfter: expiresAt },
      ...{ droppedCode: null, heldCode: message.laterBy, createdAt: ctx.now, answersPatient: false, invitationId: id },
    })),
  );
  for (const { id, patientId } of made)
    ctx.wrote({
      subjects: [
        { kind: 'invitation', id },
        { kind: 'patient', id: patientId },
      ],
      after: { templateId, planId, requestId, moveId },
    });
  return made;
}

/** A year: whoever finds an old message learns that its link has run out, and where to call. */
const KEPT_MS = 365 * 24 * 3_600_000;

/** Invites patients. What stands in somebody's way leaves them out and nobody else. */
export async function sendInvitations(
  ctx: Ctx,
  input: InputOf<typeof sendContract>,
): Promise<AnswerOf<typeof sendContract>> {
  const sending = await resolve(ctx, input);
  if (sending instanceof Failure) return sending;
  if (!(await findsAnything(ctx, sending.template.rules))) return ctx.fail('FindsNothing');
  if (input.planId !== null) await catchUp(ctx.em, ctx.now);
  await lockInvitations(ctx.em);
  const planned = await planInvitations(ctx, sending, input.patientIds);
  await endExpired(ctx.em, input.patientIds, ctx.now);
  const made = await writeInvitations(ctx, sending, planned);
  if (made.length) ctx.emit({ type: 'recalls-changed' });
  const undo = made.length
    ? await ctx.undoable({
        command: 'invitations.withdrawAll',
        input: { ids: made.map(({ id }) => id) },
        label: { what: 'invited', count: String(made.length) },
      })
    : null;
  return {
    sent: made.map(({ id, patientId, message }) => ({ id, patientId, sendAt: message.sendAt })),
    leftOut: planned.flatMap(({ patientId, refused }) => (refused === null ? [] : [{ patientId, refused }])),
    undo,
  };
}
