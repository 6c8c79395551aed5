import { planReminders, USUAL_QUIET, USUAL_STEPS } from '@zaguan/core/reminders';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { ensureLink } from '../linkTokens/index.ts';
import {
  contactPoint,
  insertMessage,
  isOptedOut,
  type MessagedVisit,
  messagedVisit,
  withdrawPlanned,
  writeLedger,
} from './messages.repository.ts';
import { CODE_WORDS, type Language, writeMessage } from './words.ts';
import { clinicRow } from '../clinic/index.ts';

const CONSENT_WORDING = 'By booking you agree to text messages about this visit. Reply STOP to end them.';

/** In the booking's transaction: the confirmation at once, and every reminder planned or dropped with its rule. */
export async function planForBooking(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const contactPointId = visit.phone ? await contactPoint(ctx.em, ctx.newId(), visit.phone) : null;
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (contactPointId && !(await isOptedOut(ctx.em, contactPointId))) {
    await writeLedger(ctx.em, {
      id: ctx.newId(),
      contactPointId,
      event: 'consented',
      wording: CONSENT_WORDING,
      how: 'self-booking',
      at: ctx.now,
    });
    await write(ctx, visit, contactPointId, 'confirmation');
  }
  await planSteps(ctx, visit, contactPointId);
}

/** What is planned is withdrawn; what was sent is corrected by a message. */
export async function planForCancelling(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const { anySent } = await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  const contactPointId = visit.phone ? await contactPoint(ctx.em, ctx.newId(), visit.phone) : null;
  if (anySent && contactPointId && visit.startsAt > ctx.now && !(await isOptedOut(ctx.em, contactPointId)))
    await write(ctx, visit, contactPointId, 'cancellation');
}

/** A cancelling taken back: planned again, and corrected if the patient was told. */
export async function planForRestoring(ctx: Ctx, appointmentId: string): Promise<void> {
  const visit = await required(ctx, appointmentId);
  const { anyPlanned, anySent } = await withdrawPlanned(ctx.em, appointmentId, ctx.now);
  // Nobody agreed to messages about a visit that never had any.
  if (!anyPlanned) return;
  const contactPointId = visit.phone ? await contactPoint(ctx.em, ctx.newId(), visit.phone) : null;
  await ensureLink(ctx.em, visit, ctx.newId(), ctx.linkSecret);
  if (anySent && contactPointId && visit.startsAt > ctx.now && !(await isOptedOut(ctx.em, contactPointId)))
    await write(ctx, visit, contactPointId, 'restored');
  await planSteps(ctx, visit, contactPointId);
}

async function required(ctx: Ctx, appointmentId: string): Promise<MessagedVisit> {
  const visit = await messagedVisit(ctx.em, appointmentId);
  if (!visit) throw new Error('A message is planned for a visit in the same transaction.');
  return visit;
}

async function write(
  ctx: Ctx,
  visit: MessagedVisit,
  contactPointId: string,
  kind: 'confirmation' | 'cancellation' | 'restored',
): Promise<void> {
  await insertMessage(ctx.em, {
    id: ctx.newId(),
    appointmentId: visit.id,
    contactPointId,
    kind,
    step: null,
    language: visit.language,
    body: writeMessage(kind, visit.language, visit),
    sendAt: ctx.now,
    notAfter: visit.endsAt,
    droppedCode: null,
    createdAt: ctx.now,
  });
}

async function planSteps(ctx: Ctx, visit: MessagedVisit, contactPointId: string | null): Promise<void> {
  const now = nowMinute(ctx);
  const planned = planReminders(USUAL_STEPS, {
    now,
    start: visit.startsAt.getTime() / 60_000,
    siteZone: visit.timeZone,
    zones: [visit.timeZone],
    quiet: USUAL_QUIET,
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
      kind: 'reminder',
      step: each.step,
      language: visit.language,
      body: writeMessage('reminder', visit.language, visit),
      sendAt: new Date(at * 60_000),
      notAfter: visit.startsAt,
      droppedCode: each.outcome === 'dropped' ? each.code : null,
      createdAt: ctx.now,
    });
  }
}

/** A code goes out at once, also in quiet time and to a number that said stop: it was asked for a moment ago. */
export async function sendCodeMessage(
  ctx: Ctx,
  code: { phone: string; language: Language; verificationId: string; livesMs: number },
): Promise<void> {
  const { name } = await clinicRow(ctx.em);
  await insertMessage(ctx.em, {
    id: ctx.newId(),
    appointmentId: null,
    contactPointId: await contactPoint(ctx.em, ctx.newId(), code.phone),
    kind: 'code',
    step: null,
    language: code.language,
    body: CODE_WORDS[code.language](name),
    sendAt: ctx.now,
    notAfter: new Date(ctx.now.getTime() + code.livesMs),
    droppedCode: null,
    createdAt: ctx.now,
    verificationId: code.verificationId,
  });
}

/** The ledger's entry that someone at this number could read a code. */
export async function noteVerified(ctx: Ctx, phone: string): Promise<void> {
  const contactPointId = await contactPoint(ctx.em, ctx.newId(), phone);
  await writeLedger(ctx.em, {
    id: ctx.newId(),
    contactPointId,
    event: 'verified',
    wording: 'A code by text message.',
    how: 'code',
    at: ctx.now,
  });
}
