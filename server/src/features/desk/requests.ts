import type { InputOf } from '@zaguan/contracts';
import type {
  askRequest as askContract,
  requests as listContract,
  withdrawRequest as withdrawContract,
} from '@zaguan/contracts/desk';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { BookingRequest } from '../../schema/index.ts';
import { insertRequest, noteState, REOPENED, requestForUpdate, updateRequest } from '../bookingRequests/index.ts';
import { accountOf } from './holdAtDesk.ts';
import { areKnown } from './known.ts';
import { bookablePatients } from './resolve.ts';
import { requestsToShow } from './rows.ts';

/** Asks that a patient be booked. */
export async function askRequest(ctx: Ctx, input: InputOf<typeof askContract>): Promise<AnswerOf<typeof askContract>> {
  const patients = await bookablePatients(ctx, [input.patientId], { keep: true });
  if (patients instanceof Failure) return patients;
  if (!(await areKnown(ctx, [input]))) return ctx.fail('NotFound');
  const id = ctx.newId();
  await insertRequest(ctx.em, { id, ...input, state: 'open', askedBy: accountOf(ctx), askedAt: ctx.now });
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'booking-request', id },
      { kind: 'patient', id: input.patientId },
    ],
    after: { state: 'open', dueDate: input.dueDate, urgency: input.urgency, visitTypeId: input.visitTypeId },
  });
  return {
    id,
    undo: await ctx.undoable({
      command: 'desk.takeBackRequest',
      input: { id, version: 1 },
      label: { what: 'request' },
    }),
  };
}

export async function listRequests(
  ctx: Ctx,
  { booked }: InputOf<typeof listContract>,
): Promise<AnswerOf<typeof listContract>> {
  const states = booked === 'yes' ? (['open', 'booked'] as const) : (['open'] as const);
  const rows = await requestsToShow(ctx, { states });
  return { requests: rows, unreadable: [] };
}

/** Ends a request without a visit. */
export async function withdrawRequest(
  ctx: Ctx,
  { id, because, version }: InputOf<typeof withdrawContract>,
): Promise<AnswerOf<typeof withdrawContract>> {
  const request = await requestForUpdate(ctx.em, id);
  if (!request) return ctx.fail('NotFound');
  const patients = await bookablePatients(ctx, [request.patientId], { keep: false });
  if (patients instanceof Failure && patients.tag === 'NotAllowed') return ctx.fail('NotAllowed');
  if (request.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: request.version } });
  if (request.state !== 'open') return ctx.fail('WrongStatus', { facts: { from: request.state, to: 'withdrawn' } });
  const next = await updateRequest(ctx.em, request, {
    state: 'withdrawn',
    endedAt: ctx.now,
    withdrawnBecause: because,
  });
  noteState(ctx, request, 'withdrawn');
  const undo = await ctx.undoable({
    command: 'desk.reopenRequest',
    input: { id, version: next },
    label: { what: 'request-withdrawn' },
  });
  return { undo };
}

/** Inverse of withdrawing. */
export async function reopenRequest(ctx: Ctx, { id, version }: { id: string; version: number }): Promise<UndoAnswer> {
  const request = await requestForUpdate(ctx.em, id);
  if (!request) return ctx.fail('NotFound');
  if (request.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: request.version } });
  await updateRequest(ctx.em, request, REOPENED);
  noteState(ctx, request, 'open');
  return {};
}

/** Inverse of asking. */
export async function takeBackRequest(ctx: Ctx, { id, version }: { id: string; version: number }): Promise<UndoAnswer> {
  const request = await requestForUpdate(ctx.em, id);
  if (!request) return ctx.fail('NotFound');
  if (request.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: request.version } });
  await updateRequest(ctx.em, request, { state: 'withdrawn', endedAt: ctx.now, withdrawnBecause: 'undo' });
  noteState(ctx, request, 'withdrawn');
  return {};
}

/** A request that can be booked now; a refusal if it was booked or ended meanwhile, or is somebody else's. */
export async function openRequest(
  ctx: Ctx,
  id: string,
  patientId: string,
): Promise<BookingRequest | Failure<'NotFound' | 'ChangedMeanwhile'>> {
  const request = await requestForUpdate(ctx.em, id);
  if (!request || request.patientId !== patientId) return ctx.fail('NotFound');
  if (request.state !== 'open')
    return ctx.fail('ChangedMeanwhile', { facts: { version: request.version, state: request.state } });
  return request;
}

export async function bookRequest(ctx: Ctx, request: BookingRequest, appointmentId: string): Promise<void> {
  await updateRequest(ctx.em, request, { state: 'booked', appointmentId });
  noteState(ctx, request, 'booked');
}
