import type { InputOf } from '@zaguan/contracts';
import type { sendDetails as sendContract, visitDetails as detailsContract } from '@zaguan/contracts/desk';
import { fullName } from '@zaguan/core/patients';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { clinicRow } from '../clinic/index.ts';
import { confirmOnceMore } from '../messages/index.ts';
import { isHidden } from '../restricted/index.ts';
import { publicNameEs, visitWithNames } from './desk.repository.ts';

/** What a patient takes home about a visit, in their language. */
export async function visitDetails(
  ctx: Ctx,
  { id }: InputOf<typeof detailsContract>,
): Promise<AnswerOf<typeof detailsContract>> {
  const visit = await visitWithNames(ctx.em, id);
  if (!visit?.patient) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.book', visit.siteId) || (await isHidden(ctx, id))) return ctx.fail('NotAllowed');
  ctx.viewed([visit.patient.id]);
  const { site, visitType, provider, patient } = visit;
  const { language } = patient;
  const inSpanish = language === 'es';
  const spanishName = inSpanish && provider ? await publicNameEs(ctx.em, provider.id) : '';
  return {
    language,
    clinic: (await clinicRow(ctx.em)).name,
    patient: fullName(patient.givenName, patient.familyName),
    date: visit.siteDate,
    start: visit.startsAt.toISOString(),
    timeZone: site.timeZone,
    visitType: inSpanish ? visitType.publicNameEs : visitType.publicNameEn,
    provider: provider && (spanishName || provider.name),
    site: site.publicName,
    address: `${site.addressLine}, ${site.city}, ${site.region} ${site.postalCode}`,
    phone: site.phone,
    directions: inSpanish ? site.directionsEs : site.directionsEn,
    preparation: inSpanish ? visitType.preparationEs : visitType.preparationEn,
  };
}

/** The confirmation once more, for who lost it or was on the phone. */
export async function sendDetails(
  ctx: Ctx,
  { id }: InputOf<typeof sendContract>,
): Promise<AnswerOf<typeof sendContract>> {
  const visit = await visitWithNames(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  // The answer says where it went: nobody's number is told to who may not see them.
  if (!coversSite(ctx, 'appointment.book', visit.siteId) || (await isHidden(ctx, id))) return ctx.fail('NotAllowed');
  if (visit.status !== 'booked' || visit.startsAt <= ctx.now)
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  const told = await confirmOnceMore(ctx, id);
  ctx.wrote({ subjects: [{ kind: 'appointment', id }], after: { detailsSent: told !== null } });
  return { told };
}
