import { passed, type RecallRule, refused } from '../rule.ts';

/** The plan asks for people who have never been here, and this one has. */
export const seenAlready: RecallRule = {
  code: 'seen-already',
  applies: ({ when }) => when.kind === 'never-seen',
  judge: ({ due }) => (due.kind === 'seen' ? refused({ lastOn: due.lastOn }) : passed(due.changesOn)),
};
