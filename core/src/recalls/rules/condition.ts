import { passed, type RecallRule, refused } from '../rule.ts';

/** None of the conditions that the plan names is on the record. A code stands for all that begin with it: J45 for J45.40. */
export const condition: RecallRule = {
  code: 'condition',
  applies: ({ who }) => who.codes !== null,
  judge: ({ plan, person }) =>
    plan.who.codes?.some((asked) => person.codes.some((code) => code.startsWith(asked)))
      ? passed()
      : refused({ codes: plan.who.codes?.join(', ') ?? '' }),
};
