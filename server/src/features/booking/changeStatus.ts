import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf } from '@zaguan/contracts';
import type { cancelVisit as cancelContract, setStatus as statusContract } from '@zaguan/contracts/booking';
import { lockNames, planVisit } from '@zaguan/core/booking';
import { partsFor, withAccess } from '@zaguan/core/findTime';
import { ClinicIndex, ClinicStore, type SearchCriteria } from '@zaguan/core/openings';
import { type AppointmentStatus, type CancelReason, lengthOf, mayCancel, mayFollow } from '@zaguan/core/visits';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { followStatus } from '../bookingRequests/index.ts';
import { loadSnapshot } from '../openings/index.ts';
import { needsOfVisit } from '../people/index.ts';
import { planForCancelling, planForRestoring, planForSilentRestoring, planForStopping } from '../messages/index.ts';
import type { Appointment } from '../../schema/index.ts';
import { syncEncounter } from './encounter.repository.ts';
import { appointmentForUpdate, freeTime, overrideOf, updateAppointment } from './booking.repository.ts';
import { insertOccupancy, lockAll } from './booking.sql.ts';

/** A visit for the desk to change, locked; a refusal if it is another site's or someone was quicker. */
export async function openForDesk(
  ctx: Ctx,
  id: string,
  version: number,
  action: 'appointment.status' | 'appointment.cancel' | 'appointment.move',
): Promise<Appointment | Failure<'ChangedMeanwhile' | 'NotAllowed' | 'NotFound'>> {
  const visit = await appointmentForUpdate(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, action, visit.siteId)) return ctx.fail('NotAllowed', { facts: { action } });
  if (visit.version !== version)
    return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version, status: visit.status } });
  return visit;
}

/** Each status keeps the time it was reached; going back clears the times of what is undone. */
export function stamps(to: AppointmentStatus, now: Date): Partial<Appointment> {
  if (to === 'booked') return { arrivedAt: null, checkedInAt: null, fulfilledAt: null, noshowAt: null };
  if (to === 'arrived') return { arrivedAt: now, checkedInAt: null, fulfilledAt: null, noshowAt: null };
  if (to === 'checked-in') return { checkedInAt: now, fulfilledAt: null };
  if (to === 'fulfilled') return { fulfilledAt: now };
  return to === 'noshow' ? { noshowAt: now } : {};
}

export async function setStatus(
  ctx: Ctx,
  { id, to, version }: InputOf<typeof statusContract>,
): Promise<AnswerOf<typeof statusContract>> {
  const visit = await openForDesk(ctx, id, version, 'appointment.status');
  if (visit instanceof Failure) return visit;
  const from = visit.status;
  if (!mayFollow(from, to)) return ctx.fail('WrongStatus', { facts: { from, to } });
  // Checking in asks for identifiers and readiness; it is its own act.
  if (from === 'arrived' && to === 'checked-in') return ctx.fail('NeedsCheckIn');
  const changed = await updateAppointment(ctx.em, visit, { status: to, ...stamps(to, ctx.now) }, ctx.now);
  await followStatus(ctx, visit, to);
  if (from === 'checked-in' || to === 'checked-in') await syncEncounter(ctx.em, id, to, ctx.now);
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.wrote({ subjects: [{ kind: 'appointment', id }], before: { status: from }, after: { status: to } });
  const undo = await ctx.undoable({
    command: 'booking.setStatus',
    input: { id, to: from, version: changed.version },
    label: { what: 'status', to },
  });
  return { status: to, version: changed.version, undo };
}

/**
 * Cancels: the time is free at once, planned messages are withdrawn, the patient is told if they were told before.
 *
 * @param silent nobody is told
 */
export async function cancelAppointment(
  ctx: Ctx,
  visit: Appointment,
  {
    reason,
    note,
    declined = null,
    silent = false,
  }: { reason: CancelReason; note: string; declined?: string | null; silent?: boolean },
): Promise<{ version: number; undo: { id: string } } | Failure<'WrongStatus'>> {
  const from = visit.status;
  if (!mayCancel(from)) return ctx.fail('WrongStatus', { facts: { from, to: 'cancelled' } });
  await freeTime(ctx.em, visit.id);
  const changed = await updateAppointment(
    ctx.em,
    visit,
    {
      status: 'cancelled',
      cancelledAt: ctx.now,
      cancelReason: reason,
      cancelNote: note || null,
      ...(declined !== null && { approval: 'declined' as const }),
      icalSequence: visit.icalSequence + 1,
    },
    ctx.now,
  );
  await followStatus(ctx, visit, 'cancelled');
  if (silent) await planForStopping(ctx, visit.id);
  else await planForCancelling(ctx, visit.id, declined);
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  const subjects = [{ kind: 'appointment', id: visit.id }];
  ctx.wrote({ subjects, before: { status: from }, after: { status: 'cancelled', reason } });
  const input = { id: visit.id, to: from, version: changed.version };
  const undo = await ctx.undoable({ command: 'booking.restoreVisit', input, label: { what: 'cancel' } });
  return { version: changed.version, undo };
}

export async function cancelVisit(
  ctx: Ctx,
  { id, reason, note, version }: InputOf<typeof cancelContract>,
): Promise<AnswerOf<typeof cancelContract>> {
  const visit = await openForDesk(ctx, id, version, 'appointment.cancel');
  return visit instanceof Failure ? visit : cancelAppointment(ctx, visit, { reason, note });
}

/** A visit that is brought back may have begun already; its time having passed is no reason to refuse. */
const FORGIVEN = new Set(['past']);

/** The inverse of cancelling: takes the time again, by the desk's rules, if it is still free. */
export async function restoreVisit(
  ctx: Ctx,
  { id, to, version }: { id: string; to: AppointmentStatus; version: number },
): Promise<UndoAnswer> {
  const visit = await openForDesk(ctx, id, version, 'appointment.cancel');
  if (visit instanceof Failure) return visit;
  if (visit.status !== 'cancelled') return ctx.fail('WrongStatus', { facts: { from: visit.status, to } });
  const start = visit.startsAt.getTime() / 60_000;
  const { access } = await needsOfVisit(ctx.em, id);
  const look = async () => {
    const store = new ClinicStore(await loadSnapshot(ctx.em, { from: visit.siteDate, until: visit.siteDate }, ctx.now));
    return new ClinicIndex(withAccess(store, access), Math.min(nowMinute(ctx), start));
  };
  const before = await look();
  // As long as it was, where its type is shorter by now.
  const type = before.visitType(visit.visitTypeId);
  const minutes = (visit.endsAt.getTime() - visit.startsAt.getTime()) / 60_000;
  const criteria: SearchCriteria = {
    visitTypeId: visit.visitTypeId,
    parts: partsFor(type, visit.parts, Math.max(0, minutes - lengthOf(type))),
    kind: visit.patientKind,
    channel: 'desk',
    patientId: visit.patientId,
  };
  await lockAll(ctx.em, lockNames(before, criteria, visit.siteId, visit.providerId ?? null, visit.siteDate));
  // What it was booked against with a reason, it is again.
  const waived = visit.rulesWaived ?? [];
  const planned = planVisit(await look(), criteria, visit.siteId, visit.providerId ?? null, start, waived);
  if (!planned.ok) {
    const codes = planned.refused.map((answer) => answer.code).filter((code) => !FORGIVEN.has(code));
    return ctx.fail(codes.every((code) => code === 'busy') ? 'TimeTaken' : 'NotOffered', { codes });
  }
  const { plan } = planned;
  const instant = (minute: number) => new Date(minute * 60_000);
  await insertOccupancy(ctx.em, id, plan.occupancy, ctx.now, await overrideOf(ctx.em, visit));
  await updateAppointment(
    ctx.em,
    visit,
    {
      status: to,
      parts: criteria.parts ?? null,
      ...{ endsAt: instant(plan.end), providerStartsAt: instant(plan.providerStart) },
      providerEndsAt: instant(plan.providerEnd),
      cancelledAt: null,
      cancelReason: null,
      cancelNote: null,
      icalSequence: visit.icalSequence + 1,
    },
    ctx.now,
  );
  await followStatus(ctx, visit, to);
  if (visit.cancelReason === 'died') await planForSilentRestoring(ctx, id);
  else await planForRestoring(ctx, id);
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.wrote({ subjects: [{ kind: 'appointment', id }], before: { status: 'cancelled' }, after: { status: to } });
  return {};
}
