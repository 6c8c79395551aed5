import { addDays } from '../../time/index.ts';
import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** On none of the registers that the plan asks for. */
export const register: RecallRule = {
  code: 'register',
  applies: ({ who }) => who.registerIds !== null,
  judge: ({ plan, person, today }) => {
    const own = person.registers.filter(({ registerId }) => plan.who.registerIds?.includes(registerId));
    const changesOn = firstAfter(
      today,
      own.flatMap(({ from, until }) => [from, until === null ? null : addDays(until, 1)]),
    );
    return own.some(({ from, until }) => from <= today && (until === null || until >= today))
      ? passed(changesOn)
      : refused({ registerId: plan.who.registerIds?.[0] ?? null }, changesOn);
  },
};
