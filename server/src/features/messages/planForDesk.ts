import type { Ctx } from '../../platform/endpoint/context.ts';
import { compose, linkOfVisit, openTo, reach, reminders, required } from './compose.ts';
import { insertMessages, remindersToCome } from './messages.repository.ts';
import { hasOptedOut, messagesSoFar } from './messages.sql.ts';
import type { Language } from './words.ts';

/** What somebody is told of a visit booked at the desk. */
export interface Told {
  readonly contact: string;
  readonly language: Language;
  /** Reminders that are planned. */
  readonly reminders: number;
}

/**
 * In the transaction of a booking at the desk: the same messages, to the first way to reach the patient that is on record.
 * Nobody agrees to anything by it: what the number's ledger says holds.
 *
 * @returns what they are told; `null` where nothing can be sent
 */
export async function planForDeskBooking(ctx: Ctx, appointmentId: string): Promise<Told | null> {
  const visit = await required(ctx, appointmentId);
  const to = await reach(ctx, visit);
  await linkOfVisit(ctx, visit);
  const contactPointId = openTo(to);
  const planned = reminders(ctx, visit, to);
  await insertMessages(ctx.em, [
    ...(contactPointId ? [compose(ctx, visit, contactPointId, 'confirmation')] : []),
    ...planned,
  ]);
  if (!contactPointId || visit.contact === null) return null;
  const coming = planned.filter(({ droppedCode }) => droppedCode === null).length;
  return { contact: visit.contact, language: visit.language, reminders: coming };
}

/** The confirmation of a visit once more, to where its messages go; `null`: nowhere. */
export async function confirmOnceMore(ctx: Ctx, appointmentId: string): Promise<Told | null> {
  const visit = await required(ctx, appointmentId);
  const to = openTo(await reach(ctx, visit));
  if (!to || visit.contact === null) return null;
  await linkOfVisit(ctx, visit);
  await insertMessages(ctx.em, [compose(ctx, visit, to, 'confirmation')]);
  return toldAbout(ctx, appointmentId);
}

/** What somebody is told of a visit that was booked before. */
export async function toldAbout(ctx: Ctx, appointmentId: string): Promise<Told | null> {
  const visit = await required(ctx, appointmentId);
  if (visit.contact === null || (await hasOptedOut(ctx.em, visit.contact))) return null;
  const reminders = await remindersToCome(ctx.em, appointmentId);
  return { contact: visit.contact, language: visit.language, reminders };
}

/** Whether anything about a visit has gone out already. */
export const wasTold = async (ctx: Ctx, appointmentId: string) => (await messagesSoFar(ctx.em, appointmentId)).anySent;
