import { passed, type RecallRule, refused } from '../rule.ts';

/** A record that is inactive or archived is asked for by no plan. */
export const inactive: RecallRule = {
  code: 'inactive',
  applies: () => true,
  judge: ({ person }) => (person.isInactive ? refused({}) : passed()),
};
