import type { InputOf } from '@zaguan/contracts';
import type { PatientRecord, patientRecord } from '@zaguan/contracts/patients';
import { answersThatCount, flatten, plainAnswers } from '@zaguan/core/intake';
import {
  ageOn,
  fullName,
  restrictedName,
  type TrailChange,
  type TrailField,
  trailChanges,
} from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { personRows, siteRows } from '../clinic/index.ts';
import { fieldRows } from '../coverage/index.ts';
import { briefs } from '../patientSearch/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { contactsOf, ledgerOf, sharers } from './contacts.repository.ts';
import {
  codeRows,
  formerNameRows,
  householdMembers,
  householdName,
  type PatientRow,
  patientRow,
  visitRowsOf,
} from './patients.repository.ts';
import { consentRows, type FormRow, formRows, sentRows, trailRows } from './patients.sql.ts';
import { relationshipsOf } from './relationships.ts';

const wire = (text: string) => new Date(text).toISOString();

const identityOf = (row: PatientRow, today: string) => ({
  id: row.id,
  recordNumber: row.recordNumber,
  name: fullName(row.givenName, row.familyName),
  givenName: row.givenName,
  familyName: row.familyName,
  preferredName: row.preferredName,
  birthDate: row.birthDate,
  age: ageOn(row.birthDate, row.deceasedOn ?? today),
  sex: row.sex,
});

const addressOf = ({ street, city, region, postalCode }: PatientRow) => ({ street, city, region, postalCode });

/** Fields of the trail that hold an id. */
const NAMED: ReadonlySet<TrailField> = new Set(['site', 'provider', 'home-site', 'home-provider']);

/** Everybody of the household, with when they come; of a restricted record no more than initials. */
async function householdOf(ctx: Ctx, row: PatientRow, today: string): Promise<PatientRecord['household']> {
  if (!row.householdId) return null;
  const members = (await householdMembers(ctx.em, row.householdId)).filter(({ id }) => id !== row.id);
  const visits = new Map(
    (
      await briefs(
        ctx.em,
        members.map(({ id }) => id),
        ctx.now,
      )
    ).map((brief) => [brief.id, brief]),
  );
  const shown = [];
  for (const member of members) {
    const { id, givenName, familyName, birthDate, status } = member;
    const isOpen = await mayOpenRecord(ctx, member);
    const brief = visits.get(id);
    shown.push({
      id: isOpen ? id : null,
      name: isOpen ? fullName(givenName, familyName) : restrictedName(givenName, familyName),
      age: isOpen ? ageOn(birthDate, today) : null,
      status,
      nextVisit: isOpen ? (brief?.nextVisit ?? null) : null,
      lastVisit: isOpen ? (brief?.lastVisit ?? null) : null,
    });
  }
  ctx.viewed(shown.flatMap(({ id }) => id ?? []));
  return { name: await householdName(ctx.em, row.householdId), members: shown };
}

/** The latest word about automated messages counts, whoever shares the number. */
const ABOUT_MESSAGES: ReadonlySet<string> = new Set(['consented', 'revoked', 'wrong-number']);

/** Numbers and addresses in their order, with what is known of each. */
async function waysToReach(ctx: Ctx, patientId: string): Promise<PatientRecord['contacts']> {
  const rows = await contactsOf(ctx.em, patientId);
  const ids = rows.map(({ contactPointId }) => contactPointId);
  const ledger = await ledgerOf(ctx.em, ids);
  const shared = await sharers(ctx.em, ids);
  return rows.flatMap(({ contactPointId, contactPoint, use }) => {
    if (!contactPoint) return [];
    const entries = ledger.filter((entry) => entry.contactPointId === contactPointId);
    const latest = entries.find(({ event, purpose }) => purpose !== 'recalls' && ABOUT_MESSAGES.has(event))?.event;
    const isWrong = latest === 'wrong-number';
    const proved = entries.find(
      ({ event, patientId: whose }) => event === 'verified' && (!whose || whose === patientId),
    );
    return [
      {
        id: contactPointId,
        kind: contactPoint.kind,
        use,
        value: contactPoint.value,
        optedOut: latest === 'revoked' || isWrong,
        isWrong,
        verifiedAt: isWrong || !proved ? null : proved.at.toISOString(),
        sharedBy: (shared.get(contactPointId) ?? 1) - 1,
        ledger: entries.map(({ event, how, at, wording }) => ({ event, how, at: at.toISOString(), wording })),
      },
    ];
  });
}

/** The answers that count, in reading order, a choice by its option's words. */
function answersToRead({ title, items, answers }: FormRow) {
  const counting = answersThatCount({ title, items }, plainAnswers(answers));
  return flatten(items).flatMap(({ item }) => {
    const value = counting[item.linkId];
    return value
      ? [
          {
            question: item.text,
            value: value.map((each) => item.options?.find(({ code }) => code === each)?.text ?? each),
          },
        ]
      : [];
  });
}

export async function showRecord(
  ctx: Ctx,
  { id }: InputOf<typeof patientRecord>,
): Promise<AnswerOf<typeof patientRecord>> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (!(await mayOpenRecord(ctx, row))) return ctx.fail('NotAllowed');
  ctx.viewed([id]);
  const visits = await visitRowsOf(ctx.em, id);
  const trail = await trailRows(
    ctx.em,
    id,
    visits.map((visit) => visit.id),
  );
  const own = await fieldRows(ctx.em, 'patient');
  const sites = await siteRows(ctx.em);
  const { date: today } = epochToWall(sites[0]?.timeZone ?? 'UTC', nowMinute(ctx));
  const names = new Map([...sites, ...(await personRows(ctx.em))].map(({ id, name }) => [id, name]));
  const nameOf = (id: string | null | undefined) => (id ? (names.get(id) ?? null) : null);
  const named = (field: TrailField, value: TrailChange['before']) =>
    NAMED.has(field) ? nameOf(value === null ? null : String(value)) : value;
  return {
    record: {
      ...identityOf(row, today),
      ...addressOf(row),
      formerNames: (await formerNameRows(ctx.em, id)).map(({ givenName, familyName, endedAt }) => ({
        name: fullName(givenName || row.givenName, familyName || row.familyName),
        until: endedAt.toISOString(),
      })),
      language: row.language,
      interpreter: row.interpreter,
      access: row.access,
      extraMin: row.extraMin,
      companion: row.companion,
      homeSiteId: row.homeSiteId,
      homeSiteName: nameOf(row.homeSiteId),
      homeProviderId: row.homeProviderId,
      homeProviderName: nameOf(row.homeProviderId),
      referralSource: row.referralSource,
      staffNotes: row.staffNotes,
      alert: row.alert,
      codes: (await codeRows(ctx.em, id)).map(({ code, words }) => ({ code, words })),
      status: row.status,
      deceasedOn: row.deceasedOn,
      restricted: row.restricted,
      restrictedBecause: row.restrictedBecause,
      version: row.version,
      mayEdit: ctx.scope('patients.edit') !== 'no' && row.status !== 'archived',
      mayRestrict: ctx.scope('patients.restrict') !== 'no',
      household: await householdOf(ctx, row, today),
      fields: own.map((field) => ({
        id: field.id,
        kind: field.kind,
        label: field.labelEn,
        required: field.required,
        choices: field.choices.map(({ en }) => en),
        value: row.fields[field.id] ?? null,
      })),
      relationships: await relationshipsOf(ctx, row),
      contacts: await waysToReach(ctx, id),
      visits: visits.map((visit) => ({
        id: visit.id,
        date: visit.siteDate,
        start: visit.startsAt.toISOString(),
        timeZone: visit.site.timeZone,
        siteName: visit.site.name,
        visitType: visit.visitType.name,
        provider: visit.provider?.shortName ?? null,
        status: visit.status,
        origin: visit.origin,
        reason: visit.reasonText,
        // A canceled one is history, whenever it would have been.
        upcoming: visit.endsAt > ctx.now && visit.status !== 'cancelled',
      })),
      messages: (await sentRows(ctx.em, id)).map((row) => ({
        id: row.id,
        kind: row.kind,
        step: row.step,
        contact: row.contact,
        at: wire(row.sendAt),
        status: row.status,
        visitDate: row.visitDate,
      })),
      forms: (await formRows(ctx.em, id)).map((row) => ({
        id: row.id,
        name: row.name,
        visitDate: row.siteDate,
        at: wire(row.savedAt),
        completed: row.status === 'completed',
        answers: answersToRead(row),
      })),
      consents: (await consentRows(ctx.em, id)).map((row) => ({
        id: row.id,
        name: row.name,
        version: row.version,
        visitDate: row.siteDate,
        at: wire(row.signedAt),
        signer: row.signer,
        signerName: row.signerName,
        language: row.language,
      })),
      trail: trail.map((entry) => ({
        at: wire(entry.at),
        kind: entry.kind,
        command: entry.command,
        actor: entry.actorKind,
        by: entry.by,
        changes: trailChanges(entry.before, entry.after).map(({ field, ownFieldId, before, after }) => ({
          field,
          label: own.find(({ id }) => id === ownFieldId)?.labelEn ?? null,
          before: named(field, before),
          after: named(field, after),
        })),
      })),
    },
  };
}
