import type { InputOf } from '@zaguan/contracts';
import { addRelationship, endRelationship, patientRecord, saveFields } from '@zaguan/contracts/patients';
import { answersThatCount, flatten, plainAnswers } from '@zaguan/core/intake';
import { fullName, type TrailChange, type TrailField, trailChanges } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import { personRows, siteRows } from '../clinic/index.ts';
import { fieldRows } from '../coverage/index.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { addWhoMayAct, endWhoMayAct, relationshipsOf, saveOwnFields } from './editPatient.ts';
import { patientRow, visitRowsOf } from './patients.repository.ts';
import { consentRows, contactRows, type FormRow, formRows, sentRows, trailRows } from './patients.sql.ts';

const wire = (text: string) => new Date(text).toISOString();

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

async function show(ctx: Ctx, { id }: InputOf<typeof patientRecord>): Promise<AnswerOf<typeof patientRecord>> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.restricted && !mayOpenRestricted(ctx)) return ctx.fail('NotAllowed');
  ctx.viewed([id]);
  const visits = await visitRowsOf(ctx.em, id);
  const trail = await trailRows(
    ctx.em,
    id,
    visits.map((visit) => visit.id),
  );
  const own = await fieldRows(ctx.em, 'patient');
  const names = new Map([...(await siteRows(ctx.em)), ...(await personRows(ctx.em))].map(({ id, name }) => [id, name]));
  const named = (field: TrailField, value: TrailChange['before']) =>
    field === 'site' || field === 'provider' ? (names.get(String(value)) ?? null) : value;
  return {
    record: {
      id: row.id,
      recordNumber: row.recordNumber,
      name: fullName(row.givenName, row.familyName),
      preferredName: row.preferredName,
      birthDate: row.birthDate,
      sex: row.sex,
      language: row.language,
      status: row.status,
      restricted: row.restricted,
      version: row.version,
      mayEdit: ctx.scope('patients.edit') !== 'no',
      fields: own.map((field) => ({
        id: field.id,
        kind: field.kind,
        label: field.labelEn,
        required: field.required,
        choices: field.choices.map(({ en }) => en),
        value: row.fields[field.id] ?? null,
      })),
      relationships: await relationshipsOf(ctx, row),
      contacts: (await contactRows(ctx.em, id)).map(({ value, optedOut }) => ({ value, optedOut: optedOut })),
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
        upcoming: visit.endsAt > ctx.now,
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

export const patientsEndpoints = [
  handle(patientRecord, show),
  handle(saveFields, saveOwnFields),
  handle(addRelationship, addWhoMayAct),
  handle(endRelationship, endWhoMayAct),
];

/** Commands that may stand as an inverse. */
export { patientsCommands } from './editPatient.ts';
