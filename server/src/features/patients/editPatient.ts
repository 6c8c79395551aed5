import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf } from '@zaguan/contracts';
import type {
  addRelationship as addContract,
  endRelationship as endContract,
  PatientRecord,
  saveFields as fieldsContract,
} from '@zaguan/contracts/patients';
import { fullName, majorityAge, RIGHTS, rightsOn } from '@zaguan/core/patients';
import { answerFaults } from '@zaguan/core/setup';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { fieldRows } from '../coverage/index.ts';
import {
  deleteRelationship,
  insertRelationship,
  type PatientRow,
  patientRow,
  relationshipRows,
  setFields,
  setUntil,
} from './patients.repository.ts';
import { mainSiteOf } from './patients.sql.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { type UndoAnswer, undoWith } from '../../platform/undo/undo.ts';

/** Who may act for a patient, with what that comes to today: a parent's rights end with majority in the state of the site. */
export async function relationshipsOf(ctx: Ctx, patient: PatientRow): Promise<PatientRecord['relationships']> {
  const { region, timeZone } = await mainSiteOf(ctx.em, patient.id);
  const today = epochToWall(timeZone, nowMinute(ctx)).date;
  const who = { birthDate: patient.birthDate, majorityAge: majorityAge(region) };
  return (await relationshipRows(ctx.em, patient.id)).map((row) => {
    const has = { book: row.mayBook, sign: row.maySign, receive: row.mayReceive, see: row.maySee };
    const rights = RIGHTS.filter((right) => has[right]);
    const relationship = { kind: row.kind, rights, fromDate: row.fromDate, untilDate: row.untilDate };
    return {
      id: row.id,
      name: row.relatedName ?? fullName(row.relatedPatient?.givenName ?? '', row.relatedPatient?.familyName ?? ''),
      relatedPatientId: row.relatedPatientId,
      ...relationship,
      rightsToday: [...rightsOn(relationship, today, who)],
      limits: row.limits,
    };
  });
}

/** The patient, if the caller may change the record. */
async function editable(ctx: Ctx, id: string): Promise<PatientRow | Failure<'NotAllowed' | 'NotFound'>> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  return row.restricted && !mayOpenRestricted(ctx) ? ctx.fail('NotAllowed') : row;
}

export async function saveOwnFields(
  ctx: Ctx,
  { id, version, answers }: InputOf<typeof fieldsContract>,
): Promise<AnswerOf<typeof fieldsContract>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const fields = await fieldRows(ctx.em, 'patient');
  const faults = answerFaults(
    fields.map((field) => ({ ...field, choices: field.choices.map(({ en }) => en) })),
    answers,
  );
  if (Object.keys(faults).length)
    return ctx.fail('InvalidInput', {
      issues: Object.entries(faults).map(([field, code]) => ({ path: `answers.${field}`, code })),
    });
  // What stands in fields that are not in use any more stays.
  const inUse = new Set(fields.map((field) => field.id));
  const kept = Object.entries(row.fields).filter(([field]) => !inUse.has(field));
  const given = Object.entries(answers).filter(([field, answer]) => inUse.has(field) && answer !== '');
  const next = Object.fromEntries([...kept, ...given]);
  if (!(await setFields(ctx.em, id, version, next)))
    return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { fields: row.fields }, after: { fields: next } });
  return {
    undo: await ctx.undoable({
      command: 'patients.putFields',
      input: { id, version: version + 1, fields: row.fields },
      label: { what: 'fields' },
    }),
  };
}

async function putFields(
  ctx: Ctx,
  { id, version, fields }: { id: string; version: number; fields: PatientRow['fields'] },
): Promise<UndoAnswer> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  if (!(await setFields(ctx.em, id, version, fields)))
    return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { fields: row.fields }, after: { fields } });
  return {};
}

export async function addWhoMayAct(
  ctx: Ctx,
  { id, ...relationship }: InputOf<typeof addContract>,
): Promise<AnswerOf<typeof addContract>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const relationshipId = ctx.newId();
  await insertRelationship(ctx.em, { ...relationship, id: relationshipId, patientId: id });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { relationship } });
  return {
    undo: await ctx.undoable({
      command: 'patients.removeRelationship',
      input: { id, relationshipId },
      label: { what: 'relationship' },
    }),
  };
}

async function removeWhoMayAct(
  ctx: Ctx,
  { id, relationshipId }: { id: string; relationshipId: string },
): Promise<UndoAnswer> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  await deleteRelationship(ctx.em, relationshipId);
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { relationshipRemoved: relationshipId } });
  return {};
}

/** A last date instead of a deletion: what was allowed before stays to be seen. */
async function setLastDate(ctx: Ctx, id: string, relationshipId: string, until: string | null) {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const before = await setUntil(ctx.em, id, relationshipId, until);
  if (!before) return ctx.fail('NotFound');
  if (until !== null && until < before.from)
    return ctx.fail('InvalidInput', { issues: [{ path: 'untilDate', code: 'until-before-from' }] });
  ctx.wrote({
    subjects: [{ kind: 'patient', id }],
    before: { relationshipId, until: before.until },
    after: { relationshipId, until },
  });
  return before;
}

export async function endWhoMayAct(
  ctx: Ctx,
  { id, relationshipId, untilDate }: InputOf<typeof endContract>,
): Promise<AnswerOf<typeof endContract>> {
  const before = await setLastDate(ctx, id, relationshipId, untilDate);
  if (before instanceof Failure) return before;
  return {
    undo: await ctx.undoable({
      command: 'patients.putLastDate',
      input: { id, relationshipId, until: before.until },
      label: { what: 'relationship' },
    }),
  };
}

async function putLastDate(
  ctx: Ctx,
  { id, relationshipId, until }: { id: string; relationshipId: string; until: string | null },
): Promise<UndoAnswer> {
  const before = await setLastDate(ctx, id, relationshipId, until);
  return before instanceof Failure ? before : {};
}

/** Commands that may stand as an inverse. */
export const patientsCommands = {
  'patients.putFields': undoWith('patients.edit', putFields),
  'patients.removeRelationship': undoWith('patients.edit', removeWhoMayAct),
  'patients.putLastDate': undoWith('patients.edit', putLastDate),
};
