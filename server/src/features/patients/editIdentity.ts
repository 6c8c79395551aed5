import type { InputOf } from '@zaguan/contracts';
import type { saveIdentity as contract } from '@zaguan/contracts/patients';
import { judgeIdentityChange, reasonFits } from '@zaguan/core/patients';
import { type Ctx, latestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { indexNamesOf } from '../patientSearch/index.ts';
import { differenceOf, editableAt } from './editable.ts';
import {
  deleteFormerName,
  insertFormerName,
  type PatientPatch,
  type PatientRow,
  setPatient,
} from './patients.repository.ts';

/**
 * Names, date of birth and sex. A changed name or birth date needs a reason; a new name keeps the old one as a former name,
 * by which the patient is found as well; a change that would turn the record into another person's is refused.
 */
export async function saveIdentity(
  ctx: Ctx,
  { id, version, reason, ...identity }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  // Born today somewhere is born.
  if (identity.birthDate > latestDate(ctx))
    return ctx.fail('InvalidInput', { issues: [{ path: 'birthDate', code: 'birth-in-future' }] });
  const verdict = judgeIdentityChange(row, identity);
  if (verdict === 'someone-else') return ctx.fail('SomeoneElse');
  if (verdict === 'ask' && reason === null)
    return ctx.fail('InvalidInput', { issues: [{ path: 'reason', code: 'reason-needed' }] });
  if (reason && verdict === 'ask' && !reasonFits(reason, row, identity))
    return ctx.fail('InvalidInput', { issues: [{ path: 'reason', code: 'birth-date-stays' }] });
  const patch = { ...identity, preferredName: identity.preferredName || null };
  const formerNameId = reason === 'new-name' && verdict === 'ask' ? await keepName(ctx, row, identity) : null;
  const changed = await write(ctx, row, patch);
  if (changed instanceof Failure) return changed;
  const undo = await ctx.undoable({
    command: 'patients.putIdentityBack',
    input: { id, version: version + 1, patch: changed.before, formerNameId },
    label: { what: 'identity' },
  });
  return { version: version + 1, undo };
}

async function write(ctx: Ctx, row: PatientRow, patch: PatientPatch) {
  const { id, version } = row;
  const { before, after } = differenceOf(row, patch);
  if (!(await setPatient(ctx.em, id, version, after))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  await indexNamesOf(ctx.em, id);
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { ...before }, after: { ...after } });
  return { before };
}

/** The parts of a name that are no longer the patient's. */
async function keepName(
  ctx: Ctx,
  row: PatientRow,
  now: { readonly givenName: string; readonly familyName: string },
): Promise<string | null> {
  const givenName = row.givenName === now.givenName ? '' : row.givenName;
  const familyName = row.familyName === now.familyName ? '' : row.familyName;
  // A part that was empty before is no name that anybody would look for.
  if (!givenName && !familyName) return null;
  const id = ctx.newId();
  await insertFormerName(ctx.em, { id, patientId: row.id, givenName, familyName, endedAt: ctx.now });
  return id;
}

/** The inverse: the name that stood there, and no former name of it. */
export async function putIdentityBack(
  ctx: Ctx,
  {
    id,
    version,
    patch,
    formerNameId,
  }: { id: string; version: number; patch: PatientPatch; formerNameId: string | null },
): Promise<UndoAnswer> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  if (formerNameId) await deleteFormerName(ctx.em, formerNameId);
  const changed = await write(ctx, row, patch);
  return changed instanceof Failure ? changed : {};
}
