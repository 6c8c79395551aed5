import { passed, type RecallRule, refused } from '../rule.ts';

/** There is no number or address, or all of them said no to messages about recalls. */
export const noWayToReach: RecallRule = {
  code: 'no-way-to-reach',
  applies: () => true,
  judge: ({ person }) => (person.reach === 'open' ? passed() : refused({ optedOut: person.reach === 'opted-out' })),
};
