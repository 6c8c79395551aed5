import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  publicClinic,
  publicPayer,
  publicProviders,
  publicVisitTypes,
  Question,
  staffClinic,
} from '@zaguan/contracts/clinic';
import {
  ClinicIndex,
  payerTerms,
  providersToTry,
  searchOpenings,
  settlePolicy,
  type SearchCriteria,
} from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { asksPayer, fieldRows, payerRows } from '../coverage/index.ts';
import type { CustomField } from '../../schema/index.ts';
import { clinicRow, siteRows } from './clinic.repository.ts';
import { personRows, spokenLanguages, visitTypeRows } from './clinic.sql.ts';

export async function describeClinic(
  ctx: Ctx,
  { language }: InputOf<typeof publicClinic>,
): Promise<OutputOf<typeof publicClinic>> {
  const clinic = await clinicRow(ctx.em);
  const sites = (await siteRows(ctx.em)).filter((site) => site.bookableOnline);
  return {
    name: clinic.name,
    phone: clinic.phone,
    payers: (await asksPayer(ctx.em)) ? await payerRows(ctx.em) : [],
    now: ctx.now.toISOString(),
    sites: sites.map((site) => ({
      id: site.id,
      name: site.publicName,
      address: site.addressLine,
      city: `${site.city}, ${site.region} ${site.postalCode}`,
      phone: site.phone,
      timeZone: site.timeZone,
      directions: language === 'es' ? site.directionsEs : site.directionsEn,
    })),
  };
}

/** What a patient of this kind may book online at a site, by the same policy that the search uses. */
export async function listVisitTypes(
  ctx: Ctx,
  { siteId, kind, language }: InputOf<typeof publicVisitTypes>,
): Promise<AnswerOf<typeof publicVisitTypes>> {
  const { date } = epochToWall('UTC', nowMinute(ctx));
  const store = await ctx.clinic({ from: date, until: date });
  if (!store.plan.sites.some((site) => site.id === siteId)) return ctx.fail('NotFound');
  const index = new ClinicIndex(store, nowMinute(ctx));
  const offered = (typeId: string) =>
    providersToTry(index, typeId, null).some((providerId) => {
      const type = index.visitType(typeId);
      const policy = settlePolicy(store.plan.policies, typeId, siteId, providerId);
      return (
        policy.offered.value &&
        policy.kinds.value.includes(kind) &&
        (type.siteIds === null || type.siteIds.includes(siteId))
      );
    });
  /** Told only where no provider's policy keeps it back. */
  const showsLength = (typeId: string) =>
    providersToTry(index, typeId, null).every(
      (providerId) => settlePolicy(store.plan.policies, typeId, siteId, providerId).showLength.value,
    );
  const rows = (await visitTypeRows(ctx.em)).filter((row) => offered(row.id));
  const questions = await fieldRows(ctx.em, 'booking');
  return {
    visitTypes: rows.map((row) => ({
      id: row.id,
      name: language === 'es' ? row.publicNameEs : row.publicNameEn,
      description: language === 'es' ? row.descriptionEs : row.descriptionEn,
      lengthMin: showsLength(row.id) ? row.lengthMin : null,
      needsProvider: row.needsProvider,
      mode: row.mode,
      preparation: language === 'es' ? row.preparationEs : row.preparationEn,
      priceNote: language === 'es' ? row.priceNoteEs : row.priceNoteEn,
      reasons: row.reasons.map((reason) => reason[language]),
      questions: questions
        .filter(({ visitTypeIds }) => visitTypeIds === null || visitTypeIds.includes(row.id))
        .map((each) => toQuestion(each, language)),
    })),
  };
}

function toQuestion(row: CustomField, language: 'en' | 'es'): Question {
  return {
    id: row.id,
    kind: row.kind,
    label: language === 'es' ? row.labelEs : row.labelEn,
    required: row.required,
    choices: row.choices.map((choice) => ({ value: choice.en, label: choice[language] })),
  };
}

/** What a payer comes to for a visit type at a site: accepted if anybody there is accepted with it. */
export async function describePayer(
  ctx: Ctx,
  { payerId, siteId, visitTypeId }: InputOf<typeof publicPayer>,
): Promise<AnswerOf<typeof publicPayer>> {
  const { date } = epochToWall('UTC', nowMinute(ctx));
  const store = await ctx.clinic({ from: date, until: date });
  const { plan } = store;
  if (
    !plan.sites.some((site) => site.id === siteId) ||
    !plan.visitTypes.some((type) => type.id === visitTypeId) ||
    !plan.payerRules.some((row) => row.payerId === payerId)
  )
    return ctx.fail('NotFound');
  const all = providersToTry(new ClinicIndex(store, nowMinute(ctx)), visitTypeId, null).map((providerId) =>
    payerTerms(plan.payerRules, payerId, { visitTypeId, siteId, providerId }),
  );
  const accepting = all.filter(({ accepted }) => accepted);
  return {
    accepted: accepting.length > 0,
    referral: accepting.length > 0 && accepting.every(({ referral }) => referral),
    authorization: accepting.length > 0 && accepting.every(({ authorization }) => authorization),
  };
}

/** Days in which the first free date of each provider is looked for. */
const FIRST_DATE_DAYS = 45;

export async function listProviders(
  ctx: Ctx,
  { siteId, visitTypeId, kind, language }: InputOf<typeof publicProviders>,
): Promise<AnswerOf<typeof publicProviders>> {
  const now = nowMinute(ctx);
  const { date } = epochToWall('UTC', now);
  const store = await ctx.clinic({ from: addDays(date, -1), until: addDays(date, FIRST_DATE_DAYS) });
  if (
    !store.plan.sites.some((site) => site.id === siteId) ||
    !store.plan.visitTypes.some((type) => type.id === visitTypeId)
  )
    return ctx.fail('NotFound');
  const index = new ClinicIndex(store, now);
  const criteria: SearchCriteria = { visitTypeId, kind, channel: 'online' };
  const people = (await personRows(ctx.em)).filter((person) => person.siteIds.includes(siteId));
  const providers = providersToTry(index, visitTypeId, null).flatMap((id) => {
    const person = people.find((row) => row.id === id);
    if (
      !person ||
      !index.resource(person.id).bookableOnline ||
      !settlePolicy(store.plan.policies, visitTypeId, siteId, person.id).offered.value
    )
      return [];
    const first = searchOpenings(index, criteria, {
      siteIds: [siteId],
      providerIds: [person.id],
      from: date,
      until: addDays(date, FIRST_DATE_DAYS),
    }).next();
    return [
      {
        id: person.id,
        name: (language === 'es' && person.publicNameEs) || person.name,
        credentials: person.credentials ?? '',
        bio: (language === 'es' ? person.bioEs : person.bioEn) ?? '',
        languages: person.languages ?? [],
        firstDate: first.done ? null : first.value.date,
      },
    ];
  });
  return { providers };
}

export async function describeForStaff(ctx: Ctx): Promise<OutputOf<typeof staffClinic>> {
  const { name, phone, baseUnitMin, density, lateAfterMin, lateRule } = await clinicRow(ctx.em);
  const languages = [...(await spokenLanguages(ctx.em))];
  return {
    name,
    phone,
    baseUnitMin,
    density,
    lateAfterMin,
    lateRule,
    languages,
    payers: await payerRows(ctx.em),
    now: ctx.now.toISOString(),
    sites: (await siteRows(ctx.em)).map((site) => ({ id: site.id, name: site.name, timeZone: site.timeZone })),
    people: (await personRows(ctx.em)).map((row) => ({
      id: row.id,
      name: row.name,
      shortName: row.shortName,
      kind: row.kind,
      credentials: row.credentials ?? '',
      color: row.color,
      siteIds: [...row.siteIds],
    })),
    visitTypes: (await visitTypeRows(ctx.em)).map((row) => ({
      id: row.id,
      name: row.name,
      color: row.color,
      lengthMin: row.lengthMin,
      needsProvider: row.needsProvider,
      expectedFeeUsd: row.expectedFeeUsd,
    })),
  };
}
