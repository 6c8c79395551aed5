import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import type { acceptTimes, keepTime, visitsToMove } from '@zaguan/contracts/availability';
import { alternatives, judgeVisit, placeAll, type Unfit } from '@zaguan/core/impact';
import type { ClinicStore } from '@zaguan/core/openings';
import { addDays } from '@zaguan/core/time';
import { coversSite, type Ctx, earliestDate, nowMinute, sitesFor } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { moveVisit, whereVisitIs } from '../booking/index.ts';
import { aboutVisits } from './availability.repository.ts';
import { toStranded } from './edits.ts';
import { openRows, setKept } from './visitsToMove.repository.ts';

/** How far around its old time a visit's other times are looked for. */
const WANTED = { daysBefore: 0, daysAfter: 21, most: 5 };
/** The list as it stands now: whoever fits again, or was moved, is not on it any more. */
async function stillUnfit(
  ctx: Ctx,
  siteIds: readonly string[] | null,
): Promise<{ unfit: Unfit[]; since: Map<string, string>; store: ClinicStore }> {
  const rows = await openRows(ctx.em, ctx.now);
  const dates = new Map(rows.map((row) => [row.id, row.site_date]));
  const from = earliestDate(ctx);
  const last = [from, ...dates.values()].reduce((a, b) => (a > b ? a : b));
  const store = await ctx.clinic({ from, until: addDays(last, WANTED.daysAfter) });
  const unfit = [...new Set(dates.values())].flatMap((date) =>
    store.taken
      .visitsOn(date)
      .filter((visit) => dates.has(visit.id) && (siteIds === null || siteIds.includes(visit.siteId)))
      .flatMap((visit) => judgeVisit(store, nowMinute(ctx), visit) ?? []),
  );
  return {
    store,
    unfit: unfit.sort((a, b) => a.visit.start - b.visit.start),
    since: new Map(rows.map((row) => [row.id, new Date(row.since).toISOString()])),
  };
}

/** How many visits wait, at some sites or all (`null`). */
export async function countVisitsToMove(ctx: Ctx, siteIds: readonly string[] | null): Promise<number> {
  return (await stillUnfit(ctx, siteIds)).unfit.length;
}

export async function listVisitsToMove(
  ctx: Ctx,
  { siteId }: InputOf<typeof visitsToMove>,
): Promise<OutputOf<typeof visitsToMove> | Failure> {
  if (siteId && !coversSite(ctx, 'appointment.move', siteId)) return ctx.fail('NotAllowed');
  const { unfit, since, store } = await stillUnfit(ctx, siteId ? [siteId] : sitesFor(ctx, 'appointment.move'));
  const now = nowMinute(ctx);
  const time = (row: { start: number; providerId: string | null }) => ({
    start: toWire(row.start),
    providerId: row.providerId,
  });
  // Moved at its own site: another one is a question to the patient.
  const proposed = new Map<string, ReturnType<typeof time> | null>();
  for (const id of new Set(unfit.map(({ visit }) => visit.siteId))) {
    const here = unfit.filter(({ visit }) => visit.siteId === id).map(({ visit }) => visit);
    for (const { visit, alternative } of placeAll(store, now, here, { ...WANTED, siteIds: [id] }))
      proposed.set(visit.id, alternative && time(alternative));
  }
  const others = new Map(
    unfit.map(({ visit }) => [
      visit.id,
      alternatives(store, now, visit, { ...WANTED, siteIds: [visit.siteId] }).map(time),
    ]),
  );
  const about = await aboutVisits(
    ctx.em,
    unfit.map(({ visit }) => visit.id),
  );
  const stranded = await toStranded(ctx, unfit);
  return {
    visits: stranded.map((row) => ({
      ...row,
      version: about.get(row.appointmentId)?.version ?? 0,
      since: since.get(row.appointmentId) ?? ctx.now.toISOString(),
      alternatives: others.get(row.appointmentId) ?? [],
      proposed: proposed.get(row.appointmentId) ?? null,
    })),
  };
}

/** Each is moved by the rules of moving a visit; one that can't be is told, and stands in no other's way. */
export async function acceptOtherTimes(
  ctx: Ctx,
  { times }: InputOf<typeof acceptTimes>,
): Promise<OutputOf<typeof acceptTimes> | Failure> {
  const refused: { appointmentId: string; tag: string }[] = [];
  const back: Move[] = [];
  for (const { appointmentId, version, start, providerId } of times) {
    const was = await whereVisitIs(ctx.em, appointmentId);
    const moved = await moveVisit(ctx, { id: appointmentId, version, start, providerId } as Move);
    if (moved instanceof Failure || !was) {
      refused.push({ appointmentId, tag: moved instanceof Failure ? moved.tag : 'NotFound' });
      continue;
    }
    back.push({ ...was, id: appointmentId, version: moved.version } as Move);
  }
  if (!back.length) return { moved: 0, refused, undo: null };
  ctx.emit({ type: 'work-changed' });
  const undo = await ctx.undoable({
    command: 'availability.moveBack',
    input: { moves: back },
    label: { what: 'visits-moved', count: String(back.length) },
  });
  return { moved: back.length, refused, undo };
}

type Move = Parameters<typeof moveVisit>[1];

/** The inverse: all of them go back, or none. Refused where the old time is still not to be had. */
export async function moveBack(ctx: Ctx, { moves }: { moves: readonly Move[] }): Promise<object | Failure> {
  for (const move of moves) {
    const moved = await moveVisit(ctx, move);
    if (moved instanceof Failure) return moved;
  }
  ctx.emit({ type: 'work-changed' });
  return {};
}

export async function keepVisitTime(
  ctx: Ctx,
  { appointmentId, reason }: InputOf<typeof keepTime>,
): Promise<OutputOf<typeof keepTime> | Failure> {
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

export async function backOnList(ctx: Ctx, { appointmentId }: { appointmentId: string }): Promise<object | Failure> {
  if (!(await setKept(ctx.em, appointmentId, null))) return ctx.fail('ChangedMeanwhile');
  ctx.emit({ type: 'work-changed' });
  return {};
}
