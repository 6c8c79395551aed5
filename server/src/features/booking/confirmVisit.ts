import type { InputOf } from '@zaguan/contracts';
import type { confirmVisit as contract } from '@zaguan/contracts/booking';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { Appointment } from '../../schema/index.ts';
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
  const changed = await putConfirmed(ctx, visit, confirmed ? ctx.now : null);
  const undo = await ctx.undoable({
    command: 'booking.putConfirmed',
    input: { id, confirmedAt: visit.confirmedAt?.toISOString() ?? null, version: changed.version },
    label: { what: 'confirmed' },
  });
  return { confirmed, version: changed.version, undo };
}

/** As it was before, with the moment at which the patient had confirmed. */
export async function restoreConfirmed(
  ctx: Ctx,
  { id, confirmedAt, version }: { id: string; confirmedAt: string | null; version: number },
): Promise<UndoAnswer> {
  const visit = await openForDesk(ctx, id, version, 'appointment.status');
  if (visit instanceof Failure) return visit;
  await putConfirmed(ctx, visit, confirmedAt === null ? null : new Date(confirmedAt));
  return {};
}

async function putConfirmed(ctx: Ctx, visit: Appointment, confirmedAt: Date | null): Promise<Appointment> {
  const changed = await updateAppointment(ctx.em, visit, { confirmedAt }, ctx.now);
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.wrote({
    subjects: [{ kind: 'appointment', id: visit.id }],
    before: { confirmed: visit.confirmedAt !== null },
    after: { confirmed: confirmedAt !== null },
  });
  return changed;
}
