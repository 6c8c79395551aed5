import { channelOf } from '@zaguan/core/messages';
import { type MessageKind, planReminders, DEFAULT_QUIET_HOURS, DEFAULT_REMINDER_STEPS } from '@zaguan/core/reminders';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { ensureLink } from '../linkTokens/index.ts';
import { contactPoint, insertMessage, isOptedOut, lastToldOf, writeLedger } from './messages.repository.ts';
import { type MessagedVisit, messagedVisit, withdrawPlanned } from './messages.sql.ts';
import { CODE_MAIL, writeMail } from './words.mail.ts';
import { CODE_WORDS, type Language, writeMessage } from './words.ts';
import { clinicRow } from '../clinic/index.ts';

const CONSENT_WORDING = {
  sms: 'By booking you agree to text messages about this visit. Reply STOP to end them.',
  email: 'By booking you agree to e-mails about this visit. Each has a link that ends them.',
};

function pointOf(ctx: Ctx, visit: MessagedVisit): Promise<string> | null {
  return visit.contact ? contactPoint(ctx.em, ctx.newId(), visit.contact) : null;
}

const channelFor = (visit: MessagedVisit) => channelOf(visit.contact ?? '');

/** In the booking's transaction: the confirmation at once, and every reminder planned or dropped with its rule. */
export async function planForBooking(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const contactPointId = await pointOf(ctx, visit);
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (contactPointId && !(await isOptedOut(ctx.em, contactPointId))) {
    await writeLedger(ctx.em, {
      id: ctx.newId(),
      contactPointId,
      event: 'consented',
      wording: CONSENT_WORDING[channelFor(visit)],
      how: 'self-booking',
      at: ctx.now,
    });
    await write(ctx, visit, contactPointId, waiting(visit) ? 'requested' : 'confirmation');
  }
  if (!waiting(visit)) await planSteps(ctx, visit, contactPointId);
}

/** Whether the clinic has yet to agree: until then nothing is confirmed and nobody is reminded. */
const waiting = (visit: MessagedVisit) => visit.approval === 'waiting';

/** The clinic has agreed: the confirmation, and the reminders. Nobody is told of a time that has passed. */
export async function planForApproving(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  if (visit.startsAt <= ctx.now) return;
  const contactPointId = await pointOf(ctx, visit);
  if (contactPointId && !(await isOptedOut(ctx.em, contactPointId)))
    await write(ctx, visit, contactPointId, 'confirmation');
  await planSteps(ctx, visit, contactPointId);
}

/** The agreement was taken back: nothing more of it goes out, and who was told hears that the clinic looks again. */
export async function planForUnapproving(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  const contactPointId = await pointOf(ctx, visit);
  const confirmed = (await lastToldOf(ctx.em, appointmentId)) === 'confirmation';
  if (contactPointId && confirmed && !(await isOptedOut(ctx.em, contactPointId)))
    await write(ctx, visit, contactPointId, 'requested');
}

/**
 * What is planned is withdrawn, and the patient is told: also when nothing has been sent yet, for they saw on their page,
 * or heard at the desk, that the time is theirs.
 */
export async function planForCancelling(
  ctx: Ctx,
  appointmentId: string,
  declined: string | null = null,
): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const { anyPlanned } = await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  const contactPointId = await pointOf(ctx, visit);
  if (anyPlanned && contactPointId && visit.startsAt > ctx.now && !(await isOptedOut(ctx.em, contactPointId)))
    await write(ctx, visit, contactPointId, declined === null ? 'cancellation' : 'declined', { said: declined ?? '' });
}

/** Planned anew after a change: who was told hears of it, and whose confirmation was still on its way gets it now. */
async function planAgain(
  ctx: Ctx,
  appointmentId: string,
  told: 'moved' | 'restored',
  { elsewhere = false, oldStart = null }: { elsewhere?: boolean; oldStart?: Date | null } = {},
): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const { anyPlanned, anySent } = await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  // Nobody agreed to messages about a visit that never had any.
  if (!anyPlanned) return;
  const contactPointId = await pointOf(ctx, visit);
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (contactPointId && visit.startsAt > ctx.now && !(await isOptedOut(ctx.em, contactPointId)))
    await write(
      ctx,
      visit,
      contactPointId,
      waiting(visit) ? 'requested' : anySent || elsewhere ? told : 'confirmation',
      {
        elsewhere,
        comesAt: oldStart && oldStart > ctx.now && oldStart < visit.startsAt ? oldStart : null,
      },
    );
  if (!waiting(visit)) await planSteps(ctx, visit, contactPointId);
}

/**
 * A visit whose hours, room or provider are gone: nobody is reminded of its old time, and who was told of it hears that
 * another one is looked for.
 *
 * @returns whether a message goes out; who has none must be called
 */
export async function planForVisitToMove(ctx: Ctx, appointmentId: string): Promise<boolean> {
  const visit = await required(ctx, appointmentId);
  const { anyPlanned } = await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  if (!anyPlanned) return false;
  const contactPointId = await pointOf(ctx, visit);
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (!contactPointId || (await isOptedOut(ctx.em, contactPointId))) return false;
  await write(ctx, visit, contactPointId, 'must-move');
  return true;
}

/** A visit that moved: the reminders are for the new time. At another site, the patient is told where, too. */
export const planForMoving = (ctx: Ctx, appointmentId: string, how: { elsewhere?: boolean; oldStart?: Date } = {}) =>
  planAgain(ctx, appointmentId, 'moved', how);

/** Whether the patient was told last that the visit can't take place then. */
export const wasToldItMustMove = async (ctx: Ctx, appointmentId: string) =>
  (await lastToldOf(ctx.em, appointmentId)) === 'must-move';

/** A cancelling taken back. */
export const planForRestoring = (ctx: Ctx, appointmentId: string) => planAgain(ctx, appointmentId, 'restored');

async function required(ctx: Ctx, appointmentId: string): Promise<MessagedVisit> {
  const visit = await messagedVisit(ctx.em, appointmentId);
  if (!visit) throw new Error('A message is planned for a visit in the same transaction.');
  return visit;
}

function bodyOf(
  kind: Exclude<MessageKind, 'reply' | 'code'>,
  visit: MessagedVisit,
  elsewhere = false,
  said = '',
): string {
  const place = elsewhere ? visit.place : null;
  return channelFor(visit) === 'email'
    ? writeMail(kind, visit.language, visit, place, said)
    : writeMessage(kind, visit.language, visit, place, said);
}

async function write(
  ctx: Ctx,
  visit: MessagedVisit,
  contactPointId: string,
  kind: Exclude<MessageKind, 'reminder' | 'reply' | 'code'>,
  { elsewhere = false, comesAt = null, said = '' }: { elsewhere?: boolean; comesAt?: Date | null; said?: string } = {},
): Promise<void> {
  await insertMessage(ctx.em, {
    id: ctx.newId(),
    appointmentId: visit.id,
    contactPointId,
    channel: channelFor(visit),
    kind,
    step: null,
    language: visit.language,
    body: bodyOf(kind, visit, elsewhere, said),
    sendAt: ctx.now,
    notAfter: visit.endsAt,
    droppedCode: null,
    createdAt: ctx.now,
    answersPatient: ctx.actor.kind === 'patient',
    comesAt,
  });
}

async function planSteps(ctx: Ctx, visit: MessagedVisit, contactPointId: string | null): Promise<void> {
  const now = nowMinute(ctx);
  const planned = planReminders(DEFAULT_REMINDER_STEPS, {
    now,
    start: visit.startsAt.getTime() / 60_000,
    siteZone: visit.timeZone,
    zones: [visit.timeZone],
    quiet: DEFAULT_QUIET_HOURS,
    status: visit.status,
    reachable: contactPointId !== null,
    optedOut: contactPointId !== null && (await isOptedOut(ctx.em, contactPointId)),
    laneLeftOut: visit.laneLeftOut,
    others: [now],
  });
  for (const each of planned) {
    const at = each.outcome === 'planned' ? each.sendAt : each.wouldBe;
    await insertMessage(ctx.em, {
      id: ctx.newId(),
      appointmentId: visit.id,
      contactPointId,
      channel: channelFor(visit),
      kind: 'reminder',
      step: each.step,
      language: visit.language,
      body: bodyOf('reminder', visit),
      sendAt: new Date(at * 60_000),
      notAfter: visit.startsAt,
      droppedCode: each.outcome === 'dropped' ? each.code : null,
      createdAt: ctx.now,
      answersPatient: false,
    });
  }
}

/** A code goes out at once, also in quiet time and to a number that said stop: it was asked for a moment ago. */
export async function sendCodeMessage(
  ctx: Ctx,
  code: { contact: string; language: Language; verificationId: string; livesMs: number },
): Promise<void> {
  const { name } = await clinicRow(ctx.em);
  const channel = channelOf(code.contact);
  await insertMessage(ctx.em, {
    id: ctx.newId(),
    appointmentId: null,
    contactPointId: await contactPoint(ctx.em, ctx.newId(), code.contact),
    channel,
    kind: 'code',
    step: null,
    language: code.language,
    body: (channel === 'email' ? CODE_MAIL : CODE_WORDS)[code.language](name),
    sendAt: ctx.now,
    notAfter: new Date(ctx.now.getTime() + code.livesMs),
    droppedCode: null,
    createdAt: ctx.now,
    verificationId: code.verificationId,
    answersPatient: true,
  });
}

/** The ledger's entry that someone at this number or address could read a code. */
export async function recordVerified(ctx: Ctx, contact: string): Promise<void> {
  const contactPointId = await contactPoint(ctx.em, ctx.newId(), contact);
  await writeLedger(ctx.em, {
    id: ctx.newId(),
    contactPointId,
    event: 'verified',
    wording: `A code by ${channelOf(contact) === 'email' ? 'e-mail' : 'text message'}.`,
    how: 'code',
    at: ctx.now,
  });
}
