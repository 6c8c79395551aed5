import type { Channel } from '@zaguan/core/messages';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { ensureLink } from '../linkTokens/index.ts';
import { bodyOf, channelFor, compose, linkOfVisit, openTo, reach, reminders, required, waiting } from './compose.ts';
import { insertMessages, lastToldOf, writeLedger } from './messages.repository.ts';
import {
  hasOptedOut,
  type MessagedVisit,
  messagedVisit,
  messagesSoFar,
  placeOf,
  withdrawPlanned,
  withdrawReminders,
} from './messages.sql.ts';

const CONSENT_WORDING = {
  sms: 'By booking you agree to text messages about this visit. Reply STOP to end them.',
  email: 'By booking you agree to e-mails about this visit. Each has a link that ends them.',
};

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
  return { channel: channelFor(visit), body: bodyOf(ctx, kind, there, { place: place === null ? null : there.place }) };
}

/** Whether the patient was told last that the visit can't take place then. */
export const wasToldItMustMove = async (ctx: Ctx, appointmentId: string) =>
  (await lastToldOf(ctx.em, appointmentId)) === 'must-move';

/** A cancelling taken back. */
export const planForRestoring = (ctx: Ctx, appointmentId: string) => planAgain(ctx, appointmentId, 'restored');
