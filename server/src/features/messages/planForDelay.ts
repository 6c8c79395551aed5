import type { Ctx } from '../../platform/endpoint/context.ts';
import { compose, linkOfVisit, openTo, reach, required } from './compose.ts';
import { insertMessages } from './messages.repository.ts';
import { messagesSoFar, withdrawDelays } from './messages.sql.ts';

/**
 * The provider is so far behind: the patient is told when the visit will start, instead of what was to be told of it
 * before and has not gone out.
 *
 * @returns whether a message goes out; who gets none must be called
 */
export async function planForDelay(ctx: Ctx, appointmentId: string, delayMin: number): Promise<boolean> {
  const visit = await required(ctx, appointmentId);
  await withdrawDelays(ctx.em, appointmentId, ctx.now);
  // Nobody agreed to messages about a visit that never had any.
  const { anyPlanned } = await messagesSoFar(ctx.em, appointmentId);
  const contactPointId = anyPlanned ? openTo(await reach(ctx, visit)) : null;
  if (!contactPointId) return false;
  await linkOfVisit(ctx, visit);
  const notAfter = new Date(visit.startsAt.getTime() + delayMin * 60_000);
  await insertMessages(ctx.em, [compose(ctx, visit, contactPointId, 'delay', { delayMin, notAfter })]);
  return true;
}

/**
 * The provider has caught up: who was told to come later hears that the booked time holds again.
 *
 * @returns whether a message goes out
 */
export async function planForOnTime(ctx: Ctx, appointmentId: string): Promise<boolean> {
  const toldLast = await withdrawDelays(ctx.em, appointmentId, ctx.now);
  if (toldLast !== 'delay') return false;
  const visit = await required(ctx, appointmentId);
  const contactPointId = openTo(await reach(ctx, visit));
  if (!contactPointId) return false;
  await linkOfVisit(ctx, visit);
  await insertMessages(ctx.em, [compose(ctx, visit, contactPointId, 'on-time')]);
  return true;
}
