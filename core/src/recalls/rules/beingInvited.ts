import { addDays } from '../../time/index.ts';
import { passed, type RecallRule, refused } from '../rule.ts';

/** They hold an invitation of this plan that can still be used. */
export const beingInvited: RecallRule = {
  code: 'being-invited',
  applies: () => true,
  judge: ({ plan, person, today }) => {
    const held = person.live.filter(({ planId, until }) => planId === plan.id && until >= today);
    const last = held.reduce<(typeof held)[number] | null>((a, b) => (a && a.until >= b.until ? a : b), null);
    return last ? refused({ on: last.on, until: last.until }, addDays(last.until, 1)) : passed();
  },
};
