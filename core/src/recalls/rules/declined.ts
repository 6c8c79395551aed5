import { passed, type RecallRule, refused } from '../rule.ts';

/** They don't want to be invited to this, as they or the desk said last. */
export const declined: RecallRule = {
  code: 'declined',
  applies: () => true,
  judge: ({ plan, person }) => {
    const said = person.choices.find(({ planId, kind }) => planId === plan.id && kind === 'declined');
    return said ? refused({ on: said.on }) : passed();
  },
};
