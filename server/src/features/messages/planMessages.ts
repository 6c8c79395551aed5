import { type Channel, channelOf } from '@zaguan/core/messages';
import { type MessageKind, planReminders, DEFAULT_QUIET_HOURS, DEFAULT_REMINDER_STEPS } from '@zaguan/core/reminders';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { ensureLink, linkAddress, linkLength, tokenOf } from '../linkTokens/index.ts';
import { insertMessages, lastToldOf, type NewMessage, writeLedger } from './messages.repository.ts';
import {
  hasOptedOut,
  type MessagedVisit,
  messagedVisit,
  messagesSoFar,
  placeOf,
  type Reach,
  reachOf,
  withdrawPlanned,
  withdrawReminders,
} from './messages.sql.ts';
import { CODE_MAIL, writeMail } from './words.mail.ts';
import { CODE_WORDS, type Language, writeMessage } from './words.ts';
import { clinicRow } from '../clinic/index.ts';

const CONSENT_WORDING = {
  sms: 'By booking you agree to text messages about this visit. Reply STOP to end them.',
  email: 'By booking you agree to e-mails about this visit. Each has a link that ends them.',
};

async function reach(ctx: Ctx, visit: MessagedVisit): Promise<Reach | null> {
  return visit.contact ? reachOf(ctx.em, ctx.newId(), visit.contact) : null;
}

/** Where this visit's messages may go; `null`: nowhere. */
const openTo = (to: Reach | null) => (to && !to.optedOut ? to.contactPointId : null);

const channelFor = (visit: MessagedVisit) => channelOf(visit.contact ?? '');

/**
 * In the booking's transaction: the confirmation at once, and every reminder planned or dropped with its rule.
 *
 * @returns the address of the visit's page
 */
export async function planForBooking(ctx: Ctx, appointmentId: string): Promise<string> {
  const visit = await required(ctx, appointmentId);
  const to = await reach(ctx, visit);
  const link = await linkOfVisit(ctx, visit);
  const contactPointId = openTo(to);
  if (contactPointId)
    await writeLedger(ctx.em, {
      id: ctx.newId(),
      contactPointId,
      event: 'consented',
      wording: CONSENT_WORDING[channelFor(visit)],
      how: 'self-booking',
      at: ctx.now,
    });
  await insertMessages(ctx.em, [
    ...(contactPointId ? [compose(ctx, visit, contactPointId, waiting(visit) ? 'requested' : 'confirmation')] : []),
    ...(waiting(visit) ? [] : reminders(ctx, visit, to)),
  ]);
  return link;
}

/** The address of a visit's page for its patient. */
export async function linkOfVisit(ctx: Ctx, visit: { id: string; endsAt: Date }): Promise<string> {
  const id = await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  return linkAddress(ctx.addresses.publicUrl, tokenOf(id, ctx.linkSecret));
}

/** Whether the clinic has yet to agree: until then nothing is confirmed and nobody is reminded. */
const waiting = (visit: MessagedVisit) => visit.approval === 'waiting';

/** The clinic has agreed: the confirmation, and the reminders. Nobody is told of a time that has passed. */
export async function planForApproving(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  if (visit.startsAt <= ctx.now) return;
  const to = await reach(ctx, visit);
  const contactPointId = openTo(to);
  await insertMessages(ctx.em, [
    ...(contactPointId ? [compose(ctx, visit, contactPointId, 'confirmation')] : []),
    ...reminders(ctx, visit, to),
  ]);
}

/** The agreement was taken back: nothing more of it goes out, and who was told hears that the clinic looks again. */
export async function planForUnapproving(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  const contactPointId = openTo(await reach(ctx, visit));
  const confirmed = (await lastToldOf(ctx.em, appointmentId)) === 'confirmation';
  if (contactPointId && confirmed) await insertMessages(ctx.em, [compose(ctx, visit, contactPointId, 'requested')]);
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
  const contactPointId = openTo(await reach(ctx, visit));
  if (!anyPlanned || !contactPointId || visit.startsAt <= ctx.now) return;
  const kind = declined === null ? 'cancellation' : 'declined';
  await insertMessages(ctx.em, [compose(ctx, visit, contactPointId, kind, { said: declined ?? '' })]);
}

/** What is planned is withdrawn, and nobody is told: who has died gets no message about it. */
export async function planForStopping(ctx: Ctx, appointmentId: string): Promise<void> {
  await withdrawPlanned(ctx.em, appointmentId, ctx.now);
}

/** A silent end taken back: the reminders that are still to come, and no word about what nobody heard of. */
export async function planForSilentRestoring(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const { anyPlanned } = await messagesSoFar(ctx.em, appointmentId);
  if (anyPlanned && !waiting(visit)) await insertMessages(ctx.em, reminders(ctx, visit, await reach(ctx, visit)));
}

/** The patient is reached in another way from now on: the reminders that are still to come go there. */
export async function planForNewContact(ctx: Ctx, appointmentId: string): Promise<void> {
  await withdrawReminders(ctx.em, appointmentId, ctx.now);
  await planForSilentRestoring(ctx, appointmentId);
}

/** Who waits for the clinic's word waits on; who was told nothing yet gets the confirmation instead. */
const toldOf = <K extends 'moved' | 'restored'>(visit: MessagedVisit, told: K, knows: boolean) =>
  waiting(visit) ? 'requested' : knows ? told : 'confirmation';

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
  const to = await reach(ctx, visit);
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  const contactPointId = visit.startsAt > ctx.now ? openTo(to) : null;
  const kind = toldOf(visit, told, anySent || elsewhere);
  const comesAt = oldStart && oldStart > ctx.now && oldStart < visit.startsAt ? oldStart : null;
  await insertMessages(ctx.em, [
    ...(contactPointId ? [compose(ctx, visit, contactPointId, kind, { elsewhere, comesAt })] : []),
    ...(waiting(visit) ? [] : reminders(ctx, visit, to)),
  ]);
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
  const contactPointId = openTo(await reach(ctx, visit));
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (!contactPointId) return false;
  await insertMessages(ctx.em, [compose(ctx, visit, contactPointId, 'must-move')]);
  return true;
}

/** A visit that moved: the reminders are for the new time. At another site, the patient is told where, too. */
export const planForMoving = (ctx: Ctx, appointmentId: string, how: { elsewhere?: boolean; oldStart?: Date } = {}) =>
  planAgain(ctx, appointmentId, 'moved', how);

/** What moving a visit would tell its patient, in the words that would go out; `null` where nothing would. Writes nothing. */
export async function messageOfMove(
  ctx: Ctx,
  appointmentId: string,
  { siteId, startsAt, isSameTime }: { siteId: string; startsAt: Date; isSameTime: boolean },
): Promise<{ channel: Channel; body: string } | null> {
  const visit = await messagedVisit(ctx.em, appointmentId);
  if (!visit) return null;
  const { anyPlanned, anySent } = await messagesSoFar(ctx.em, appointmentId);
  const isOpen = anyPlanned && visit.contact !== null && !(await hasOptedOut(ctx.em, visit.contact));
  if (!isOpen || (isSameTime && !(await wasToldItMustMove(ctx, appointmentId)))) return null;
  const place = siteId === visit.siteId ? null : await placeOf(ctx.em, siteId);
  const there = { ...visit, startsAt, ...place };
  const kind = toldOf(visit, isSameTime ? 'restored' : 'moved', anySent || place !== null);
  return { channel: channelFor(visit), body: bodyOf(ctx, kind, there, place !== null) };
}

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
  ctx: Ctx,
  kind: Exclude<MessageKind, 'reply' | 'code'>,
  visit: MessagedVisit,
  elsewhere = false,
  said = '',
): string {
  const place = elsewhere ? visit.place : null;
  return channelFor(visit) === 'email'
    ? writeMail(kind, visit.language, visit, place, said)
    : writeMessage(kind, visit.language, { ...visit, linkLength: linkLength(ctx.addresses.publicUrl) }, place, said);
}

/** What tells of a visit at once. */
function compose(
  ctx: Ctx,
  visit: MessagedVisit,
  contactPointId: string,
  kind: Exclude<MessageKind, 'reminder' | 'reply' | 'code'>,
  { elsewhere = false, comesAt = null, said = '' }: { elsewhere?: boolean; comesAt?: Date | null; said?: string } = {},
): NewMessage {
  return {
    id: ctx.newId(),
    appointmentId: visit.id,
    visitDate: visit.siteDate,
    contactPointId,
    channel: channelFor(visit),
    kind,
    step: null,
    language: visit.language,
    body: bodyOf(ctx, kind, visit, elsewhere, said),
    sendAt: ctx.now,
    notAfter: visit.endsAt,
    droppedCode: null,
    createdAt: ctx.now,
    answersPatient: ctx.actor.kind === 'patient',
    comesAt,
  };
}

/** Every reminder of a visit, planned or dropped with its rule. */
function reminders(ctx: Ctx, visit: MessagedVisit, to: Reach | null): NewMessage[] {
  const now = nowMinute(ctx);
  const planned = planReminders(DEFAULT_REMINDER_STEPS, {
    now,
    start: visit.startsAt.getTime() / 60_000,
    siteZone: visit.timeZone,
    zones: [visit.timeZone],
    quiet: DEFAULT_QUIET_HOURS,
    status: visit.status,
    reachable: to !== null,
    optedOut: to?.optedOut ?? false,
    laneLeftOut: visit.laneLeftOut,
    others: [now],
  });
  return planned.map((each) => {
    const at = each.outcome === 'planned' ? each.sendAt : each.wouldBe;
    return {
      id: ctx.newId(),
      appointmentId: visit.id,
      visitDate: visit.siteDate,
      contactPointId: to?.contactPointId ?? null,
      channel: channelFor(visit),
      kind: 'reminder',
      step: each.step,
      language: visit.language,
      body: bodyOf(ctx, 'reminder', visit),
      sendAt: new Date(at * 60_000),
      notAfter: visit.startsAt,
      droppedCode: each.outcome === 'dropped' ? each.code : null,
      createdAt: ctx.now,
      answersPatient: false,
    };
  });
}

/** A code goes out at once, also in quiet time and to a number that said stop: it was asked for a moment ago. */
export async function sendCodeMessage(
  ctx: Ctx,
  code: { contact: string; language: Language; verificationId: string; livesMs: number },
): Promise<void> {
  const { name } = await clinicRow(ctx.em);
  const channel = channelOf(code.contact);
  const { contactPointId } = await reachOf(ctx.em, ctx.newId(), code.contact);
  await insertMessages(ctx.em, [
    {
      id: ctx.newId(),
      appointmentId: null,
      visitDate: null,
      contactPointId,
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
    },
  ]);
}

/** The ledger's entry that someone at this number or address could read a code. */
export async function recordVerified(ctx: Ctx, contact: string): Promise<void> {
  const { contactPointId } = await reachOf(ctx.em, ctx.newId(), contact);
  await writeLedger(ctx.em, {
    id: ctx.newId(),
    contactPointId,
    event: 'verified',
    wording: `A code by ${channelOf(contact) === 'email' ? 'e-mail' : 'text message'}.`,
    how: 'code',
    at: ctx.now,
  });
}
