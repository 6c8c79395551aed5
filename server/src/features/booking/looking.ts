import type { InputOf } from '@zaguan/contracts';
import type { lookAtVisit as lookContract } from '@zaguan/contracts/booking';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { appointmentRow, endLooking } from './booking.repository.ts';
import { lookAt } from './looking.sql.ts';

/** Who else has this visit open: two people at one visit know of each other before they change it. */
export async function lookAtVisit(
  ctx: Ctx,
  { id, left }: InputOf<typeof lookContract>,
): Promise<AnswerOf<typeof lookContract>> {
  const visit = await appointmentRow(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (ctx.actor.kind !== 'staff' || !coversSite(ctx, 'daybook.view', visit.siteId)) return ctx.fail('NotAllowed');
  const { accountId } = ctx.actor;
  if (!left) return { others: await lookAt(ctx.em, id, accountId) };
  await endLooking(ctx.em, id, accountId);
  return { others: [] };
}
