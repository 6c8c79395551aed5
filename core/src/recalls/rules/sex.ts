import { passed, type RecallRule, refused } from '../rule.ts';

/** Of another sex than the plan asks for, or of none that is on record. */
export const sex: RecallRule = {
  code: 'sex',
  applies: ({ who }) => who.sexes !== null,
  judge: ({ plan, person }) =>
    plan.who.sexes?.includes(person.sex ?? 'unknown') ? passed() : refused({ sex: person.sex }),
};
