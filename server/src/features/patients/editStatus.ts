import type { InputOf } from '@zaguan/contracts';
import type { savePatientStatus as contract } from '@zaguan/contracts/patients';
import type { AppointmentStatus, CancelReason } from '@zaguan/core/visits';
import { type Ctx, latestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { appointmentsForUpdate, cancelAppointment, restoreVisit } from '../booking/index.ts';
import { differenceOf, editableAt } from './editable.ts';
import { comingVisitIds, type PatientPatch, type PatientRow, setPatient } from './patients.repository.ts';

const DIED: CancelReason = 'died';

/**
 * Active, inactive or deceased. Of somebody who has died everything planned stops in the same moment: visits to come are
 * canceled, their times are free, and nobody is sent a message about it.
 */
export async function savePatientStatus(
  ctx: Ctx,
  { id, version, status, deceasedOn }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  if (deceasedOn !== null && deceasedOn > latestDate(ctx))
    return ctx.fail('InvalidInput', { issues: [{ path: 'deceasedOn', code: 'date-in-future' }] });
  if (deceasedOn !== null && deceasedOn < row.birthDate)
    return ctx.fail('InvalidInput', { issues: [{ path: 'deceasedOn', code: 'before-birth' }] });
  const canceled = status === 'deceased' ? await cancelComing(ctx, id) : [];
  const before = await write(ctx, row, { status, deceasedOn: status === 'deceased' ? deceasedOn : null });
  if (before instanceof Failure) return before;
  const undo = await ctx.undoable({
    command: 'patients.putStatus',
    input: { id, version: version + 1, patch: before, canceled },
    label: { what: 'patient-status' },
  });
  return { version: version + 1, canceled: canceled.length, undo };
}

type Canceled = { id: string; to: AppointmentStatus; version: number };

/** Visits that are still to come, and those of people in the house who were not seen yet. */
async function cancelComing(ctx: Ctx, patientId: string): Promise<Canceled[]> {
  const canceled: Canceled[] = [];
  const visits = await appointmentsForUpdate(ctx.em, await comingVisitIds(ctx.em, patientId, ctx.now));
  for (const visit of visits) {
    const result = await cancelAppointment(ctx, visit, { reason: DIED, note: '', silent: true });
    // Whatever is over by now needs no canceling.
    if (!(result instanceof Failure)) canceled.push({ id: visit.id, to: visit.status, version: result.version });
  }
  return canceled;
}

async function write(ctx: Ctx, row: PatientRow, patch: PatientPatch) {
  const { id, version } = row;
  const { before, after } = differenceOf(row, patch);
  if (!(await setPatient(ctx.em, id, version, after))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  const named = ({ status, deceasedOn }: PatientPatch) => ({ patientStatus: status, deceasedOn });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: named(before), after: named(after) });
  return before;
}

/** The inverse: the status that stood there, and each canceled visit at its time, if all of them still can. */
export async function putStatus(
  ctx: Ctx,
  { id, version, patch, canceled }: { id: string; version: number; patch: PatientPatch; canceled: readonly Canceled[] },
): Promise<UndoAnswer> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  const before = await write(ctx, row, patch);
  if (before instanceof Failure) return before;
  for (const visit of canceled) {
    const result = await restoreVisit(ctx, visit);
    if (result instanceof Failure) return result;
  }
  return {};
}
