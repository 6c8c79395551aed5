import type { RecallPlan } from './plan.ts';

/**
 * What somebody must have for any of some plans to ask for them at all: one of these is enough to be looked at, none
 * means that they are `not-asked-for` by every one. Cheap to find in a database, so that a changed plan need not judge
 * everybody.
 */
export type Concerned = {
  /** Whoever is on record. */
  readonly everybody: boolean;
  /** A completed visit of one of these types. */
  readonly typeIds: readonly string[];
  /** Ever put on one of these registers. */
  readonly registerIds: readonly string[];
  /** Something said to one of these plans: what was done elsewhere counts as a visit. */
  readonly planIds: readonly string[];
};

/** Whom plans can concern. It follows from what each counts from: `nothing-to-count-from` refuses all others. */
export function concernedBy(plans: readonly Pick<RecallPlan, 'id' | 'when'>[]): Concerned {
  const visits = plans.flatMap(({ when }) =>
    when.kind === 'after-visit' || when.kind === 'build-up' ? when.typeIds : [],
  );
  return {
    // A season comes for all; who has never been here has nothing that they could be found by.
    everybody: plans.some(({ when }) => when.kind === 'season' || when.kind === 'never-seen'),
    typeIds: [...new Set(visits)],
    registerIds: [...new Set(plans.flatMap(({ when }) => (when.kind === 'on-register' ? [when.registerId] : [])))],
    planIds: plans.map(({ id }) => id),
  };
}
