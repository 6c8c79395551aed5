import { createHash } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import type { bookAtDesk as bookContract, DeskBooked, NewVisit } from '@zaguan/contracts/desk';
import { ClinicIndex } from '@zaguan/core/openings';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { devicesTakenTwice, insertAppointment, insertOccupancy, keepOverride, lockAll } from '../booking/index.ts';
import { insertCoverage } from '../coverage/index.ts';
import { planForDeskBooking } from '../messages/index.ts';
import { benchFromBooking, endUnplaced, takeFromBench } from './bench.ts';
import { bookedByKey, holdsOfFlow, insertDeskBooking, insertWish } from './desk.repository.ts';
import { accountOf, giveBack } from './holdAtDesk.ts';
import { areKnown } from './known.ts';
import { mayBookFor } from './mayBookFor.ts';
import { moveFromBench } from './moveFromBench.ts';
import { Days, locksFor, plannedId, type PlannedVisit, planAll, type Refused, refusePlan } from './plan.ts';
import { bookRequest, openRequest } from './requests.ts';
import { type Asked, resolveVisits } from './resolve.ts';
import { bookedAgain } from './bookedAgain.ts';

type Input = InputOf<typeof bookContract>;
type Answer = AnswerOf<typeof bookContract>;

/**
 * Books at the desk: one visit, or several that belong together, all of them or none. Everything is judged under the locks
 * of all of them at once, on fresh rows; what is held for this booking counts as free. Rules are set aside only by name,
 * with a reason, by a role that may.
 */
export async function bookAtDesk(ctx: Ctx, input: Input): Promise<Answer> {
  const moved = await moveFromBench(ctx, input);
  if (moved) return moved;
  const asked = await resolveVisits(ctx, input.visits, 'appointment.book', { keep: true });
  if (asked instanceof Failure) return asked;
  // Types, sites and providers were looked at with the visits.
  const named = input.visits.map(({ reasonId, payerId }) => ({ reasonId, payerId }));
  if (!(await areKnown(ctx, named))) return ctx.fail('NotFound');
  const refused = await refuseRights(ctx, input.visits, asked);
  if (refused) return refused;

  await lockAll(ctx.em, [`desk:${input.key}`, `flow:${input.flowId}`, ...(await locksFor(ctx, asked))]);
  const contentHash = createHash('sha256')
    .update(JSON.stringify([input.group, input.visits, input.bench]))
    .digest();
  const known = await bookedByKey(ctx.em, input.key);
  if (known) {
    const same = known.accountId === accountOf(ctx) && Buffer.from(known.contentHash).equals(contentHash);
    return same ? bookedAgain(ctx, known) : ctx.fail('HoldUsed');
  }
  const holds = await holdsOfFlow(ctx.em, input.flowId, accountOf(ctx));
  const days = await Days.load(
    ctx,
    asked,
    holds.map(({ id }) => id),
  );
  const planned = planAll(ctx, days, asked, (at) => input.visits[at].waive?.codes ?? []);
  if ('refused' in planned) return refusePlan(ctx, asked, planned);
  const single = await tooManyOfOne(ctx, days, asked, planned);
  if (single !== null) return refusePlan(ctx, asked, single);
  await giveBack(ctx, holds);

  const groupId = input.group === null ? null : ctx.newId();
  const visits: DeskBooked[] = [];
  const undo = new TakeBack();
  for (const [at, visit] of input.visits.entries()) {
    const one = { visit, asked: asked[at], planned: planned[at] };
    const group = groupId && { groupId, groupKind: input.group, groupPosition: at };
    const booked = await bookOne(ctx, one, group || NO_GROUP, undo);
    if (booked instanceof Failure) return booked;
    visits.push(booked);
  }
  const benched = await benchFromBooking(ctx, input.bench, groupId);
  if (benched instanceof Failure) return benched;
  undo.added.push(...benched);
  const kept = await undo.keep(ctx);
  await insertDeskBooking(ctx.em, {
    key: input.key,
    accountId: accountOf(ctx),
    contentHash,
    appointmentIds: visits.map(({ id }) => id),
    undoId: kept.id,
    at: ctx.now,
  });
  return { visits, undo: kept };
}

const NO_GROUP = { groupId: null, groupKind: null, groupPosition: null };

/** What it takes to take a booking back. */
export class TakeBack {
  readonly visits: { id: string; version: number }[] = [];
  /** Requests that were booked by it. */
  readonly requests: string[] = [];
  /** What lay on the Bench and was placed. */
  readonly placed: string[] = [];
  /** What was put onto the Bench. */
  readonly added: string[] = [];
  readonly wishes: string[] = [];

  keep(ctx: Ctx): Promise<{ id: string }> {
    const { visits, requests, placed, added, wishes } = this;
    return ctx.undoable({
      command: 'desk.takeBack',
      input: { visits, requests, placed, added, wishes },
      label: { what: 'booked', count: String(visits.length) },
    });
  }
}

/** Who asks may book for the patient, and who books may set aside what is to be set aside. */
async function refuseRights(
  ctx: Ctx,
  visits: readonly NewVisit[],
  asked: readonly Asked[],
): Promise<Failure<'NotAllowed' | 'MayNotBook'> | null> {
  for (const [i, visit] of visits.entries()) {
    const action = 'appointment.book-against-rules';
    if (visit.waive && !coversSite(ctx, action, visit.siteId)) return ctx.fail('NotAllowed', { facts: { action } });
    if (!(await mayBookFor(ctx, asked[i], visit.askedBy))) return ctx.fail('MayNotBook', { facts: { visit: i } });
  }
  return null;
}

/** The first visit that would take a device a second time, whatever reason there is. */
async function tooManyOfOne(
  ctx: Ctx,
  days: Days,
  asked: readonly Asked[],
  planned: readonly PlannedVisit[],
): Promise<Refused | null> {
  for (const [at, { broken, plan }] of planned.entries()) {
    if (!broken.includes('busy')) continue;
    const { siteId, date } = asked[at];
    const index = new ClinicIndex(days.on(date), nowMinute(ctx));
    const twice = await devicesTakenTwice(ctx.em, index, { siteId, date, id: plannedId(at) }, plan);
    const facts = twice.map((resourceId) => ({ resourceId }));
    if (twice.length) return { at, refused: [{ code: 'busy', applies: true, passed: false, facts }] };
  }
  return null;
}

interface One {
  readonly visit: NewVisit;
  readonly asked: Asked;
  readonly planned: PlannedVisit;
}

type Group = { groupId: string | null; groupKind: Input['group']; groupPosition: number | null };

async function bookOne(
  ctx: Ctx,
  { visit, asked, planned: { plan, broken } }: One,
  group: Group,
  undo: TakeBack,
): Promise<DeskBooked | Failure<'NotFound' | 'ChangedMeanwhile'>> {
  const request = visit.requestId === null ? null : await openRequest(ctx, visit.requestId, asked.patient.id);
  if (request instanceof Failure) return request;
  const unplaced = visit.unplacedId === null ? null : await takeFromBench(ctx, visit.unplacedId, asked.patient.id);
  if (unplaced instanceof Failure) return unplaced;
  const instant = (minute: number) => new Date(minute * 60_000);
  const { criteria, siteId, providerId, patient, beforeMin, afterMin } = asked;
  const id = ctx.newId();
  const startsAt = instant(plan.start);
  await insertAppointment(ctx.em, {
    id,
    siteId,
    visitTypeId: criteria.visitTypeId,
    providerId,
    patientId: patient.id,
    patientKind: criteria.kind,
    status: 'booked',
    identity: 'sure',
    approval: 'not-needed',
    origin: 'desk',
    startsAt,
    endsAt: instant(plan.end),
    providerStartsAt: instant(plan.providerStart),
    providerEndsAt: instant(plan.providerEnd),
    beforeMin,
    afterMin,
    siteDate: plan.date,
    parts: criteria.parts ?? null,
    rulesWaived: broken.length ? [...broken] : null,
    ...group,
    reasonId: visit.reasonId,
    reasonText: visit.reason,
    icalSequence: 0,
    version: 1,
    changedAt: ctx.now,
    createdAt: ctx.now,
    createdBy: accountOf(ctx),
  });
  const overrideId = await keepOverride(ctx, id, broken, visit.waive?.reason ?? '');
  await insertOccupancy(ctx.em, id, plan.occupancy, ctx.now, overrideId);
  if (visit.payerId)
    await insertCoverage(ctx.em, {
      appointmentId: id,
      payerId: visit.payerId,
      referral: visit.hasReferral ?? null,
      at: ctx.now,
    });
  if (request) {
    await bookRequest(ctx, request, id);
    undo.requests.push(request.id);
  }
  if (unplaced) {
    await endUnplaced(ctx, unplaced, 'booked');
    undo.placed.push(unplaced.id);
  }
  if (visit.sooner) undo.wishes.push(await keepWish(ctx, id, asked, visit.sooner));
  const told = await planForDeskBooking(ctx, id);
  undo.visits.push({ id, version: 1 });
  ctx.emit({ type: 'visit-changed', siteId, date: plan.date });
  ctx.wrote({
    subjects: [
      { kind: 'appointment', id },
      { kind: 'patient', id: patient.id },
    ],
    after: {
      status: 'booked',
      origin: 'desk',
      siteId,
      startsAt: startsAt.toISOString(),
      visitTypeId: criteria.visitTypeId,
      providerId,
      ...(broken.length && { rulesWaived: broken }),
    },
  });
  return {
    ...{ id, siteId, providerId, patientId: patient.id, visitTypeId: criteria.visitTypeId, date: plan.date },
    start: startsAt.toISOString(),
    end: instant(plan.end).toISOString(),
    timeZone: asked.timeZone,
    waived: [...broken],
    told,
  };
}

async function keepWish(
  ctx: Ctx,
  appointmentId: string,
  { patient, criteria }: Asked,
  { weekdays, siteIds, providerIds, ...rest }: NonNullable<NewVisit['sooner']>,
): Promise<string> {
  const id = ctx.newId();
  await insertWish(ctx.em, {
    id,
    patientId: patient.id,
    appointmentId,
    visitTypeId: criteria.visitTypeId,
    weekdays: weekdays && [...weekdays],
    siteIds: siteIds && [...siteIds],
    providerIds: providerIds && [...providerIds],
    ...rest,
    createdBy: accountOf(ctx),
    createdAt: ctx.now,
  });
  return id;
}
