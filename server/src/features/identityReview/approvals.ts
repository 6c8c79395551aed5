import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type { approveRequest, declineRequest, listApprovals } from '@zaguan/contracts/identityReview';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import {
  type Appointment,
  appointmentForUpdate,
  cancelAppointment,
  restoreVisit,
  updateAppointment,
} from '../booking/index.ts';
import { planForApproving, planForUnapproving } from '../messages/index.ts';
import { approvalRows } from './identityReview.sql.ts';

/** Self-bookings that wait until the clinic agrees; their time is kept meanwhile. */
export async function listRequests(
  ctx: Ctx,
  _input: InputOf<typeof listApprovals>,
): Promise<OutputOf<typeof listApprovals>> {
  const rows = await approvalRows(ctx.em);
  ctx.viewed(rows.flatMap(({ patientId }) => patientId ?? []));
  return {
    requests: rows.map((row) => ({
      appointmentId: row.id,
      version: row.version,
      siteName: row.site,
      timeZone: row.timeZone,
      date: row.siteDate,
      start: new Date(row.startsAt).toISOString(),
      passed: new Date(row.startsAt) <= ctx.now,
      visitType: row.visitType,
      provider: row.provider,
      kind: row.patientKind,
      name: row.name,
      known: row.identity === 'sure',
      reason: row.reason,
      bookedAt: new Date(row.bookedAt).toISOString(),
    })),
    unreadable: [],
  };
}

/** The request to decide on, kept from a second decision at the same time. */
async function open(
  ctx: Ctx,
  id: string,
  version: number,
): Promise<Appointment | Failure<'ChangedMeanwhile' | 'DecidedAlready' | 'NotFound'>> {
  const visit = await appointmentForUpdate(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (visit.approval !== 'waiting' || visit.status !== 'pending') return ctx.fail('DecidedAlready');
  return visit.version === version ? visit : ctx.fail('ChangedMeanwhile', { facts: { version: visit.version } });
}

function tell(ctx: Ctx, visit: Appointment, approval: string): void {
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: [{ kind: 'appointment', id: visit.id }],
    before: { approval: visit.approval },
    after: { approval },
  });
}

/** The time is the patient's: they are told, and reminded like anybody. */
export async function approve(
  ctx: Ctx,
  { id, version }: InputOf<typeof approveRequest>,
): Promise<AnswerOf<typeof approveRequest>> {
  const visit = await open(ctx, id, version);
  if (visit instanceof Failure) return visit;
  tell(ctx, visit, 'approved');
  const changed = await updateAppointment(ctx.em, visit, { status: 'booked', approval: 'approved' }, ctx.now);
  await planForApproving(ctx, id);
  const input = { id, version: changed.version };
  return { undo: await ctx.undoable({ command: 'identityReview.unapprove', input, label: { what: 'approved' } }) };
}

/** The patient hears why, in the clinic's own words, and the time is free. */
export async function decline(
  ctx: Ctx,
  { id, version, words }: InputOf<typeof declineRequest>,
): Promise<AnswerOf<typeof declineRequest>> {
  const visit = await open(ctx, id, version);
  if (visit instanceof Failure) return visit;
  const declined = await cancelAppointment(ctx, visit, { reason: 'declined', note: words, declined: words });
  if (declined instanceof Failure) return declined;
  ctx.emit({ type: 'work-changed' });
  const input = { id, version: declined.version };
  return { undo: await ctx.undoable({ command: 'identityReview.undecline', input, label: { what: 'declined' } }) };
}

type Decided = { readonly id: string; readonly version: number };

/** The inverse of approving: it waits again. */
export async function unapprove(ctx: Ctx, { id, version }: Decided): Promise<UndoAnswer> {
  const visit = await appointmentForUpdate(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (visit.version !== version || visit.status !== 'booked')
    return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version } });
  tell(ctx, visit, 'waiting');
  await updateAppointment(ctx.em, visit, { status: 'pending', approval: 'waiting', confirmedAt: null }, ctx.now);
  await planForUnapproving(ctx, id);
  return {};
}

/** The inverse of declining: it takes its time again if that is still free, and waits. */
export async function undecline(ctx: Ctx, { id, version }: Decided): Promise<UndoAnswer> {
  const visit = await appointmentForUpdate(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (visit.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version } });
  // First: whoever is told of it now is told that it waits.
  const changed = await updateAppointment(ctx.em, visit, { approval: 'waiting' }, ctx.now);
  ctx.emit({ type: 'work-changed' });
  return restoreVisit(ctx, { id, to: 'pending', version: changed.version });
}
