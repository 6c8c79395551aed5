import type { InputOf } from '@zaguan/contracts';
import {
  PEOPLE_A_PAGE,
  type recallCounts as countsContract,
  type recallList as listContract,
} from '@zaguan/contracts/recalls';
import { isOverdue, typesOf } from '@zaguan/core/recalls';
import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { catchUp } from './keeper.ts';
import { clinicToday, nameFor } from './people.ts';
import { countDue, dueStatesOf, patientsLeft, planRow, plansOn, rebuildNow } from './recalls.repository.ts';
import { countsByPlan, listedPeople } from './recalls.sql.ts';

/** The plans by which somebody is due now, for whoever books them; as it was worked out last. */
export async function dueRecallsOf(ctx: Ctx, patientId: string, today: LocalDate) {
  return (await dueStatesOf(ctx.em, patientId)).flatMap(({ planId, plan, dueOn }) => {
    const types = typesOf(plan.rules.when);
    return dueOn === null
      ? []
      : [
          {
            ...{ planId, plan: plan.name, dueOn, overdue: isOverdue(plan.rules, dueOn, today) },
            visitTypeId: types?.length === 1 ? types[0] : null,
          },
        ];
  });
}

/** How many people a plan lists now; as it was worked out last. */
export const dueCount = (ctx: Ctx, planId: string): Promise<number> => countDue(ctx.em, planId);

/** How many people are what to each plan. */
export async function recallCounts(ctx: Ctx): Promise<AnswerOf<typeof countsContract>> {
  await catchUp(ctx.em, ctx.now);
  const plans = await plansOn(ctx.em);
  const rows = await countsByPlan(ctx.em, await clinicToday(ctx));
  const rebuild = await rebuildNow(ctx.em);
  const toLookAt = rebuild ? await patientsLeft(ctx.em, rebuild.afterPatientId) : 0;
  return {
    plans: plans.map(({ id }) => {
      const own = rows.filter(({ planId }) => planId === id);
      return {
        id,
        counts: Object.fromEntries(own.map(({ state, n }) => [state, n])),
        overdue: own.reduce((sum, { overdue }) => sum + overdue, 0),
        toLookAt,
      };
    }),
  };
}

/** A page of a plan's people. */
export async function recallList(
  ctx: Ctx,
  { planId, state, overdueOnly, homeSiteId, after }: InputOf<typeof listContract>,
): Promise<AnswerOf<typeof listContract>> {
  const plan = await planRow(ctx.em, planId);
  if (!plan) return ctx.fail('NotFound');
  await catchUp(ctx.em, ctx.now);
  const today = await clinicToday(ctx);
  const { graceDays } = plan.rules;
  const rows = await listedPeople(ctx.em, {
    ...{ planId, state, homeSiteId, after },
    dueBefore: overdueOnly ? addDays(today, -graceDays) : null,
    limit: PEOPLE_A_PAGE + 1,
  });
  const shown = rows.slice(0, PEOPLE_A_PAGE);
  const last = shown[shown.length - 1];
  const people = [];
  const seen: string[] = [];
  for (const { givenName, familyName, restricted, byCode, birthDate, ...row } of shown) {
    const { name, hidden } = await nameFor(ctx, { id: row.patientId, givenName, familyName, restricted });
    if (!hidden) seen.push(row.patientId);
    people.push({
      ...row,
      name,
      by: byCode,
      birthDate: hidden ? null : birthDate,
      overdue: state === 'due' && row.dueOn !== null && isOverdue({ graceDays }, row.dueOn, today),
    });
  }
  ctx.viewed(seen);
  return {
    today,
    people,
    next: rows.length > shown.length ? { dueOn: last.dueOn, patientId: last.patientId } : null,
    unreadable: [],
  };
}
