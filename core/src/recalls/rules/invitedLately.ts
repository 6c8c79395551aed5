import { addDays } from '../../time/index.ts';
import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** An invitation of whatever plan went out a short while ago. */
export const invitedLately: RecallRule = {
  code: 'invited-lately',
  applies: ({ quietDays }) => quietDays > 0,
  judge: ({ plan, person, today }) => {
    const last = person.invitedOn.filter((date) => date <= today).reduce((a, b) => (a > b ? a : b), '');
    // One that is dated ahead, because the clock was set back, counts from its date on.
    const next = firstAfter(today, person.invitedOn);
    if (!last) return passed(next);
    const until = addDays(last, plan.quietDays);
    return today < until ? refused({ on: last, until }, firstAfter(today, [until, next])) : passed(next);
  },
};
