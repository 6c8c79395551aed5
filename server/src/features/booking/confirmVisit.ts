import type { InputOf } from '@zaguan/contracts';
import type { confirmVisit as contract } from '@zaguan/contracts/booking';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { updateAppointment } from './booking.repository.ts';
import { openForDesk } from './changeStatus.ts';

/** The patient has told the desk that they come, or that was noted by mistake. */
export async function confirmVisit(
  ctx: Ctx,
  { id, confirmed, version }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const visit = await openForDesk(ctx, id, version, 'appointment.status');
  if (visit instanceof Failure) return visit;
  if (visit.status !== 'booked' || visit.endsAt <= ctx.now) return ctx.fail('WrongStatus');
  const before = visit.confirmedAt !== null;
  const changed = await updateAppointment(ctx.em, visit, { confirmedAt: confirmed ? ctx.now : null }, ctx.now);
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.wrote({ subjects: [{ kind: 'appointment', id }], before: { confirmed: before }, after: { confirmed } });
  const undo = await ctx.undoable({
    command: 'booking.confirmVisit',
    input: { id, confirmed: before, version: changed.version },
    label: { what: 'confirmed' },
  });
  return { confirmed, version: changed.version, undo };
}
