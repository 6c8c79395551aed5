import { fromWire, type InputOf, toWire } from '@zaguan/contracts';
import type { bookByInvitation as contract } from '@zaguan/contracts/invitations';
import { criteriaOfInvitation } from '@zaguan/core/invitations';
import { ClinicIndex, nearestOpenings, needsProvider, type RuleAnswer } from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import {
  appointmentForUpdate,
  cancelAppointment,
  insertAppointment,
  insertOccupancy,
  lockAll,
} from '../booking/index.ts';
import { type Asked, bookRequest, Days, isLostRace, kindOf, locksFor, openRequest, planAll } from '../desk/index.ts';
import { linkOfVisit, planForDeskBooking } from '../messages/index.ts';
import { bookedAlready, enterInvitation, overBecause } from './enter.ts';
import type { LinkedInvitation } from './enter.sql.ts';
import { bookedWith, changeInvitation, noteEvents, visitOf } from './invitations.repository.ts';
import { patientRow, providerNames } from './names.repository.ts';

type Input = InputOf<typeof contract>;

const MAX_NEAREST = 5;
const DAYS_AROUND = 14;

/** The visit that was booked with it at this time, for a call that comes twice. */
async function sameAgain(ctx: Ctx, invitationId: string, input: Input): Promise<string | null> {
  const visits = await bookedWith(ctx.em, invitationId);
  const same = visits.find(
    ({ startsAt, siteId, visitTypeId, providerId, status }) =>
      startsAt.getTime() === Date.parse(input.start) &&
      siteId === input.siteId &&
      visitTypeId === input.visitTypeId &&
      (providerId ?? null) === input.providerId &&
      status !== 'cancelled',
  );
  return same?.id ?? null;
}

async function askedOf(
  ctx: Ctx,
  { rules, patientId, moveId }: LinkedInvitation,
  { siteId, visitTypeId, providerId, start }: Input,
): Promise<Asked | Failure<'NotFound'>> {
  const minute = fromWire(start);
  const { date } = epochToWall('UTC', minute);
  const { plan } = await ctx.clinic({ from: date, until: date });
  const site = plan.sites.find(({ id }) => id === siteId);
  const type = plan.visitTypes.find(({ id }) => id === visitTypeId);
  const isProvider = plan.resources.some(({ id, kind }) => id === providerId && kind === 'provider');
  const patient = await patientRow(ctx.em, patientId);
  if (
    !site ||
    !type ||
    !patient ||
    needsProvider(type) !== (providerId !== null) ||
    (providerId !== null && !isProvider)
  )
    return ctx.fail('NotFound');
  return {
    ...{ patient, siteId, providerId, start: minute, timeZone: site.zone },
    date: epochToWall(site.zone, minute).date,
    criteria: criteriaOfInvitation(rules, visitTypeId, { kind: kindOf(patient), patientId, ignoreVisitId: moveId }),
    ...{ beforeMin: type.beforeMin, afterMin: type.afterMin },
  };
}

/** A refusal with its reasons and other times at the same site that the invitation may book. */
async function refuse(
  ctx: Ctx,
  { criteria, siteId, start, date }: Asked,
  refused: readonly RuleAnswer[],
): Promise<Failure<'TimeTaken' | 'NotOffered'>> {
  const [from, today] = [addDays(date, -DAYS_AROUND), earliestDate(ctx)];
  const store = await ctx.clinic({ from: from < today ? today : from, until: addDays(date, DAYS_AROUND) });
  const index = new ClinicIndex(store, nowMinute(ctx));
  const nearest = nearestOpenings(index, criteria, siteId, null, start, MAX_NEAREST, DAYS_AROUND).map((open) => ({
    ...{ start: toWire(open.start), providerId: open.providerId },
  }));
  const codes = refused.map(({ code }) => code);
  return ctx.fail(refused.every(({ code }) => isLostRace(code)) ? 'TimeTaken' : 'NotOffered', { codes, nearest });
}

/**
 * Books a time with an invitation, straight into the Daybook: the patient is known. Everything is judged under the locks
 * on fresh rows, by the invitation's limits too. The visit that gets another time is canceled with it.
 */
export async function bookByInvitation(ctx: Ctx, input: Input): Promise<AnswerOf<typeof contract>> {
  const invitation = await enterInvitation(ctx, input);
  if (invitation instanceof Failure) return invitation;
  const again = await sameAgain(ctx, invitation.id, input);
  if (again !== null) return told(ctx, again, input, invitation.usesLeft);
  const over = overBecause(invitation, ctx.now);
  if (over) return ctx.fail('InvitationOver', { facts: { over } });
  if (bookedAlready(invitation)) return ctx.fail('InvitationOver', { facts: { over: 'booked' } });
  const asked = await askedOf(ctx, invitation, input);
  if (asked instanceof Failure) return asked;
  await lockAll(ctx.em, await locksFor(ctx, [asked]));
  const moved = invitation.moveId === null ? null : await appointmentForUpdate(ctx.em, invitation.moveId);
  const days = await Days.load(ctx, [asked], moved ? [moved.id] : []);
  const planned = planAll(ctx, days, [asked]);
  if ('refused' in planned) return refuse(ctx, asked, planned.refused);
  if (moved) {
    // One message tells of the new time; the old one's is stopped.
    const canceled = await cancelAppointment(ctx, moved, { reason: 'to-be-rebooked', note: '', silent: true });
    if (canceled instanceof Failure) return ctx.fail('InvitationOver', { facts: { over: 'withdrawn' } });
  }
  const id = ctx.newId();
  await insertVisit(ctx, invitation, asked, { id, plan: planned[0].plan });
  const left = invitation.usesLeft - 1;
  await changeInvitation(ctx.em, invitation, {
    usesLeft: left,
    ...(left === 0 && { endedAs: 'used' as const, endedAt: ctx.now }),
  });
  await noteEvents(ctx.em, [invitation.id], { kind: 'booked', at: ctx.now, appointmentId: id });
  ctx.emit({ type: 'recalls-changed' });
  return told(ctx, id, input, left);
}

async function insertVisit(
  ctx: Ctx,
  invitation: LinkedInvitation,
  { patient, criteria, siteId, providerId, beforeMin, afterMin }: Asked,
  { id, plan }: { id: string; plan: Parameters<Days['put']>[2] },
): Promise<void> {
  const instant = (minute: number) => new Date(minute * 60_000);
  const { visitTypeId, kind } = criteria;
  await insertAppointment(ctx.em, {
    ...{ id, siteId, visitTypeId, providerId, patientId: patient.id, patientKind: kind },
    ...{ status: 'booked', identity: 'sure', approval: 'not-needed', origin: 'invitation' },
    ...{ startsAt: instant(plan.start), endsAt: instant(plan.end) },
    ...{ providerStartsAt: instant(plan.providerStart), providerEndsAt: instant(plan.providerEnd) },
    ...{ beforeMin, afterMin, siteDate: plan.date, reasonText: invitation.reason },
    ...{ icalSequence: 0, version: 1, changedAt: ctx.now, createdAt: ctx.now },
  });
  await insertOccupancy(ctx.em, id, plan.occupancy, ctx.now, null);
  if (invitation.requestId !== null) {
    const request = await openRequest(ctx, invitation.requestId, patient.id);
    if (!(request instanceof Failure)) await bookRequest(ctx, request, id);
  }
  await planForDeskBooking(ctx, id);
  ctx.emit({ type: 'visit-changed', siteId, date: plan.date });
  ctx.wrote({
    subjects: [
      { kind: 'appointment', id },
      { kind: 'patient', id: patient.id },
      { kind: 'invitation', id: invitation.id },
    ],
    after: { status: 'booked', origin: 'invitation', siteId, visitTypeId, providerId, startsAt: toWire(plan.start) },
  });
}

async function told(ctx: Ctx, id: string, { language }: Input, usesLeft: number): Promise<AnswerOf<typeof contract>> {
  const visit = await visitOf(ctx.em, id);
  if (!visit) throw new Error('A visit was booked a moment ago.');
  const { site, providerId, startsAt } = visit;
  const [provider] = providerId ? await providerNames(ctx.em, [providerId], language) : [];
  return {
    ...{ start: startsAt.toISOString(), timeZone: site.timeZone, site: site.publicName, usesLeft },
    address: `${site.addressLine}, ${site.city}`,
    provider: provider?.name ?? null,
    link: await linkOfVisit(ctx, visit),
  };
}
