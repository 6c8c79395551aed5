import { type ErrorTag, fromWire, type InputOf, toWire } from '@zaguan/contracts';
import type {
  cancelGroup as cancelContract,
  groupOfVisit as groupContract,
  moveGroup as moveContract,
} from '@zaguan/contracts/booking';
import { shiftedStart } from '@zaguan/core/booking';
import type { Code } from '@zaguan/core/openings';
import { fullName, restrictedName } from '@zaguan/core/patients';
import type { AppointmentStatus } from '@zaguan/core/visits';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { siteRows } from '../clinic/index.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { appointmentsForUpdate, appointmentRow, comingOfGroup } from './booking.repository.ts';
import { cancelVisit, restoreVisit } from './changeStatus.ts';
import { lockForMoves, type Move, moveVisit } from './moveVisit.ts';

/** The coming visits that belong together with a visit. */
export async function groupOfVisit(
  ctx: Ctx,
  { id }: InputOf<typeof groupContract>,
): Promise<AnswerOf<typeof groupContract>> {
  const visit = await appointmentRow(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.move', visit.siteId)) return ctx.fail('NotAllowed');
  if (visit.groupId === null) return { kind: null, others: [], elsewhere: 0 };
  const all = (await comingOfGroup(ctx.em, visit.groupId, ctx.now)).filter((row) => row.id !== id);
  const rows = all.filter(({ siteId }) => coversSite(ctx, 'appointment.move', siteId));
  const hidden = await hiddenVisits(
    ctx,
    rows.map((row) => row.id),
  );
  ctx.viewed(rows.flatMap(({ patientId }) => patientId ?? []));
  return {
    kind: visit.groupKind,
    elsewhere: all.length - rows.length,
    others: rows.map((row) => ({
      ...{ id: row.id, version: row.version, status: row.status, date: row.siteDate },
      patient: row.patient
        ? (hidden.has(row.id) ? restrictedName : fullName)(row.patient.givenName, row.patient.familyName)
        : '',
      visitType: row.visitType.name,
      siteName: row.site.name,
      timeZone: row.site.timeZone,
      start: row.startsAt.toISOString(),
      isLater: row.startsAt > visit.startsAt,
    })),
  };
}

/** What belongs to the visit's group, as its rows are now, locked; `null` where one of them does not. */
async function membersOf(ctx: Ctx, id: string, others: readonly { readonly id: string }[]) {
  const rows = await appointmentsForUpdate(ctx.em, [id, ...others.map((other) => other.id)]);
  const by = new Map(rows.map((row) => [row.id, row]));
  const first = by.get(id);
  const isOne = first && first.groupId !== null && rows.every(({ groupId }) => groupId === first.groupId);
  return isOne && by.size === others.length + 1 ? { first, by } : null;
}

/**
 * Moves a visit, and others of its group by as much: all, or none. They go one after the other in the direction of the
 * move's end, so that none stands in another's way; whoever shared the first one's provider or site goes along there.
 */
export async function moveGroup(ctx: Ctx, input: InputOf<typeof moveContract>): Promise<AnswerOf<typeof moveContract>> {
  const { id, others, ...to } = input;
  const group = await membersOf(ctx, id, others);
  if (!group) return ctx.fail('NotFound');
  const { first, by } = group;
  const zones = new Map((await siteRows(ctx.em)).map((site) => [site.id as string, site.timeZone]));
  const zoneOf = (siteId: string) => zones.get(siteId) ?? 'UTC';
  const siteId = to.siteId ?? first.siteId;
  if (!zones.has(siteId)) return ctx.fail('NotFound');
  const place = (at: string, start: Date | string) => ({
    zone: zoneOf(at),
    start: fromWire(typeof start === 'string' ? start : start.toISOString()),
  });
  const [from, goal] = [place(first.siteId, first.startsAt), place(siteId, to.start)];
  const moves = [{ id, version: to.version, siteId, start: to.start, providerId: to.providerId } as Move];
  for (const other of others) {
    const row = by.get(other.id);
    if (!row) continue;
    const toSite = row.siteId === first.siteId ? siteId : row.siteId;
    moves.push({
      ...{ id: row.id, version: other.version, siteId: toSite },
      start: toWire(shiftedStart(from, goal, place(row.siteId, row.startsAt), zoneOf(toSite))),
      providerId: row.providerId === first.providerId ? to.providerId : row.providerId,
    } as Move);
  }
  await lockForMoves(ctx, moves);
  const isLater = goal.start > from.start;
  const startOf = (move: Move) => by.get(move.id)?.startsAt.getTime() ?? 0;
  const inOrder = moves.toSorted((a, b) => (isLater ? startOf(b) - startOf(a) : startOf(a) - startOf(b)));
  const back: (Move & { waived?: readonly Code[] })[] = [];
  for (const move of inOrder) {
    const was = by.get(move.id);
    const moved = await moveVisit(ctx, move);
    if (moved instanceof Failure) return naming(moved, moves.indexOf(move));
    if (was)
      back.unshift({
        ...{ id: was.id, version: moved.version, siteId: was.siteId, providerId: was.providerId },
        ...{ start: was.startsAt.toISOString(), ...(was.rulesWaived && { waived: was.rulesWaived }) },
      } as Move);
  }
  const undo = await ctx.undoable({
    command: 'booking.moveGroupBack',
    input: { moves: back },
    label: { what: 'visits-moved', count: String(back.length) },
  });
  return { moved: back.length, undo };
}

/** The refusal, with which of the visits it is about. */
function naming<F extends ErrorTag>({ tag, details }: Failure<F>, visit: number): Failure<F> {
  return new Failure(tag, { ...details, facts: { ...details.facts, visit } });
}

/** The inverse of moving a group: all of them go back, or none. */
export async function moveGroupBack(ctx: Ctx, { moves }: { moves: readonly Move[] }): Promise<UndoAnswer> {
  await lockForMoves(ctx, moves);
  for (const move of moves) {
    const moved = await moveVisit(ctx, move);
    if (moved instanceof Failure) return moved;
  }
  return {};
}

/** Cancels a visit and others of its group: all, or none. */
export async function cancelGroup(
  ctx: Ctx,
  { id, others, version, reason, note }: InputOf<typeof cancelContract>,
): Promise<AnswerOf<typeof cancelContract>> {
  const group = await membersOf(ctx, id, others);
  if (!group) return ctx.fail('NotFound');
  const visits: { id: string; to: AppointmentStatus; version: number }[] = [];
  for (const [at, each] of [{ id, version }, ...others].entries()) {
    const was = group.by.get(each.id);
    const canceled = await cancelVisit(ctx, { ...each, reason, note } as Parameters<typeof cancelVisit>[1]);
    if (canceled instanceof Failure) return naming(canceled, at);
    if (was) visits.push({ id: each.id, to: was.status, version: canceled.version });
  }
  const undo = await ctx.undoable({
    command: 'booking.restoreGroup',
    input: { visits },
    label: { what: 'cancel', count: String(visits.length) },
  });
  return { canceled: visits.length, version: visits[0].version, undo };
}

/** The inverse of canceling a group: all of them stand again, or none. */
export async function restoreGroup(
  ctx: Ctx,
  { visits }: { visits: readonly { id: string; to: AppointmentStatus; version: number }[] },
): Promise<UndoAnswer> {
  const rows = await appointmentsForUpdate(
    ctx.em,
    visits.map(({ id }) => id),
  );
  await lockForMoves(
    ctx,
    rows.map(
      ({ id, siteId, providerId, startsAt }) => ({ id, siteId, providerId, start: startsAt.toISOString() }) as Move,
    ),
  );
  for (const visit of visits) {
    const restored = await restoreVisit(ctx, visit);
    if (restored instanceof Failure) return restored;
  }
  return {};
}
