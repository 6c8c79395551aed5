import { passed, type RecallRule, refused } from '../rule.ts';

/** Whoever has died is asked for by no plan. */
export const deceased: RecallRule = {
  code: 'deceased',
  applies: () => true,
  judge: ({ person }) => (person.hasDied ? refused({}) : passed()),
};
