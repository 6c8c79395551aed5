import type { AppointmentStatus } from '@zaguan/core/visits';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { coversSite } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { noteState, REOPENED, requestForUpdate, updateRequest } from '../bookingRequests/index.ts';
import { appointmentsForUpdate, cancelAppointment, restoreVisit } from '../booking/index.ts';
import { wasTold } from '../messages/index.ts';
import { backToBench, endUnplaced } from './bench.ts';
import { setWishEnded, unplacedForUpdate } from './desk.repository.ts';

interface Booked {
  readonly visits: readonly { readonly id: string; readonly version: number }[];
  readonly requests: readonly string[];
  readonly placed: readonly string[];
  readonly added: readonly string[];
  readonly wishes: readonly string[];
}

/**
 * The inverse of booking at the desk: its visits are canceled, all or none; requests are open again, and what lay on the
 * Bench lies there again. Who was told already hears of it; else nobody does.
 */
export async function takeBack(ctx: Ctx, booked: Booked): Promise<UndoAnswer> {
  const visits = await appointmentsForUpdate(
    ctx.em,
    booked.visits.map(({ id }) => id),
  );
  for (const { id, version } of booked.visits) {
    const visit = visits.find((each) => each.id === id);
    if (!visit) return ctx.fail('NotFound');
    if (!coversSite(ctx, 'appointment.book', visit.siteId)) return ctx.fail('NotAllowed');
    if (visit.version !== version)
      return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version, status: visit.status } });
  }
  for (const id of booked.wishes) await setWishEnded(ctx.em, id, ctx.now);
  for (const id of booked.requests) {
    const request = await requestForUpdate(ctx.em, id);
    if (request?.state !== 'booked') return ctx.fail('ChangedMeanwhile');
    await updateRequest(ctx.em, request, REOPENED);
    noteState(ctx, request, 'open');
  }
  for (const visit of visits) {
    const silent = !(await wasTold(ctx, visit.id));
    const gone = await cancelAppointment(ctx, visit, { reason: 'booked-wrongly', note: '', silent });
    if (gone instanceof Failure) return gone;
  }
  for (const id of booked.placed) {
    const back = await backToBench(ctx, { id, version: null });
    if (back instanceof Failure) return back;
  }
  for (const id of booked.added) {
    const row = await unplacedForUpdate(ctx.em, id);
    if (!row || row.endedAt !== null) return ctx.fail('ChangedMeanwhile');
    await endUnplaced(ctx, row, 'withdrawn');
  }
  return {};
}

/** The inverse of putting a visit onto the Bench; one whose time was freed has it again, if it is still free. */
export async function takeOffBench(
  ctx: Ctx,
  { id, restore }: { id: string; restore: { id: string; to: AppointmentStatus; version: number } | null },
): Promise<UndoAnswer> {
  const row = await unplacedForUpdate(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.endedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  await endUnplaced(ctx, row, 'withdrawn');
  return restore ? restoreVisit(ctx, restore) : {};
}
