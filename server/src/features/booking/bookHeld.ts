import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { createHash } from 'node:crypto';
import type { ClinicStore } from '@zaguan/core/openings';
import { fromWire, type InputOf, type OutputOf } from '@zaguan/contracts';
import type { bookHeld as bookContract, visitCalendar as calendarContract } from '@zaguan/contracts/booking';
import { channelOf } from '@zaguan/core/messages';
import { needsApproval, payerTerms } from '@zaguan/core/openings';
import { visitToCalendar } from '../../exchange/visitCalendar.ts';
import { browserOf, type Ctx, latestDate } from '../../platform/endpoint/context.ts';
import type { Shares } from '../../platform/config/config.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { timeZoneOf } from '../clinic/index.ts';
import { insertCoverage, takeAnswers } from '../coverage/index.ts';
import { linkOfVisit, planForBooking } from '../messages/index.ts';
import { sureRecord } from '../people/index.ts';
import { provedSince } from '../verification/index.ts';
import type { Appointment } from '../../schema/index.ts';
import {
  bookedFromHold,
  calendarFacts,
  holdForUpdate,
  insertAppointment,
  insertSelfBooking,
  isOfBrowser,
  visitOfBrowser,
} from './booking.repository.ts';
import { passTimeOn, lockAll, openSelfBookings } from './booking.sql.ts';
import { otherTimes, type RequestedTime } from './otherTimes.ts';

/**
 * Books what this browser holds. Lead time, hours and caps were judged when the hold was made; from then on the time
 * is the patient's. Who they are is looked up only for the record; the answer never depends on it.
 */
export async function bookHeld(
  ctx: Ctx,
  input: InputOf<typeof bookContract>,
  shares: Shares,
): Promise<AnswerOf<typeof bookContract>> {
  const browser = browserOf(ctx);
  const requested = { ...input.requested, start: fromWire(input.requested.start) };
  const contentHash = createHash('sha256')
    .update(JSON.stringify([input.person, input.language, input.answers ?? {}, requested.payerId ?? null]))
    .digest();
  // Later than today anywhere on earth.
  if (input.person.birthDate > latestDate(ctx))
    return ctx.fail('InvalidInput', { issues: [{ path: 'person.birthDate', code: 'birth-in-future' }] });
  const { person } = input;
  // Two at once from one number are counted one after the other.
  await lockAll(ctx.em, [`hold:${input.holdId}`, `contact:${person.contact}`, `person:${person.birthDate}`]);

  const hold = await holdForUpdate(ctx.em, input.holdId);
  // A hold is gone once it was booked.
  const booked = hold ? null : await bookedFromHold(ctx.em, input.holdId);
  if (booked) {
    const same = booked.browserHash.equals(browser) && booked.contentHash.equals(contentHash);
    return same
      ? {
          visit: toWireVisit(
            booked.appointment,
            await timeZoneOf(ctx.em, booked.appointment.siteId),
            await linkOfVisit(ctx, booked.appointment),
          ),
        }
      : ctx.fail('HoldUsed', { nearest: await otherTimes(ctx, requested) });
  }
  if (!hold || !isOfBrowser(hold, browser) || hold.expiresAt <= ctx.now)
    return ctx.fail('HoldGone', { nearest: await otherTimes(ctx, requested) });

  const open = await openSelfBookings(ctx.em, person, { browser, provedSince: provedSince() }, ctx.now);
  if (!open.proved) return ctx.fail('NotVerified');
  const {
    siteId,
    visitTypeId,
    providerId,
    patientKind,
    startsAt,
    endsAt,
    providerStartsAt,
    providerEndsAt,
    beforeMin,
    afterMin,
    siteDate,
  } = hold;
  // By what was typed and by the number alone: counting a household would tell who is a patient.
  if (open.person >= shares.bookingsPerPerson || open.contact >= shares.bookingsPerContact)
    return ctx.fail('TooManyBookings');
  const store = await ctx.clinic({ from: siteDate, until: siteDate });
  // By the policy of what is held; it may have changed since the hold was made.
  const waits = needsApproval(store.policy(visitTypeId, siteId, providerId), patientKind);
  const unpaid = await refusePayer(ctx, store, requested);
  if (unpaid) return unpaid;
  const patientId = await sureRecord(ctx, {
    givenName: person.givenName,
    familyName: person.familyName,
    birthDate: person.birthDate,
    contacts: [person.contact],
  });
  const appointment = {
    id: ctx.newId(),
    siteId,
    visitTypeId,
    providerId,
    patientKind,
    startsAt,
    endsAt,
    providerStartsAt,
    providerEndsAt,
    beforeMin,
    afterMin,
    siteDate,
    patientId,
    status: waits ? ('pending' as const) : ('booked' as const),
    identity: patientId ? ('sure' as const) : ('unknown' as const),
    approval: waits ? ('waiting' as const) : ('not-needed' as const),
    origin: 'self' as const,
    reasonText: person.reason,
    icalSequence: 0,
    version: 1,
    changedAt: ctx.now,
    createdAt: ctx.now,
  };
  await insertAppointment(ctx.em, appointment);
  await passTimeOn(ctx.em, hold.id, appointment.id);
  await insertSelfBooking(ctx.em, {
    appointmentId: appointment.id,
    givenName: person.givenName,
    familyName: person.familyName,
    birthDate: person.birthDate,
    ...(channelOf(person.contact) === 'sms'
      ? { phone: person.contact, email: null }
      : { phone: null, email: person.contact }),
    language: input.language,
    kindClaimed: patientKind,
    holdId: hold.id,
    browserHash: browser,
    contentHash,
    addressHash: ctx.caller?.address ?? null,
    bookedAt: ctx.now,
  });
  const wrong = await takeAnswers(ctx, appointment.id, visitTypeId, input.answers ?? {});
  if (wrong) return wrong;
  if (requested.payerId !== undefined)
    await insertCoverage(ctx.em, {
      appointmentId: appointment.id,
      payerId: requested.payerId,
      referral: requested.hasReferral ?? null,
      at: ctx.now,
    });
  const link = await planForBooking(ctx, appointment.id);
  ctx.emit({ type: 'visit-changed', siteId, date: siteDate });
  ctx.wrote({
    subjects: [{ kind: 'appointment', id: appointment.id }],
    after: { status: appointment.status, origin: 'self', startsAt: startsAt.toISOString(), visitTypeId, providerId },
  });
  return { visit: toWireVisit(appointment, store.plan.sites.find(({ id }) => id === siteId)?.zone ?? null, link) };
}

/** Whoever pays must be accepted for what is held; the hold was judged by the same terms. */
async function refusePayer(
  ctx: Ctx,
  { plan }: ClinicStore,
  requested: RequestedTime,
): Promise<Failure<'NotOffered'> | null> {
  if (!requested.payerId) return null;
  const terms = payerTerms(plan.payerRules, requested.payerId, requested);
  const codes = [
    ...(terms.accepted ? [] : ['payer-not-accepted']),
    ...(terms.referral && !requested.hasReferral ? ['referral-needed'] : []),
    ...(terms.authorization ? ['authorization-needed'] : []),
  ];
  return codes.length ? ctx.fail('NotOffered', { codes, nearest: await otherTimes(ctx, requested) }) : null;
}

function toWireVisit(
  visit: Pick<Appointment, 'id' | 'startsAt' | 'endsAt' | 'siteId' | 'visitTypeId' | 'providerId' | 'approval'>,
  timeZone: string | null,
  link: string,
): OutputOf<typeof bookContract>['visit'] {
  if (!timeZone) throw new Error('A visit without its site.');
  return {
    id: visit.id,
    start: visit.startsAt.toISOString(),
    end: visit.endsAt.toISOString(),
    siteId: visit.siteId,
    visitTypeId: visit.visitTypeId,
    providerId: visit.providerId ?? null,
    waiting: visit.approval === 'waiting',
    timeZone,
    link,
  };
}

/** Only for the browser that booked: the id alone opens nothing. */
export async function visitCalendar(
  ctx: Ctx,
  { id, language }: InputOf<typeof calendarContract>,
): Promise<string | Failure<'NotFound'>> {
  const visit = ctx.browserHash && (await visitOfBrowser(ctx.em, id, ctx.browserHash));
  if (!visit) return ctx.fail('NotFound');
  const facts = await calendarFacts(ctx.em, visit.siteId);
  return visitToCalendar(
    {
      id: visit.id,
      start: visit.startsAt,
      end: visit.endsAt,
      sequence: visit.icalSequence,
      cancelled: visit.status === 'cancelled',
      clinic: facts.clinic,
      phone: facts.phone,
      place: facts.place,
      directions: language === 'es' ? facts.directionsEs : facts.directionsEn,
      language,
    },
    { method: 'PUBLISH', stamp: visit.changedAt, organizer: ctx.addresses.mailFrom },
  );
}
