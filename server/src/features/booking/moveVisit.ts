import { isDeepStrictEqual } from 'node:util';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fromWire, type InputOf } from '@zaguan/contracts';
import type { moveVisit as moveContract } from '@zaguan/contracts/booking';
import { lockNames, mayWaive, planVisit } from '@zaguan/core/booking';
import { partsFor, resizedParts, withAccess } from '@zaguan/core/findTime';
import { ClinicIndex, ClinicStore, type Code, needsProvider, type SearchCriteria, whyNot } from '@zaguan/core/openings';
import { epochToWall } from '@zaguan/core/time';
import { lengthOf, type Part, type VisitType } from '@zaguan/core/visits';
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
import { criteriaOfMove } from './moveSnapshot.ts';
import { devicesTakenTwice, keepOverride } from './override.ts';

/** An undo also names the rules that the visit was booked against where it goes back to, and the parts it had there. */
export type Move = Omit<InputOf<typeof moveContract>, 'waive'> & {
  readonly waive?: InputOf<typeof moveContract>['waive'];
  readonly waived?: readonly Code[];
  readonly parts?: readonly Part[] | null;
};

/**
 * Moves a booked visit to another time, at its site or another, or makes it longer or shorter, by the desk's rules and
 * with what its patient needs; its own time counts as free. Rules may be set aside with a reason by who may. The
 * old time is given back in the same moment as the new one is taken, planned messages are planned anew, and whoever was
 * told is told; nobody is where only the room, the nurse or the end is another, but for who had heard that it can't take place.
 */
export async function moveVisit(ctx: Ctx, move: Move): Promise<AnswerOf<typeof moveContract>> {
  const { id, siteId: toSite, start: startText, providerId, version, waive = null, waived = [] } = move;
  const visit = await openForDesk(ctx, id, version, 'appointment.move');
  if (visit instanceof Failure) return visit;
  if (visit.status !== 'booked' && visit.status !== 'pending')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  const siteId = toSite ?? visit.siteId;
  if (!coversSite(ctx, 'appointment.move', siteId)) return ctx.fail('NotAllowed');
  const against = 'appointment.book-against-rules';
  if (waive && !coversSite(ctx, against, siteId)) return ctx.fail('NotAllowed', { facts: { action: against } });
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
  if (!type || !known || needsProvider(type) !== (providerId !== null)) return ctx.fail('NotFound');
  const parts = partsAfter(move, type, partsFor(type, visit.parts, needs.extraMin));
  if (parts === 'too-short') return ctx.fail('InvalidInput', { issues: [{ path: 'lengthMin', code: 'too-small' }] });
  const criteria = criteriaOfMove(visit, parts);
  await lockAll(ctx.em, lockNames(before, criteria, siteId, providerId, date));
  const index = await look();
  const broken = waive ? failing(index, criteria, { siteId, providerId, start }) : [];
  const left = broken.filter((code) => !mayWaive(code) || !waive?.codes.includes(code));
  if (left.length) return ctx.fail('NotOffered', { codes: left });
  const planned = planVisit(index, criteria, siteId, providerId, start, waive ? broken : waived);
  if (!planned.ok) {
    const codes = planned.refused.map((answer) => answer.code);
    return ctx.fail(codes.every((code) => code === 'busy') ? 'TimeTaken' : 'NotOffered', { codes });
  }
  if (broken.includes('busy') && (await devicesTakenTwice(ctx.em, index, { siteId, date, id }, planned.plan)).length)
    return ctx.fail('TimeTaken', { codes: ['busy'] });
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
  const isResized = plan.end - plan.start !== (visit.endsAt.getTime() - visit.startsAt.getTime()) / 60_000;
  await freeTime(ctx.em, id);
  // A time it goes back to breaks the rules it broke before.
  const rules = waive ? broken : [...waived];
  const rulesWaived = rules.length ? rules : null;
  const overrideId = waive
    ? await keepOverride(ctx, id, broken, waive.reason)
    : await overrideOf(ctx.em, { id, rulesWaived });
  await insertOccupancy(ctx.em, id, plan.occupancy, ctx.now, overrideId);
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
      ...(!seatOnly && { confirmedAt: null }),
      ...((!seatOnly || isResized) && { icalSequence: visit.icalSequence + 1 }),
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
    before: {
      ...{ siteId: from.siteId, startsAt: from.start, providerId: from.providerId },
      ...(isResized && { endsAt: visit.endsAt.toISOString() }),
    },
    after: {
      ...{ siteId, startsAt: instant(plan.start).toISOString(), providerId },
      ...(isResized && { endsAt: instant(plan.end).toISOString() }),
      ...(broken.length && { rulesWaived: broken }),
    },
  });
  const undo = await ctx.undoable({
    command: 'booking.moveVisit',
    input: {
      ...{ id, siteId: from.siteId, start: from.start, providerId: from.providerId, version: changed.version },
      ...(visit.rulesWaived && { waived: visit.rulesWaived }),
      ...(isResized && { parts: visit.parts }),
    },
    label: { what: 'moved' },
  });
  return { version: changed.version, date: plan.date, undo };
}

/** What a visit is made of after a move: what an undo names, the new length, or what it was. */
function partsAfter(
  { parts, lengthMin }: Move,
  type: VisitType,
  own: readonly Part[] | null,
): readonly Part[] | null | 'too-short' {
  if (parts !== undefined) return parts;
  if (lengthMin === undefined || lengthMin === lengthOf({ parts: own ?? type.parts })) return own;
  const resized = resizedParts(own ?? type.parts, lengthMin);
  if (!resized) return 'too-short';
  return isDeepStrictEqual(resized, type.parts) ? null : resized;
}

function failing(
  index: ClinicIndex,
  criteria: SearchCriteria,
  to: { siteId: string; providerId: string | null; start: number },
): Code[] {
  const { answers } = whyNot(index, criteria, to.siteId, to.providerId, to.start);
  return answers.filter(({ passed }) => !passed).map(({ code }) => code);
}

/**
 * Takes what several moves will need, in one order for everybody: the visits' rows by id, then all locks at once. Two
 * who move several visits wait for each other, and never in a circle.
 */
export async function lockForMoves(ctx: Ctx, moves: readonly Move[]): Promise<void> {
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
    const criteria = criteriaOfMove(visit, visit.parts);
    for (const name of lockNames(index, criteria, siteId, providerId, date)) names.add(name);
  }
  if (names.size) await lockAll(ctx.em, [...names].sort());
}
