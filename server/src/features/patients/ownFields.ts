import type { InputOf } from '@zaguan/contracts';
import type { saveFields as fieldsContract } from '@zaguan/contracts/patients';
import { answerFaults } from '@zaguan/core/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fieldRows } from '../coverage/index.ts';
import { editableAt, writePatient } from './editable.ts';

/** The clinic's own fields, all of them as they are to stand. */
export async function saveOwnFields(
  ctx: Ctx,
  { id, version, answers }: InputOf<typeof fieldsContract>,
): Promise<AnswerOf<typeof fieldsContract>> {
  const row = await editableAt(ctx, id, version);
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
  return writePatient(ctx, row, { fields: next }, 'fields');
}
