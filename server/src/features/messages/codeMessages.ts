import { channelOf } from '@zaguan/core/messages';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { clinicRow } from '../clinic/index.ts';
import { insertMessages, writeLedger } from './messages.repository.ts';
import { reachOf } from './messages.sql.ts';
import { CODE_MAIL } from './words.mail.ts';
import { CODE_WORDS, type Language } from './words.ts';

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
