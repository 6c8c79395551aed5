import { type Channel, channelOf, readReply, type Reply } from '@zaguan/core/messages';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Purpose } from '../linkTokens/index.ts';
import { insertInbox, insertMessages, lastVisitOf, setConfirmed, writeLedger } from './messages.repository.ts';
import { type MessagedVisit, messagedVisit, reachOf, withdrawForNumber } from './messages.sql.ts';
import { ANSWERS } from './words.ts';

/** An answer is worth an answer for an hour. */
const ANSWER_LIVES_MS = 3_600_000;

/**
 * A text message or e-mail that came in. "Y" confirms the visit the last message was about; a stop word belongs to the number or
 * address and ends every automated message to it; anything else goes to the inbox. Each is answered once, also in quiet time.
 */
export async function receiveAnswer(
  ctx: Ctx,
  contact: string,
  body: string,
  clinic: { name: string; phone: string },
): Promise<Reply> {
  const { contactPointId } = await reachOf(ctx.em, ctx.newId(), contact);
  const channel = channelOf(contact);
  const visitId = await lastVisitOf(ctx.em, contactPointId, ctx.now);
  const visit = visitId ? await messagedVisit(ctx.em, visitId) : null;
  // A bare yes without a visit to confirm is for a person to read.
  const meaning = readReply(body) === 'confirm' && !visit ? 'other' : readReply(body);
  await insertInbox(ctx.em, {
    id: ctx.newId(),
    contactPointId,
    channel,
    body,
    meaning,
    appointmentId: visitId,
    receivedAt: ctx.now,
  });
  if (meaning === 'confirm' && visit) {
    await setConfirmed(ctx.em, visit.id, ctx.now);
    ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
    ctx.wrote({
      subjects: [{ kind: 'appointment', id: visit.id }],
      after: { confirmed: true, by: channel === 'email' ? 'e-mail' : 'text message' },
    });
  }
  if (meaning === 'stop')
    await endMessages(ctx, contactPointId, { wording: 'A stop word in an answer.', how: 'reply' });
  if (meaning === 'other') ctx.emit({ type: 'work-changed' });
  await answer(ctx, contactPointId, channel, meaning, visit, clinic);
  return meaning;
}

/** No more automated messages to a number or address, whoever shares it; what is planned is withdrawn. */
export async function endMessages(
  ctx: Ctx,
  contactPointId: string,
  {
    id = ctx.newId(),
    event = 'revoked',
    purpose = 'visit-messages',
    wording,
    how,
  }: { id?: string; event?: 'revoked' | 'wrong-number'; purpose?: Purpose; wording: string; how: string },
): Promise<void> {
  await writeLedger(ctx.em, { id, contactPointId, event, purpose, wording, how, at: ctx.now });
  await withdrawForNumber(ctx.em, contactPointId, ctx.now, { onlyInvitations: purpose === 'recalls' });
  ctx.wrote({ subjects: [{ kind: 'contact-point', id: contactPointId }], after: { event, purpose } });
}

async function answer(
  ctx: Ctx,
  contactPointId: string,
  channel: Channel,
  meaning: Reply,
  visit: MessagedVisit | null,
  clinic: { name: string; phone: string },
): Promise<void> {
  const language = visit?.language ?? 'en';
  await insertMessages(ctx.em, [
    {
      id: ctx.newId(),
      appointmentId: null,
      visitDate: null,
      contactPointId,
      channel,
      kind: 'reply',
      step: null,
      language,
      body: ANSWERS[language][meaning]({ clinic: clinic.name, phone: clinic.phone }),
      sendAt: ctx.now,
      notAfter: new Date(ctx.now.getTime() + ANSWER_LIVES_MS),
      droppedCode: null,
      createdAt: ctx.now,
      answersPatient: true,
    },
  ]);
}
