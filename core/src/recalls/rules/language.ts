import { passed, type RecallRule, refused } from '../rule.ts';

/** Speaks another language than the plan asks for. */
export const language: RecallRule = {
  code: 'language',
  applies: ({ who }) => who.languages !== null,
  judge: ({ plan, person }) =>
    plan.who.languages?.includes(person.language) ? passed() : refused({ language: person.language }),
};
