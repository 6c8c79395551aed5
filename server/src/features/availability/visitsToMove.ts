import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { type InputOf, toWire } from '@zaguan/contracts';
import type { acceptTimes, keepTime, messagesOfMoves, recordCall, visitsToMove } from '@zaguan/contracts/availability';
import { type Alternative, alternatives, checkBookedVisit, placeAll, type VisitToMove } from '@zaguan/core/impact';
import { withNeeds } from '@zaguan/core/findTime';
import type { ClinicStore } from '@zaguan/core/openings';
import { NO_NEEDS } from '@zaguan/core/patients';
import { addDays } from '@zaguan/core/time';
import type { BookedVisit } from '@zaguan/core/visits';
import { coversSite, type Ctx, earliestDate, nowMinute, sitesFor, siteList } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import {
  type BookedPlace,
  bookedPlaceOf,
  lockForMoves,
  moveVisit,
  returnVisit,
  whereVisitIs,
} from '../booking/index.ts';
import { needsOf } from '../people/index.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { openInverses } from '../../platform/undo/undo.ts';
import { messageOfMove } from '../messages/index.ts';
import { visitSummaries } from './availability.sql.ts';
import { toImpactVisits } from './edits.ts';
import { type Call, setCall, setKept } from './visitsToMove.repository.ts';
import { openRows, type OpenRow } from './visitsToMove.sql.ts';

/** How far around its old time a visit's other times are looked for. */
const WANTED = { daysBefore: 0, daysAfter: 21, limit: 5 };
/** Another site is a question to the patient: a few are shown, none is proposed. */
const MAX_ELSEWHERE = 3;
/** The inverse of moving several. */
const MOVE_BACK = 'availability.moveBack';

/** The list as it stands now: whoever fits again, or was moved, is not on it any more. */
async function stillToMove(
  ctx: Ctx,
  siteIds: readonly string[] | null,
): Promise<{ toMove: VisitToMove[]; rows: Map<string, OpenRow>; store: ClinicStore }> {
  const rows = await openRows(ctx.em, ctx.now);
  const dates = new Map(rows.map((row) => [row.id, row.siteDate]));
  const from = earliestDate(ctx);
  const last = [from, ...dates.values()].reduce((a, b) => (a > b ? a : b));
  const store = await ctx.clinic({ from, until: addDays(last, WANTED.daysAfter) });
  const toMove = [...new Set(dates.values())].flatMap((date) =>
    store.taken
      .visitsOn(date)
      .filter((visit) => dates.has(visit.id) && (siteIds === null || siteIds.includes(visit.siteId)))
      .flatMap((visit) => checkBookedVisit(store, nowMinute(ctx), visit) ?? []),
  );
  return {
    store,
    toMove: toMove.sort((a, b) => a.visit.start - b.visit.start),
    rows: new Map(rows.map((row) => [row.id, row])),
  };
}

/** How many visits wait, at some sites or all (`null`). */
export async function countVisitsToMove(ctx: Ctx, siteIds: readonly string[] | null): Promise<number> {
  return (await stillToMove(ctx, siteIds)).toMove.length;
}

export async function listVisitsToMove(
  ctx: Ctx,
  { siteId }: InputOf<typeof visitsToMove>,
): Promise<AnswerOf<typeof visitsToMove>> {
  if (siteId && !coversSite(ctx, 'appointment.move', siteId)) return ctx.fail('NotAllowed');
  const { toMove, rows, store } = await stillToMove(
    ctx,
    siteId ? [siteId] : siteList(sitesFor(ctx, 'appointment.move')),
  );
  const now = nowMinute(ctx);
  const time = (row: Pick<Alternative, 'siteId' | 'start' | 'providerId'>) => ({
    siteId: row.siteId,
    start: toWire(row.start),
    providerId: row.providerId,
  });
  const needs = await needsOf(
    ctx.em,
    toMove.flatMap(({ visit }) => visit.patientId ?? []),
  );
  const needOf = ({ patientId }: BookedVisit) => needs.get(patientId ?? '') ?? NO_NEEDS;
  const asIs = ({ visit }: VisitToMove) => !needOf(visit).access.length && !needOf(visit).extraMin;
  const clinicOf = (visit: BookedVisit) => withNeeds(store, [{ visitTypeId: visit.visitTypeId, needs: needOf(visit) }]);
  // Moved at its own site: another one is a question to the patient.
  const proposed = new Map<string, ReturnType<typeof time> | null>();
  for (const id of new Set(toMove.map(({ visit }) => visit.siteId))) {
    const here = toMove.filter((each) => each.visit.siteId === id && asIs(each)).map(({ visit }) => visit);
    for (const { visit, alternative } of placeAll(store, now, here, { ...WANTED, siteIds: [id] }))
      proposed.set(visit.id, alternative && time(alternative));
  }
  const covered = store.plan.sites.map(({ id }) => id).filter((id) => coversSite(ctx, 'appointment.move', id));
  const elsewhere = (own: string) => covered.filter((id) => id !== own);
  const others = new Map(
    toMove.map(({ visit }) => [
      visit.id,
      [
        ...alternatives(clinicOf(visit), now, visit, { ...WANTED, siteIds: [visit.siteId] }),
        ...alternatives(clinicOf(visit), now, visit, {
          ...WANTED,
          limit: MAX_ELSEWHERE,
          siteIds: elsewhere(visit.siteId),
        }),
      ].map(time),
    ]),
  );
  // Who needs more than others is not placed among them, but gets the first time that does.
  for (const { visit } of toMove.filter((each) => !asIs(each)))
    proposed.set(visit.id, others.get(visit.id)?.find(({ siteId: at }) => at === visit.siteId) ?? null);
  const about = await visitSummaries(
    ctx.em,
    toMove.map(({ visit }) => visit.id),
  );
  const shown = await toImpactVisits(ctx, toMove);
  const hidden = await hiddenVisits(ctx, [...about.keys()]);
  return {
    visits: shown.map((row) => ({
      ...row,
      version: about.get(row.appointmentId)?.version ?? 0,
      phone: hidden.has(row.appointmentId) ? null : (about.get(row.appointmentId)?.phone ?? null),
      patientId: hidden.has(row.appointmentId) ? null : (about.get(row.appointmentId)?.patientId ?? null),
      ...onList(rows.get(row.appointmentId), ctx),
      alternatives: others.get(row.appointmentId) ?? [],
      proposed: proposed.get(row.appointmentId) ?? null,
    })),
    moves: await movesToTakeBack(ctx),
  };
}

async function movesToTakeBack(ctx: Ctx) {
  if (ctx.actor.kind !== 'staff') return [];
  const kept = await openInverses(ctx.em, ctx.actor.accountId, MOVE_BACK, ctx.now);
  return kept.map(({ id, label, createdAt }) => ({
    undoId: id,
    at: createdAt.toISOString(),
    visits: Number(label.count ?? 1),
  }));
}

/** What the list knows of a visit beside the visit itself. */
function onList(row: OpenRow | undefined, { actor, now }: Ctx) {
  const mine = actor.kind === 'staff' && row?.foundBy === actor.accountId;
  const call =
    row?.callOutcome && row.calledAt
      ? { outcome: row.callOutcome, at: new Date(row.calledAt).toISOString(), by: row.calledBy ?? '' }
      : null;
  return { since: new Date(row?.since ?? now).toISOString(), told: row?.told ?? false, call, mine };
}

/** Each is moved by the rules of moving a visit; one that can't be is told, and stands in no other's way. */
export async function acceptOtherTimes(
  ctx: Ctx,
  { times }: InputOf<typeof acceptTimes>,
): Promise<AnswerOf<typeof acceptTimes>> {
  const refused: { appointmentId: string; tag: string }[] = [];
  const back: MoveBack[] = [];
  await lockForMoves(
    ctx,
    times.map(({ appointmentId: id, ...to }) => ({ id, ...to }) as Move),
  );
  for (const { appointmentId, version, siteId, start, providerId } of times) {
    const was = await bookedPlaceOf(ctx.em, appointmentId);
    const moved = await moveVisit(ctx, { id: appointmentId, version, siteId, start, providerId } as Move);
    if (moved instanceof Failure || !was) {
      refused.push({ appointmentId, tag: moved instanceof Failure ? moved.tag : 'NotFound' });
      continue;
    }
    back.push({ id: appointmentId, version: moved.version, was });
  }
  if (!back.length) return { moved: 0, refused, undo: null };
  ctx.emit({ type: 'work-changed' });
  const undo = await ctx.undoable({
    command: MOVE_BACK,
    input: { moves: back },
    label: { what: 'visits-moved', count: String(back.length) },
  });
  return { moved: back.length, refused, undo };
}

type Move = Parameters<typeof moveVisit>[1];

/** A visit as moving left it, and where it was before. */
interface MoveBack {
  readonly id: string;
  readonly version: number;
  readonly was: BookedPlace;
}

/**
 * The inverse: all of them go back, or none. By the rules where that can be; otherwise to where they were all the same,
 * for not fitting there is what had put them on the list. Refused where somebody else has the time now.
 */
export async function moveBack(ctx: Ctx, { moves }: { moves: readonly MoveBack[] }): Promise<UndoAnswer> {
  const byRule = ({ id, version, was }: MoveBack) =>
    ({ id, version, siteId: was.siteId, start: was.startsAt, providerId: was.providerId }) as Move;
  await lockForMoves(ctx, moves.map(byRule));
  for (const move of moves) {
    const moved = await moveVisit(ctx, byRule(move));
    const back = moved instanceof Failure && moved.tag === 'NotOffered' ? await returnVisit(ctx, move) : moved;
    if (back instanceof Failure) return back;
  }
  ctx.emit({ type: 'work-changed' });
  return {};
}

/** What the patients would be told; nothing is moved or sent. Of a visit that the caller may not move, nothing is said. */
export async function messagesOf(
  ctx: Ctx,
  { times }: InputOf<typeof messagesOfMoves>,
): Promise<AnswerOf<typeof messagesOfMoves>> {
  const messages = [];
  for (const { appointmentId, siteId, start, providerId } of times) {
    const was = await whereVisitIs(ctx.em, appointmentId);
    const at = siteId ?? was?.siteId;
    if (!was || !at) continue;
    if (!coversSite(ctx, 'appointment.move', was.siteId) || !coversSite(ctx, 'appointment.move', at)) continue;
    const isSameTime = at === was.siteId && start === was.start && providerId === was.providerId;
    const told = await messageOfMove(ctx, appointmentId, { siteId: at, startsAt: new Date(start), isSameTime });
    messages.push({ appointmentId, channel: told?.channel ?? null, text: told?.body ?? '' });
  }
  return { messages };
}

export async function keepVisitTime(
  ctx: Ctx,
  { appointmentId, reason }: InputOf<typeof keepTime>,
): Promise<AnswerOf<typeof keepTime>> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const where = await whereVisitIs(ctx.em, appointmentId);
  if (!where) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.move', where.siteId)) return ctx.fail('NotAllowed');
  const kept = { at: ctx.now, accountId: ctx.actor.accountId, reason };
  if (!(await setKept(ctx.em, appointmentId, kept))) return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind: 'appointment', id: appointmentId }], after: { keptAtItsTime: reason } });
  return {
    undo: await ctx.undoable({
      command: 'availability.backOnList',
      input: { appointmentId },
      label: { what: 'kept-time' },
    }),
  };
}

export async function undoKeepTime(ctx: Ctx, { appointmentId }: { appointmentId: string }): Promise<UndoAnswer> {
  if (!(await setKept(ctx.em, appointmentId, null))) return ctx.fail('ChangedMeanwhile');
  ctx.emit({ type: 'work-changed' });
  return {};
}

export async function recordCallOf(
  ctx: Ctx,
  { appointmentId, outcome }: InputOf<typeof recordCall>,
): Promise<AnswerOf<typeof recordCall>> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const where = await whereVisitIs(ctx.em, appointmentId);
  if (!where) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.move', where.siteId)) return ctx.fail('NotAllowed');
  const noted = await setCall(ctx.em, appointmentId, { outcome, at: ctx.now, accountId: ctx.actor.accountId });
  if (!noted) return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind: 'appointment', id: appointmentId }], after: { called: outcome } });
  return {
    undo: await ctx.undoable({
      command: 'availability.callBefore',
      input: { appointmentId, call: noted.before },
      label: { what: 'call-noted' },
    }),
  };
}

export async function undoCall(
  ctx: Ctx,
  { appointmentId, call }: { appointmentId: string; call: (Omit<Call, 'at'> & { at: string }) | null },
): Promise<UndoAnswer> {
  if (!(await setCall(ctx.em, appointmentId, call && { ...call, at: new Date(call.at) }))) return ctx.fail('NotFound');
  ctx.emit({ type: 'work-changed' });
  return {};
}
