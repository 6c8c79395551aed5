import type { InputOf } from '@zaguan/contracts';
import type { decideRecall as decideContract, takeBackChoice as takeBackContract } from '@zaguan/contracts/recalls';
import { accountIdOf, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { RecallChoice } from '../../schema/index.ts';
import { peopleToday } from './facts.sql.ts';
import { patientFor } from './people.ts';
import { choiceForUpdate, endChoice, insertChoice, planRow } from './recalls.repository.ts';

/** What is wrong with the date of what is said; `null`: nothing. */
function dateFault(kind: RecallChoice['kind'], date: string | null, today: string): string | null {
  switch (kind) {
    case 'declined':
      return date === null ? null : 'no-date-here';
    case 'later':
      return date === null ? 'needed' : date > today ? null : 'in-the-past';
    case 'done-elsewhere':
      return date === null ? 'needed' : date <= today ? null : 'in-the-future';
  }
}

const noted = (
  ctx: Ctx,
  { id, planId, patientId, kind, date }: RecallChoice | Omit<RecallChoice, 'version' | 'endedAt'>,
  holds: boolean,
) => {
  ctx.emit({ type: 'recalls-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'recall-choice', id },
      { kind: 'recall-plan', id: planId },
      { kind: 'patient', id: patientId },
    ],
    before: { holds: !holds },
    after: { holds, kind, date },
  });
};

type Said = Pick<RecallChoice, 'id' | 'planId' | 'patientId' | 'kind' | 'date' | 'note' | 'saidBy'>;

/** Keeps what was said to a plan, dated by the date at the patient's home site; a fault of its date keeps nothing. */
export async function noteChoice(ctx: Ctx, said: Said): Promise<string | null> {
  const [{ today }] = await peopleToday(ctx.em, [said.patientId], ctx.now);
  const fault = dateFault(said.kind, said.date, today);
  if (fault) return fault;
  const choice = { ...said, saidOn: today, accountId: accountIdOf(ctx), at: ctx.now };
  await insertChoice(ctx.em, choice);
  noted(ctx, choice, true);
  return null;
}

/** Notes for a patient what they said to a plan. The same call twice is refused the second time. */
export async function decideRecall(
  ctx: Ctx,
  { id, planId, patientId, kind, date, note }: InputOf<typeof decideContract>,
): Promise<AnswerOf<typeof decideContract>> {
  const patient = await patientFor(ctx, patientId);
  if (patient instanceof Failure) return patient;
  if (!(await planRow(ctx.em, planId))) return ctx.fail('NotFound');
  const known = await choiceForUpdate(ctx.em, id);
  if (known) return ctx.fail('ChangedMeanwhile', { facts: { version: known.version } });
  const fault = await noteChoice(ctx, { id, planId, patientId, kind, date, note, saidBy: 'desk' });
  if (fault) return ctx.fail('InvalidInput', { issues: [{ path: 'date', code: fault }] });
  const undo = await ctx.undoable({
    command: 'recalls.takeBackChoice',
    input: { id, version: 1 },
    label: { what: 'recall-choice' },
  });
  return { undo };
}

/** What was said holds no longer; the row stays. */
export async function takeBackChoice(
  ctx: Ctx,
  { id, version }: InputOf<typeof takeBackContract>,
): Promise<AnswerOf<typeof takeBackContract>> {
  const choice = await setHolds(ctx, { id, version }, false);
  if (choice instanceof Failure) return choice;
  const undo = await ctx.undoable({
    command: 'recalls.restoreChoice',
    input: { id, version: choice.version },
    label: { what: 'recall-choice-ended' },
  });
  return { undo };
}

/** Inverse of taking back. */
export async function restoreChoice(ctx: Ctx, of: { id: string; version: number }): Promise<UndoAnswer> {
  const choice = await setHolds(ctx, of, true);
  return choice instanceof Failure ? choice : {};
}

async function setHolds(
  ctx: Ctx,
  { id, version }: { id: string; version: number },
  holds: boolean,
): Promise<{ version: number } | Failure<'NotFound' | 'ChangedMeanwhile' | 'NotAllowed'>> {
  const choice = await choiceForUpdate(ctx.em, id);
  if (!choice) return ctx.fail('NotFound');
  const patient = await patientFor(ctx, choice.patientId);
  if (patient instanceof Failure) return patient;
  if (choice.version !== version || (choice.endedAt === null) === holds)
    return ctx.fail('ChangedMeanwhile', { facts: { version: choice.version } });
  noted(ctx, choice, holds);
  return { version: await endChoice(ctx.em, choice, holds ? null : ctx.now) };
}
