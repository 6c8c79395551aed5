import type { RecallState } from '../codes.ts';
import { passed, type RecallRule, refused } from '../rule.ts';

const HAS_THEM: ReadonlySet<RecallState> = new Set(['due', 'invited']);

/** A plan that comes before this one asks for them now: nobody is invited twice at once. */
export const otherPlan: RecallRule = {
  code: 'other-plan',
  applies: () => true,
  judge: ({ earlier }) => {
    const by = earlier.find(({ state }) => HAS_THEM.has(state));
    return by ? refused({ planId: by.planId }) : passed();
  },
};
