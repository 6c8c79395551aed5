import type { InputOf } from '@zaguan/contracts';
import {
  NAMED_IN_PREVIEW,
  type previewPlan as contract,
  type RecallPlanDoc,
  toRecallPlan,
} from '@zaguan/contracts/recalls';
import { isOverdue, judgeRecall, type RecallCode, type RecallState } from '@zaguan/core/recalls';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { peopleToday } from './facts.sql.ts';
import { recallPlanRules } from './kinds.ts';
import { catchUp } from './keeper.ts';
import { nameFor } from './people.ts';
import { patientRow, patientsAfter, plansOn, statesOf } from './recalls.repository.ts';

/** Few enough that others are answered in between. */
const BATCH = 400;
/** A clinic with more people than can be looked at in this time is looked at in part, and the answer says so. */
const BUDGET_MS = 6_000;

class Tally {
  readonly counts: Partial<Record<RecallState, number>> = {};
  readonly leftOutBy: Partial<Record<RecallCode, number>> = {};
  overdue = 0;
  readonly joins: string[] = [];
  readonly leaves: string[] = [];

  count(state: RecallState, by: RecallCode | null): void {
    this.counts[state] = (this.counts[state] ?? 0) + 1;
    if (by !== null) this.leftOutBy[by] = (this.leftOutBy[by] ?? 0) + 1;
  }
}

/** Whom a plan would catch as it is written now, against whom it lists as it is saved. */
export async function previewPlan(ctx: Ctx, { id, doc }: InputOf<typeof contract>): Promise<AnswerOf<typeof contract>> {
  const refusals = (await recallPlanRules.check?.(ctx, { id, before: null, doc })) ?? [];
  if (refusals.length)
    return ctx.fail('SetupRefused', { issues: refusals.map(({ path, code }) => ({ path, code })), facts: {} });
  await catchUp(ctx.em, ctx.now);
  const before = (await plansOn(ctx.em)).filter((each) => each.id !== id && comesBefore(each, { id, ...doc }));
  const tally = new Tally();
  const from = performance.now();
  let lookedAt = 0;
  let after: string | null = null;
  let whole = false;
  while (!whole && performance.now() - from < BUDGET_MS) {
    const ids: string[] = await patientsAfter(ctx.em, after, BATCH);
    whole = ids.length < BATCH;
    after = ids.at(-1) ?? after;
    lookedAt += ids.length;
    await look(ctx, { id, doc, before: before.map((each) => each.id) }, ids, tally);
  }
  return {
    ...{ counts: tally.counts, leftOutBy: tally.leftOutBy, overdue: tally.overdue, lookedAt, whole },
    joins: await named(ctx, tally.joins),
    leaves: await named(ctx, tally.leaves),
  };
}

type InOrder = Pick<RecallPlanDoc, 'sortOrder' | 'name'> & { readonly id: string };

/** As plans stand in their list. */
const comesBefore = (a: InOrder, b: InOrder) =>
  a.sortOrder !== b.sortOrder ? a.sortOrder < b.sortOrder : a.name !== b.name ? a.name < b.name : a.id < b.id;

async function look(
  ctx: Ctx,
  { id, doc, before }: { id: string; doc: RecallPlanDoc; before: readonly string[] },
  ids: readonly string[],
  tally: Tally,
): Promise<void> {
  const plan = toRecallPlan(id, doc);
  const kept = new Map<string, Awaited<ReturnType<typeof statesOf>>>();
  for (const row of await statesOf(ctx.em, ids)) kept.set(row.patientId, [...(kept.get(row.patientId) ?? []), row]);
  for (const { patientId, person, today } of await peopleToday(ctx.em, ids, ctx.now)) {
    const own = kept.get(patientId) ?? [];
    const { state, by, dueOn } = judgeRecall(
      plan,
      person,
      today,
      own.filter(({ planId }) => before.includes(planId)),
    );
    tally.count(state, by);
    // A plan that is off lists nobody.
    const [is, was] = [doc.isOn && state === 'due', own.some((each) => each.planId === id && each.state === 'due')];
    if (is && dueOn !== null && isOverdue(plan, dueOn, today)) tally.overdue++;
    if (is && !was) tally.joins.push(patientId);
    if (was && !is) tally.leaves.push(patientId);
  }
}

async function named(ctx: Ctx, ids: readonly string[]) {
  const some = [];
  for (const patientId of ids.slice(0, NAMED_IN_PREVIEW)) {
    const patient = await patientRow(ctx.em, patientId);
    if (!patient) continue;
    const { name, hidden } = await nameFor(ctx, patient);
    if (!hidden) ctx.viewed([patientId]);
    some.push({ patientId, name });
  }
  return { count: ids.length, some };
}
