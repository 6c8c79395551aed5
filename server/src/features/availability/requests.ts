import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type * as contract from '@zaguan/contracts/availability';
import type { VisitToMove } from '@zaguan/core/impact';
import type { ScheduleEdit } from '@zaguan/core/schedule';
import { type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { refused, toImpactVisits } from './edits.ts';
import { evaluateEdits } from './computeImpact.ts';
import {
  deleteRequest,
  insertRequest,
  requestForUpdate,
  type RequestRow,
  requestsOf,
  setDecided,
} from './requests.repository.ts';
import { mayEdit } from './rights.ts';
import { writeChanges } from './schedule.repository.ts';
import { lockSchedule } from './schedule.sql.ts';
import { addVisitsToMove, removeFittingAgain } from './visitsToMove.repository.ts';

function toEdit(row: Omit<RequestRow, 'name'>, coverId = row.coverId): ScheduleEdit {
  return {
    do: 'time-off',
    resourceIds: [row.resourceId],
    siteId: row.siteId,
    reason: row.reason,
    coverId,
    startDate: row.startDate,
    startMinute: row.startMinute,
    endDate: row.endDate,
    endMinute: row.endMinute,
  };
}

export async function ask(
  ctx: Ctx,
  input: InputOf<typeof contract.requestTimeOff>,
): Promise<AnswerOf<typeof contract.requestTimeOff>> {
  if (ctx.actor.kind !== 'staff' || !ctx.actor.resourceId) return ctx.fail('NotAllowed');
  const { plan } = await clinicToday(ctx);
  const cover = input.coverId ?? null;
  const own = ctx.actor.resourceId;
  if (cover === own) return refused(ctx, [{ code: 'covers-themselves', edit: 0, facts: { resourceId: own } }]);
  const known = (rows: readonly { id: string }[], named: string | null) =>
    named === null || rows.some((row) => row.id === named);
  if (!known(plan.sites, input.siteId) || !known(plan.resources, cover)) return ctx.fail('NotFound');
  const id = ctx.newId();
  await insertRequest(ctx.em, {
    id,
    resourceId: own,
    siteId: input.siteId,
    startDate: input.startDate,
    startMinute: input.startMinute,
    endDate: input.endDate,
    endMinute: input.endMinute,
    reason: input.reason,
    coverId: cover,
    at: ctx.now,
    accountId: ctx.actor.accountId,
  });
  ctx.emit({ type: 'hours-changed' });
  ctx.wrote({ subjects: [{ kind: 'resource', id: own }], after: { asked: id } });
  return {
    id: id as OutputOf<typeof contract.requestTimeOff>['id'],
    undo: await ctx.undoable({ command: 'availability.withdrawRequest', input: { id }, label: { what: 'requested' } }),
  };
}

/** The inverse of asking, as long as nobody has decided. */
export async function withdraw(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  if (!(await deleteRequest(ctx.em, id))) return ctx.fail('DecidedAlready');
  ctx.emit({ type: 'hours-changed' });
  return {};
}

export async function list(
  ctx: Ctx,
  _input: InputOf<typeof contract.listTimeOffRequests>,
): Promise<OutputOf<typeof contract.listTimeOffRequests>> {
  const decides = (await mayEdit(ctx)) === 'all';
  const own = ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null;
  if (!decides && !own) return { requests: [] };
  const rows = await requestsOf(ctx.em, decides ? null : own, earliestDate(ctx));
  const requests = [];
  for (const row of rows) {
    const visitsToMove = decides ? await visitsToMoveIf(ctx, row) : [];
    requests.push({
      id: row.id,
      resourceId: row.resourceId,
      name: row.name,
      siteId: row.siteId,
      startDate: row.startDate,
      startMinute: row.startMinute,
      endDate: row.endDate,
      endMinute: row.endMinute,
      reason: row.reason,
      coverId: row.coverId,
      status: row.status,
      requestedAt: (row.requestedAt ?? ctx.now).toISOString(),
      answer: row.answer,
      visitsToMove: await toImpactVisits(ctx, visitsToMove),
    });
  }
  return { requests };
}

/** The visits that would have to move if it is approved: with the cover that is suggested, or without where that one can't. */
async function visitsToMoveIf(ctx: Ctx, row: RequestRow): Promise<readonly VisitToMove[]> {
  for (const oneEdit of [toEdit(row), toEdit(row, null)]) {
    const judged = await evaluateEdits(ctx, [oneEdit], { placesOnDates: 0 });
    if (!(judged instanceof Failure) && judged.impact) return judged.impact.visitsToMove;
  }
  return [];
}

function clinicToday(ctx: Ctx) {
  const date = earliestDate(ctx);
  return ctx.clinic({ from: date, until: date });
}

export async function decide(
  ctx: Ctx,
  { id, approve, answer, coverId, agreed }: InputOf<typeof contract.decideTimeOff>,
): Promise<AnswerOf<typeof contract.decideTimeOff>> {
  if ((await mayEdit(ctx)) !== 'all' || ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  await lockSchedule(ctx.em);
  const request = await requestForUpdate(ctx.em, id);
  if (!request) return ctx.fail('NotFound');
  if (request.status !== 'requested') return ctx.fail('DecidedAlready');
  // Who would have covered stays as it was suggested where the answer is no.
  const cover = coverId === undefined || !approve ? request.coverId : coverId;
  const judged = approve ? await evaluateEdits(ctx, [toEdit(request, cover)], { placesOnDates: 0 }) : null;
  if (judged instanceof Failure) return judged;
  if (judged?.resolved.faults.length) return refused(ctx, judged.resolved.faults);
  const visitsToMove = judged?.impact?.visitsToMove.map(({ visit }) => visit.id) ?? [];
  if (visitsToMove.length && !agreed)
    return ctx.fail('AgreementNeeded', { codes: ['visits-to-move'], facts: { visits: visitsToMove.length } });
  const { accountId } = ctx.actor;
  const status = approve ? 'approved' : 'declined';
  await setDecided(ctx.em, id, 'requested', { status, at: ctx.now, accountId, answer, coverId: cover });
  // The time off itself is the request's row; what else the edit makes are the cover's hours.
  const dateChanges = judged?.resolved.changes.dateChanges;
  if (dateChanges) await writeChanges(ctx.em, { dateChanges }, { at: ctx.now, accountId, restores: false });
  await addVisitsToMove(ctx.em, visitsToMove, { at: ctx.now, accountId });
  ctx.emit({ type: 'hours-changed' });
  if (visitsToMove.length) ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind: 'resource', id: request.resourceId }], after: { request: id, approved: approve } });
  return {
    toMove: visitsToMove.length,
    undo: await ctx.undoable({
      command: 'availability.undecide',
      input: {
        id,
        from: status,
        visitsToMove,
        suggested: request.coverId,
        hours: dateChanges?.put.map((row) => row.id) ?? [],
      },
      label: { what: 'request-decided' },
    }),
  };
}

/** The inverse of a decision: the request is open again, and its visits are off the list. */
export async function undecide(
  ctx: Ctx,
  {
    id,
    from,
    visitsToMove,
    suggested = null,
    hours = [],
  }: {
    id: string;
    from: 'approved' | 'declined';
    visitsToMove: string[];
    suggested?: string | null;
    hours?: string[];
  },
): Promise<UndoAnswer> {
  await lockSchedule(ctx.em);
  const open = { status: 'requested' as const, at: null, accountId: null, answer: '', coverId: suggested };
  if (!(await setDecided(ctx.em, id, from, open))) return ctx.fail('ChangedMeanwhile');
  const changes = { dateChanges: { put: [], drop: hours } };
  await writeChanges(ctx.em, changes, { at: ctx.now, accountId: null, restores: true });
  await removeFittingAgain(ctx.em, visitsToMove);
  ctx.emit({ type: 'hours-changed' });
  if (visitsToMove.length) ctx.emit({ type: 'work-changed' });
  return {};
}
