import type { AppointmentStatus } from '@zaguan/core/visits';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Appointment, BookingRequest } from '../../schema/index.ts';
import {
  endUnplacedOf,
  openRequestsMetBy,
  reopenUnplacedOf,
  requestOfVisit,
  updateRequest,
} from './requests.repository.ts';

export const REOPENED = { state: 'open', appointmentId: null, endedAt: null, withdrawnBecause: null } as const;

/** Tells the audit, and whoever has the list open, that a request is in another state. */
export function noteState(ctx: Ctx, { id, state, patientId }: BookingRequest, to: BookingRequest['state']): void {
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'booking-request', id },
      { kind: 'patient', id: patientId },
    ],
    before: { state },
    after: { state: to },
  });
}

/**
 * What a visit's new status does to what asked for it: completed, its request is completed, and so is every open one of
 * its patient that it meets; canceled or missed, the request is open again; set back, it is booked again.
 */
export async function followStatus(ctx: Ctx, visit: Appointment, to: AppointmentStatus): Promise<void> {
  if (!visit.patientId) return;
  if (to === 'cancelled') await endUnplacedOf(ctx.em, visit.id, 'withdrawn', ctx.now);
  // Brought back, it waits on the Bench again if it did when it was canceled.
  else if (visit.status === 'cancelled' && visit.cancelledAt)
    await reopenUnplacedOf(ctx.em, visit.id, visit.cancelledAt);
  const own = await requestOfVisit(ctx.em, visit.id);
  for (const request of own) await setState(ctx, request, stateFor(to), visit.id);
  if (to !== 'fulfilled') return;
  const met = await openRequestsMetBy(ctx.em, { ...visit, patientId: visit.patientId });
  for (const request of met) await setState(ctx, request, 'completed', visit.id);
}

/** A visit that was moved has its new time: it waits for none any more. */
export async function followMove(ctx: Ctx, appointmentId: string): Promise<void> {
  if (await endUnplacedOf(ctx.em, appointmentId, 'booked', ctx.now)) ctx.emit({ type: 'work-changed' });
}

function stateFor(status: AppointmentStatus): 'open' | 'booked' | 'completed' {
  if (status === 'fulfilled') return 'completed';
  return status === 'cancelled' || status === 'noshow' || status === 'entered-in-error' ? 'open' : 'booked';
}

async function setState(
  ctx: Ctx,
  request: BookingRequest,
  to: 'open' | 'booked' | 'completed',
  appointmentId: string,
): Promise<void> {
  if (request.state === to) return;
  // Open again it keeps the visit it had: set back, that one is its own once more.
  await updateRequest(ctx.em, request, {
    state: to,
    appointmentId,
    endedAt: to === 'completed' ? ctx.now : null,
  });
  noteState(ctx, request, to);
}
