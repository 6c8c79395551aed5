import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf } from '@zaguan/contracts';
import type {
  addRelationship as addContract,
  endRelationship as endContract,
  PatientRecord,
} from '@zaguan/contracts/patients';
import { fullName, majorityAge, RIGHTS, rightsOn } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { editable } from './editable.ts';
import {
  deleteRelationship,
  insertRelationship,
  type PatientRow,
  relationshipRows,
  setUntil,
} from './patients.repository.ts';
import { mainSiteOf } from './patients.sql.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';

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

export async function removeWhoMayAct(
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

export async function putLastDate(
  ctx: Ctx,
  { id, relationshipId, until }: { id: string; relationshipId: string; until: string | null },
): Promise<UndoAnswer> {
  const before = await setLastDate(ctx, id, relationshipId, until);
  return before instanceof Failure ? before : {};
}
