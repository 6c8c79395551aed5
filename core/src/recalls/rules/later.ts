import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** They asked to be reminded later, or the desk put it off: until that date nothing is sent. */
export const later: RecallRule = {
  code: 'later',
  applies: () => true,
  judge: ({ plan, person, today }) => {
    const said = person.choices.filter(({ planId, kind }) => planId === plan.id && kind === 'later');
    const until = said.map(({ date }) => date).reduce((a, b) => (a !== null && (b === null || a > b) ? a : b), null);
    return until !== null && until > today ? refused({ until }, until) : passed(firstAfter(today, [until]));
  },
};
