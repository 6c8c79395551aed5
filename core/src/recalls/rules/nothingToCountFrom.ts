import { passed, type RecallRule, refused } from '../rule.ts';

/** There has been no visit of these types, or they are not on the register: there is nothing to count from. */
export const nothingToCountFrom: RecallRule = {
  code: 'nothing-to-count-from',
  applies: ({ when }) => when.kind !== 'never-seen' && when.kind !== 'season',
  judge: ({ due }) =>
    due.kind === 'nothing' ? refused({}, due.changesOn) : passed(due.kind === 'on' ? due.changesOn : null),
};
