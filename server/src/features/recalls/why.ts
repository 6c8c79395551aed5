import type { InputOf } from '@zaguan/contracts';
import type { whyRecalled as contract } from '@zaguan/contracts/recalls';
import { judgeRecall, type RecallCase, whyNotRecalled } from '@zaguan/core/recalls';
import { fullName } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { peopleToday } from './facts.sql.ts';
import { catchUp } from './keeper.ts';
import { patientFor } from './people.ts';
import { memberships, openChoices, plansOn } from './recalls.repository.ts';

/** Every rule of every plan about one person, worked out now and not read from the list. */
export async function whyRecalled(
  ctx: Ctx,
  { patientId }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const patient = await patientFor(ctx, patientId);
  if (patient instanceof Failure) return patient;
  // What registers keep by themselves is brought up first.
  await catchUp(ctx.em, ctx.now);
  const [{ person, today }] = await peopleToday(ctx.em, [patientId], ctx.now);
  const choices = await openChoices(ctx.em, patientId);
  const earlier: RecallCase['earlier'][number][] = [];
  const plans = (await plansOn(ctx.em)).map(({ id, name, rules }) => {
    const plan = { id, ...rules };
    const { state, by, dueOn, lastOn, lastTypeId, count } = judgeRecall(plan, person, today, earlier);
    const answers = whyNotRecalled(plan, person, today, [...earlier]);
    earlier.push({ planId: id, state });
    return {
      ...{ planId: id, plan: name, state, by, dueOn, lastOn, lastTypeId, count },
      answers: answers.map((answer) => ({ ...answer, facts: { ...answer.facts } })),
      choices: choices
        .filter(({ planId }) => planId === id)
        .map(({ id: choiceId, kind, date, note, saidOn, account, version }) => ({
          ...{ id: choiceId, kind, date, note, saidOn, version },
          saidBy: account?.name ?? null,
        })),
    };
  });
  ctx.viewed([patientId]);
  return {
    patientId,
    name: fullName(patient.givenName, patient.familyName),
    today,
    plans,
    registers: (await memberships(ctx.em, patientId)).map(({ id, registerId, register, fromDate, untilDate, how }) => ({
      ...{ memberId: id, registerId, register: register.name, from: fromDate, until: untilDate, how },
    })),
  };
}
