import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fromWire, type InputOf } from '@zaguan/contracts';
import type { moveVisit as moveContract } from '@zaguan/contracts/booking';
import { lockNames, planVisit } from '@zaguan/core/booking';
import { partsFor, withAccess } from '@zaguan/core/findTime';
import { ClinicIndex, ClinicStore, type Code, needsProvider, type SearchCriteria } from '@zaguan/core/openings';
import { epochToWall } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { followMove } from '../bookingRequests/index.ts';
import { timeZoneOf } from '../clinic/index.ts';
import { wasToldItMustMove, planForMoving, planForRestoring } from '../messages/index.ts';
import { loadSnapshot } from '../openings/index.ts';
import { needsOfVisit } from '../people/index.ts';
import { appointmentsForUpdate, freeTime, overrideOf, updateAppointment } from './booking.repository.ts';
import { insertOccupancy, lockAll } from './booking.sql.ts';
import { openForDesk } from './changeStatus.ts';

/** An undo also names the rules that the visit was booked against where it goes back to. */
type Move = InputOf<typeof moveContract> & { readonly waived?: readonly Code[] };

/**
 * Moves a booked visit to another time, at its site or another, by the desk's rules and with what its patient needs; its own time counts as free. The
 * old time is given back in the same moment as the new one is taken, planned messages are planned anew, and whoever was
 * told is told; nobody is where only the room or the nurse is another, but for who had heard that it can't take place.
 */
export async function moveVisit(
  ctx: Ctx,
  { id, siteId: toSite, start: startText, providerId, version, waived = [] }: Move,
): Promise<AnswerOf<typeof moveContract>> {
  const visit = await openForDesk(ctx, id, version, 'appointment.move');
  if (visit instanceof Failure) return visit;
  if (visit.status !== 'booked' && visit.status !== 'pending')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  const siteId = toSite ?? visit.siteId;
  if (!coversSite(ctx, 'appointment.move', siteId)) return ctx.fail('NotAllowed');
  const start = fromWire(startText);
  const zone = await timeZoneOf(ctx.em, siteId);
  if (zone === null) return ctx.fail('NotFound');
  const date = epochToWall(zone, start).date;
  const needs = await needsOfVisit(ctx.em, id);
  const look = async () => {
    const store = new ClinicStore(await loadSnapshot(ctx.em, { from: date, until: date }, ctx.now));
    return new ClinicIndex(withAccess(store, needs.access), nowMinute(ctx));
  };
  const before = await look();
  const type = before.plan.visitTypes.find((each) => each.id === visit.visitTypeId);
  const known = providerId === null || before.plan.resources.some((each) => each.id === providerId);
  const parts = type ? partsFor(type, visit.parts, needs.extraMin) : null;
  const criteria: SearchCriteria = {
    visitTypeId: visit.visitTypeId,
    parts,
    kind: visit.patientKind,
    channel: 'desk',
    patientId: visit.patientId,
    ignoreVisitId: id,
  };
  if (!type || !known || needsProvider(type) !== (providerId !== null)) return ctx.fail('NotFound');
  await lockAll(ctx.em, lockNames(before, criteria, siteId, providerId, date));
  const planned = planVisit(await look(), criteria, siteId, providerId, start, waived);
  if (!planned.ok) {
    const codes = planned.refused.map((answer) => answer.code);
    return ctx.fail(codes.every((code) => code === 'busy') ? 'TimeTaken' : 'NotOffered', { codes });
  }
  const from = {
    siteId: visit.siteId,
    start: visit.startsAt.toISOString(),
    providerId: visit.providerId ?? null,
    date: visit.siteDate,
  };
  const { plan } = planned;
  // Another room or nurse, and nothing that the patient would have to know.
  const seatOnly =
    start * 60_000 === visit.startsAt.getTime() && providerId === from.providerId && siteId === from.siteId;
  await freeTime(ctx.em, id);
  // A new time breaks no rule; one it goes back to breaks those it broke before.
  const rulesWaived = waived.length ? [...waived] : null;
  await insertOccupancy(ctx.em, id, plan.occupancy, ctx.now, await overrideOf(ctx.em, { id, rulesWaived }));
  const instant = (epochMinute: number) => new Date(epochMinute * 60_000);
  const changed = await updateAppointment(
    ctx.em,
    visit,
    {
      siteId,
      providerId,
      startsAt: instant(plan.start),
      endsAt: instant(plan.end),
      providerStartsAt: instant(plan.providerStart),
      providerEndsAt: instant(plan.providerEnd),
      siteDate: plan.date,
      parts,
      rulesWaived,
      // The patient agreed to the old time.
      ...(!seatOnly && { confirmedAt: null, icalSequence: visit.icalSequence + 1 }),
    },
    ctx.now,
  );
  if (!seatOnly) await planForMoving(ctx, id, { elsewhere: siteId !== from.siteId, oldStart: new Date(from.start) });
  else if (await wasToldItMustMove(ctx, id)) await planForRestoring(ctx, id);
  if (!seatOnly) await followMove(ctx, id);
  for (const day of new Set([`${from.siteId} ${from.date}`, `${siteId} ${plan.date}`])) {
    const [at, on] = day.split(' ');
    ctx.emit({ type: 'visit-changed', siteId: at, date: on });
  }
  ctx.wrote({
    subjects: [{ kind: 'appointment', id }],
    before: { siteId: from.siteId, startsAt: from.start, providerId: from.providerId },
    after: { siteId, startsAt: instant(plan.start).toISOString(), providerId },
  });
  const undo = await ctx.undoable({
    command: 'booking.moveVisit',
    input: {
      ...{ id, siteId: from.siteId, start: from.start, providerId: from.providerId, version: changed.version },
      ...(visit.rulesWaived && { waived: visit.rulesWaived }),
    },
    label: { what: 'moved' },
  });
  return { version: changed.version, date: plan.date, undo };
}

/**
 * Takes what several moves will need, in one order for everybody: the visits' rows by id, then all locks at once. Two
 * who move several visits wait for each other, and never in a circle.
 */
export async function lockForMoves(ctx: Ctx, moves: readonly InputOf<typeof moveContract>[]): Promise<void> {
  const visits = await appointmentsForUpdate(
    ctx.em,
    moves.map(({ id }) => id),
  );
  const names = new Set<string>();
  for (const { id, siteId: toSite, start: startText, providerId } of moves) {
    const visit = visits.find((each) => each.id === id);
    const siteId = toSite ?? visit?.siteId;
    const zone = siteId === undefined ? null : await timeZoneOf(ctx.em, siteId);
    if (!visit || siteId === undefined || zone === null) continue;
    const { date } = epochToWall(zone, fromWire(startText));
    const index = new ClinicIndex(await ctx.clinic({ from: date, until: date }), nowMinute(ctx));
    if (!index.plan.visitTypes.some((type) => type.id === visit.visitTypeId)) continue;
    if (providerId !== null && !index.plan.resources.some((each) => each.id === providerId)) continue;
    const criteria: SearchCriteria = {
      visitTypeId: visit.visitTypeId,
      parts: visit.parts,
      kind: visit.patientKind,
      channel: 'desk',
      patientId: visit.patientId,
    };
    for (const name of lockNames(index, criteria, siteId, providerId, date)) names.add(name);
  }
  if (names.size) await lockAll(ctx.em, [...names].sort());
}
