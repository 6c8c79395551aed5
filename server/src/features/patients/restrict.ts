import type { InputOf } from '@zaguan/contracts';
import type { openRestricted as openContract, restrict as restrictContract } from '@zaguan/contracts/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { insertOpening } from '../restricted/index.ts';
import { editableAt, writePatient } from './editable.ts';
import { patientRow } from './patients.repository.ts';

/** Restricts a record or lifts that; the reason stands with it, and in the trail. */
export async function restrict(
  ctx: Ctx,
  { id, version, restricted, reason }: InputOf<typeof restrictContract>,
): Promise<AnswerOf<typeof restrictContract>> {
  const row = await editableAt(ctx, id, version);
  if (row instanceof Failure) return row;
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { reasonGiven: reason } });
  const patch = { restricted, restrictedBecause: restricted ? reason : '' };
  return writePatient(ctx, row, patch, 'restricted', 'patients.putRestriction');
}

/** So long a record that was opened with a reason stays open to the account that gave it. */
const OPEN_MS = 60 * 60_000;

/** Opens a restricted record for somebody whose role does not; a manager reads who did and why. */
export async function openRestricted(
  ctx: Ctx,
  { id, reason }: InputOf<typeof openContract>,
): Promise<AnswerOf<typeof openContract>> {
  const row = await patientRow(ctx.em, id);
  if (!row || ctx.actor.kind !== 'staff') return ctx.fail('NotFound');
  // A record that anybody may open needs no reason, and nobody is told of one.
  if (!row.restricted) return ctx.fail('NotFound');
  const until = new Date(ctx.now.getTime() + OPEN_MS);
  const { accountId } = ctx.actor;
  await insertOpening(ctx.em, { id: ctx.newId(), patientId: id, accountId, reason, at: ctx.now, until });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { openedUntil: until.toISOString(), reasonGiven: reason } });
  ctx.emit({ type: 'work-changed' });
  return { until: until.toISOString() };
}
