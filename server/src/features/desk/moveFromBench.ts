import type { InputOf } from '@zaguan/contracts';
import type { bookAtDesk as bookContract } from '@zaguan/contracts/desk';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { appointmentForUpdate, lockAll, moveVisit } from '../booking/index.ts';
import { shownVisits } from './bookedAgain.ts';
import { holdsOfFlow, unplacedForUpdate, unplacedRow } from './desk.repository.ts';
import { accountOf, giveBack } from './holdAtDesk.ts';
import { locksFor } from './plan.ts';
import { resolveVisits } from './resolve.ts';

/**
 * A visit on the Bench that kept its time gets the new one by being moved: its forms, messages and history stay with it.
 * That is an act of its own: it is not booked together with others. The visit is locked first, as by whoever else moves it.
 *
 * @returns `null` where nothing of the booking kept a time
 */
export async function moveFromBench(
  ctx: Ctx,
  { flowId, visits }: InputOf<typeof bookContract>,
): Promise<AnswerOf<typeof bookContract> | null> {
  for (const [i, { unplacedId }] of visits.entries()) {
    const seen = unplacedId === null ? null : await unplacedRow(ctx.em, unplacedId);
    if (!seen?.appointmentId) continue;
    if (visits.length > 1)
      return ctx.fail('InvalidInput', { issues: [{ path: `visits.${i}.unplacedId`, code: 'moves-alone' }] });
    const appointment = await appointmentForUpdate(ctx.em, seen.appointmentId);
    const unplaced = await unplacedForUpdate(ctx.em, seen.id);
    const [visit] = visits;
    if (!appointment || !unplaced || unplaced.patientId !== visit.patientId) return ctx.fail('NotFound');
    if (unplaced.endedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: unplaced.version } });
    // As the hold of the same booking does, which may be on its way: else it would take the time between these lines.
    const asked = await resolveVisits(ctx, visits, 'appointment.book', { keep: false });
    if (asked instanceof Failure) return asked;
    await lockAll(ctx.em, [`flow:${flowId}`, ...(await locksFor(ctx, asked))]);
    await giveBack(ctx, await holdsOfFlow(ctx.em, flowId, accountOf(ctx)));
    const { siteId, start, providerId } = visit;
    const moved = await moveVisit(ctx, {
      id: appointment.id as never,
      ...{ siteId, start, providerId, version: appointment.version },
    });
    if (moved instanceof Failure) return moved;
    return { visits: await shownVisits(ctx, [appointment.id]), undo: moved.undo };
  }
  return null;
}
