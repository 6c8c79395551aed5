import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/coverage';
import { type Answer, answerFaults } from '@zaguan/core/setup';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import { fieldRows, keepAnswers, labelsOf, setCoverage } from './coverage.repository.ts';
import { extrasOf } from './extras.sql.ts';
import { isHidden } from '../restricted/index.ts';
import { type UndoAnswer, undoWith } from '../../platform/undo/undo.ts';

export { asksPayer, fieldRows, insertCoverage, payerRows } from './coverage.repository.ts';

/** Questions that are asked before a visit type is booked online. */
export async function questionsFor(ctx: Ctx, visitTypeId: string) {
  return (await fieldRows(ctx.em, 'booking')).filter(
    (row) => row.visitTypeIds === null || row.visitTypeIds.includes(visitTypeId),
  );
}

/** Keeps the answers to what this type asks, or says what is wrong with them. */
export async function takeAnswers(
  ctx: Ctx,
  appointmentId: string,
  visitTypeId: string,
  answers: Readonly<Record<string, Answer>>,
): Promise<Failure<'InvalidInput'> | null> {
  const asked = await questionsFor(ctx, visitTypeId);
  const faults = Object.entries(
    answerFaults(
      asked.map((row) => ({ ...row, choices: row.choices.map(({ en }) => en) })),
      answers,
    ),
  );
  if (faults.length)
    return ctx.fail('InvalidInput', { issues: faults.map(([id, code]) => ({ path: `answers.${id}`, code })) });
  const kept = asked.flatMap(({ id }) => (answers[id] === undefined || answers[id] === '' ? [] : [[id, answers[id]]]));
  if (kept.length) await keepAnswers(ctx.em, appointmentId, Object.fromEntries(kept));
  return null;
}

async function extras(
  ctx: Ctx,
  { id }: InputOf<typeof contract.visitExtras>,
): Promise<AnswerOf<typeof contract.visitExtras>> {
  const row = await extrasOf(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'daybook.view', row.siteId) || (await isHidden(ctx, id))) return ctx.fail('NotAllowed');
  if (row.patientId) ctx.viewed([row.patientId]);
  const said = row.answers ?? {};
  const words = (answer: Answer) => (typeof answer === 'boolean' ? (answer ? 'Yes' : 'No') : String(answer));
  return {
    coverage: row.said && row.state ? { payer: row.payer, referralSaid: row.referralSaid, state: row.state } : null,
    answers: (await labelsOf(ctx.em)).flatMap((field) =>
      said[field.id] === undefined ? [] : [{ label: field.labelEn, answer: words(said[field.id]) }],
    ),
  };
}

async function set(
  ctx: Ctx,
  id: string,
  state: (typeof contract.COVERAGE_STATES)[number],
): Promise<Failure<'NotFound' | 'NotAllowed' | 'DecidedAlready'> | string> {
  const row = await extrasOf(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'today.work', row.siteId)) return ctx.fail('NotAllowed');
  const by = { at: ctx.now, accountId: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null };
  const before = await setCoverage(ctx.em, id, state, by);
  if (before === null) return ctx.fail('NotFound');
  if (before === state) return ctx.fail('DecidedAlready');
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({ subjects: [{ kind: 'appointment', id }], before: { coverage: before }, after: { coverage: state } });
  return before;
}

async function settle(
  ctx: Ctx,
  { id, state }: InputOf<typeof contract.settleCoverage>,
): Promise<AnswerOf<typeof contract.settleCoverage>> {
  const before = await set(ctx, id, state);
  if (typeof before !== 'string') return before;
  return {
    undo: await ctx.undoable({ command: 'coverage.put', input: { id, state: before }, label: { what: 'coverage' } }),
  };
}

async function put(
  ctx: Ctx,
  { id, state }: { id: string; state: (typeof contract.COVERAGE_STATES)[number] },
): Promise<UndoAnswer> {
  const before = await set(ctx, id, state);
  return typeof before === 'string' ? {} : before;
}

export const coverageEndpoints = [handle(contract.visitExtras, extras), handle(contract.settleCoverage, settle)];

/** Commands that may stand as an inverse. */
export const coverageCommands = { 'coverage.put': undoWith('today.work', put) };
