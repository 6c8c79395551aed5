import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { type PatientPatch, type PatientRow, patientRow, setPatient } from './patients.repository.ts';

/** The patient, if the caller may change the record. What was merged away is nobody's to change. */
export async function editable(ctx: Ctx, id: string): Promise<PatientRow | Failure<'NotAllowed' | 'NotFound'>> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  return (await mayOpenRecord(ctx, row)) && row.status !== 'archived' ? row : ctx.fail('NotAllowed');
}

/** The same at the version that the caller has read. */
export async function editableAt(
  ctx: Ctx,
  id: string,
  version: number,
): Promise<PatientRow | Failure<'NotAllowed' | 'NotFound' | 'ChangedMeanwhile'>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  return row.version === version ? row : ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
}

/** Those columns of a row that a patch would write, as they stand; what the patch leaves the same is left out of both. */
export function differenceOf(row: PatientRow, patch: PatientPatch): { before: PatientPatch; after: PatientPatch } {
  const isSame = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  const changed = (Object.keys(patch) as (keyof PatientPatch)[]).filter(
    (key) => patch[key] !== undefined && !isSame(row[key], patch[key]),
  );
  const pick = (from: PatientPatch) => Object.fromEntries(changed.map((key) => [key, from[key] ?? null]));
  return { before: pick(row), after: pick(patch) };
}

/**
 * Writes columns of a record, with the trail and the way back. Two who write at once: the second is told.
 *
 * @param command the way back; it asks for the same right as the act
 */
export async function writePatient(
  ctx: Ctx,
  row: PatientRow,
  patch: PatientPatch,
  what: string,
  command: 'patients.putBack' | 'patients.putRestriction' = 'patients.putBack',
): Promise<{ version: number; undo: { id: string } } | Failure<'ChangedMeanwhile'>> {
  const { id, version } = row;
  const { before, after } = differenceOf(row, patch);
  if (!(await setPatient(ctx.em, id, version, after))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { ...before }, after: { ...after } });
  const undo = await ctx.undoable({
    command,
    input: { id, version: version + 1, patch: before },
    label: { what },
  });
  return { version: version + 1, undo };
}

/** The inverse of writing columns: what stood there before, if nobody wrote since. */
export async function putBack(
  ctx: Ctx,
  { id, version, patch }: { id: string; version: number; patch: PatientPatch },
): Promise<UndoAnswer> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  const { before, after } = differenceOf(row, patch);
  if (!(await setPatient(ctx.em, id, version, after))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { ...before }, after: { ...after } });
  return {};
}
