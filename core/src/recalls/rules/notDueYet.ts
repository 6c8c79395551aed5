import { addDays } from '../../time/index.ts';
import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** Not due yet, nor so soon that the plan lists them ahead. */
export const notDueYet: RecallRule = {
  code: 'not-due-yet',
  applies: () => true,
  judge: ({ due, plan, today }) => {
    if (due.kind !== 'on') return passed();
    const listedFrom = addDays(due.dueOn, -plan.aheadDays);
    return today < listedFrom
      ? refused({ dueOn: due.dueOn, listedFrom, lastOn: due.lastOn }, firstAfter(today, [listedFrom, due.changesOn]))
      : passed(due.changesOn);
  },
};
