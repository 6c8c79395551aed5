import * as contract from '@zaguan/contracts/patientVisit';
import { stillToTell } from '@zaguan/core/daybook';
import { visitToCalendar } from '../../exchange/visitCalendar.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { handle, handleKeeping } from '../../platform/endpoint/handler.ts';
import { appointmentForUpdate, cancelAppointment } from '../booking/index.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { setConfirmed } from '../messages/index.ts';
import { enterLink } from './enterLink.ts';
import { type LinkedVisit, visitOfLink } from './patientVisit.sql.ts';

export { enterLink, judgeBirthDate } from './enterLink.ts';

const HOUR_MS = 3_600_000;
const MINUTE_MS = 60_000;

function toDetails(ctx: Ctx, visit: LinkedVisit, language: 'en' | 'es'): contract.VisitDetails {
  const start = new Date(visit.startsAt);
  const cancelUntil = new Date(start.getTime() - visit.cancelUntilHours * HOUR_MS);
  const open = visit.status === 'booked' || visit.status === 'pending';
  const status =
    visit.status === 'cancelled'
      ? 'cancelled'
      : open
        ? new Date(visit.endsAt) <= ctx.now
          ? 'over'
          : 'booked'
        : visit.status === 'arrived' || visit.status === 'checked-in'
          ? 'here'
          : 'over';
  const at = { id: visit.appointmentId, status: visit.status, start: start.getTime() / MINUTE_MS };
  // As the message says it, and to whom it says it.
  const isLate = visit.delayMin !== null && stillToTell([at], nowMinute(ctx), visit.delayMin).length > 0;
  return {
    startsAbout: isLate ? new Date(start.getTime() + (visit.delayMin ?? 0) * MINUTE_MS).toISOString() : null,
    start: start.toISOString(),
    end: new Date(visit.endsAt).toISOString(),
    timeZone: visit.timeZone,
    site: visit.site,
    address: visit.address,
    directions: language === 'es' ? visit.directionsEs : visit.directionsEn,
    visitType: language === 'es' ? visit.typeEs : visit.typeEn,
    provider: language === 'es' ? visit.providerEs : visit.providerEn,
    status,
    preparation: language === 'es' ? visit.preparationEs : visit.preparationEn,
    waiting: visit.approval === 'waiting',
    asksToConfirm: visit.asksToConfirm && visit.approval !== 'waiting',
    confirmed: visit.confirmedAt !== null,
    mayCancel: status === 'booked' && ctx.now <= cancelUntil,
    cancelUntil: cancelUntil.toISOString(),
    calendar: visitToCalendar(
      {
        id: visit.appointmentId,
        start,
        end: new Date(visit.endsAt),
        sequence: visit.icalSequence,
        cancelled: visit.status === 'cancelled',
        clinic: visit.clinic,
        phone: visit.phone,
        place: `${visit.site}, ${visit.address}`,
        directions: language === 'es' ? visit.directionsEs : visit.directionsEn,
        language,
      },
      { method: 'PUBLISH', stamp: new Date(visit.changedAt), organizer: ctx.addresses.mailFrom },
    ),
  };
}

export const patientVisitEndpoints = [
  handle(contract.lookAtLink, async (ctx, { token }) => {
    const visit = await visitOfLink(ctx.em, hashOfToken(token), ctx.now);
    if (!visit) return ctx.fail('LinkGone');
    return {
      clinic: visit.clinic,
      phone: visit.phone,
      date: visit.siteDate,
      locked: visit.lockedUntil !== null && new Date(visit.lockedUntil) > ctx.now,
    };
  }),
  handleKeeping(contract.openLink, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    return visit instanceof Failure ? visit : { visit: toDetails(ctx, visit, input.language) };
  }),
  handleKeeping(contract.confirmByLink, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    if (visit instanceof Failure) return visit;
    if (visit.status !== 'booked' || new Date(visit.endsAt) <= ctx.now) return ctx.fail('WrongStatus');
    if (!visit.confirmedAt) {
      await setConfirmed(ctx.em, visit.appointmentId, ctx.now);
      ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
      ctx.wrote({
        subjects: [{ kind: 'appointment', id: visit.appointmentId }],
        after: { confirmed: true, by: 'link' },
      });
    }
    return { visit: { ...toDetails(ctx, visit, input.language), confirmed: true } };
  }),
  handleKeeping(contract.cancelByLink, async (ctx, input) => {
    const visit = await enterLink(ctx, input);
    if (visit instanceof Failure) return visit;
    const details = toDetails(ctx, visit, input.language);
    if (details.status === 'cancelled') return { visit: details };
    if (details.status !== 'booked') return ctx.fail('WrongStatus');
    if (!details.mayCancel) return ctx.fail('AfterCutOff');
    const appointment = await appointmentForUpdate(ctx.em, visit.appointmentId);
    const result = appointment
      ? await cancelAppointment(ctx, appointment, { reason: 'patient-asked', note: '' })
      : ctx.fail('LinkGone');
    return result instanceof Failure
      ? result
      : { visit: { ...details, status: 'cancelled' as const, mayCancel: false } };
  }),
];
