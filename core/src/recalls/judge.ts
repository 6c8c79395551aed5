import { addDays, type LocalDate } from '../time/index.ts';
import { type RecallCode, type RecallState, STATE_OF } from './codes.ts';
import { type Due, dueOf } from './due.ts';
import type { RecallPerson, RecallPlan } from './plan.ts';
import { firstAfter, type RecallCase, type RecallFacts } from './rule.ts';
import { RULES_IN_ORDER } from './rules/index.ts';

/** What one person is to one plan on a date, and by which rule. */
export interface Recall {
  readonly state: RecallState;
  /** The rule that decided; `null`: none stands in the way, they are due. */
  readonly by: RecallCode | null;
  readonly facts: RecallFacts;
  readonly dueOn: LocalDate | null;
  /** The visit that was counted from. */
  readonly lastOn: LocalDate | null;
  /** Its visit type; `null`: it was done elsewhere. */
  readonly lastTypeId: string | null;
  /** Of a course: how many visits of it have been. */
  readonly count: number | null;
  /** The first later date on which it may be something else although nothing has happened; `null`: none. */
  readonly lookAgainOn: LocalDate | null;
}

/** One rule's answer about one person. */
export interface RecallAnswer {
  readonly code: RecallCode;
  readonly passed: boolean;
  readonly facts: RecallFacts;
}

const caseOf = (
  plan: RecallPlan,
  person: RecallPerson,
  today: LocalDate,
  earlier: RecallCase['earlier'],
): RecallCase => ({ plan, person, today, earlier, due: dueOf(plan, person, today) });

/**
 * What somebody is to a plan. The first rule that does not pass decides; the later ones are not asked.
 *
 * @param today the date at the home site
 * @param earlier what they are to the plans before this one
 */
export function judgeRecall(
  plan: RecallPlan,
  person: RecallPerson,
  today: LocalDate,
  earlier: RecallCase['earlier'] = [],
): Recall {
  const of = caseOf(plan, person, today, earlier);
  const changes: (LocalDate | null)[] = [];
  for (const rule of RULES_IN_ORDER) {
    if (!rule.applies(plan)) continue;
    const { passed, facts, changesOn } = rule.judge(of);
    changes.push(changesOn);
    if (!passed) return recall(of.due, STATE_OF[rule.code], rule.code, facts, firstAfter(today, changes));
  }
  return recall(of.due, 'due', null, {}, firstAfter(today, changes));
}

const NOTHING_DONE = { lastOn: null, lastTypeId: null, count: null };

function recall(
  due: Due,
  state: RecallState,
  by: RecallCode | null,
  facts: RecallFacts,
  lookAgainOn: LocalDate | null,
): Recall {
  // Nothing is due of whom the plan doesn't ask for.
  if (state === 'not-asked-for') return { state, by, facts, lookAgainOn, dueOn: null, ...NOTHING_DONE };
  return {
    ...{ state, by, facts, lookAgainOn },
    dueOn: due.kind === 'on' ? due.dueOn : null,
    lastOn: due.kind === 'nothing' ? null : due.lastOn,
    lastTypeId: due.kind === 'nothing' ? null : due.lastTypeId,
    count: due.kind === 'on' ? due.count : null,
  };
}

/**
 * What somebody is to each of the clinic's plans.
 *
 * @param plans in the order in which they come before each other
 */
export function judgeRecalls(plans: readonly RecallPlan[], person: RecallPerson, today: LocalDate): Recall[] {
  const earlier: { planId: string; state: RecallState }[] = [];
  return plans.map((plan) => {
    const found = judgeRecall(plan, person, today, earlier);
    earlier.push({ planId: plan.id, state: found.state });
    return found;
  });
}

/** *Why is she not on it?*: every rule that the plan asks, passed or not, in the order in which they decide. */
export function whyNotRecalled(
  plan: RecallPlan,
  person: RecallPerson,
  today: LocalDate,
  earlier: RecallCase['earlier'] = [],
): RecallAnswer[] {
  const of = caseOf(plan, person, today, earlier);
  return RULES_IN_ORDER.filter((rule) => rule.applies(plan)).map((rule) => {
    const { passed, facts } = rule.judge(of);
    return { code: rule.code, passed, facts };
  });
}

/** Whether a due date is further back than the plan's grace. */
export function isOverdue({ graceDays }: Pick<RecallPlan, 'graceDays'>, dueOn: LocalDate, today: LocalDate): boolean {
  return today > addDays(dueOn, graceDays);
}
