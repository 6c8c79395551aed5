import { passed, type RecallRule, refused } from '../rule.ts';

/** The plan asks once, and it was done. */
export const done: RecallRule = {
  code: 'done',
  applies: ({ when }) => when.kind === 'on-register' && when.every === null,
  judge: ({ due }) => (due.kind === 'done' ? refused({ lastOn: due.lastOn }, due.changesOn) : passed()),
};
