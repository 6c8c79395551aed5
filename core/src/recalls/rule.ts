import type { LocalDate } from '../time/index.ts';
import type { RecallCode, RecallState } from './codes.ts';
import type { Due } from './due.ts';
import type { RecallPerson, RecallPlan } from './plan.ts';

/** Values that decided, as plain JSON: ids, dates, counts. */
export type RecallFacts = Readonly<Record<string, string | number | boolean | null>>;

/** One person and one plan on one date: what every rule judges. */
export interface RecallCase {
  readonly plan: RecallPlan;
  readonly person: RecallPerson;
  readonly today: LocalDate;
  readonly due: Due;
  /** What the person is to the plans that come before this one. */
  readonly earlier: readonly { readonly planId: string; readonly state: RecallState }[];
}

export interface RecallVerdict {
  readonly passed: boolean;
  readonly facts: RecallFacts;
  /** The first later date on which this rule may say something else although nothing has happened; `null`: none. */
  readonly changesOn: LocalDate | null;
}

export interface RecallRule {
  readonly code: RecallCode;
  /** Whether the plan asks this at all. */
  applies(plan: RecallPlan): boolean;
  judge(of: RecallCase): RecallVerdict;
}

export const passed = (changesOn: LocalDate | null = null): RecallVerdict => ({ passed: true, facts: {}, changesOn });

export const refused = (facts: RecallFacts, changesOn: LocalDate | null = null): RecallVerdict => ({
  passed: false,
  facts,
  changesOn,
});

export { firstAfter } from './interval.ts';
