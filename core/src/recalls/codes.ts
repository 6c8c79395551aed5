/**
 * Every reason for which somebody is not on a plan's list. A code names its file (`coming-visit` is
 * `rules/comingVisit.ts`), its words in the interface (`recalls.code.coming-visit`) and its rows in the tests. The first
 * one in this order that does not pass decides.
 */
export const RECALL_CODES = [
  // Whom no plan asks for.
  'deceased',
  'inactive',
  // Whom this plan does not ask for.
  'age',
  'sex',
  'language',
  'home-site',
  'condition',
  'register',
  'field',
  'nothing-to-count-from',
  'seen-already',
  // When.
  'done',
  'not-due-yet',
  // Who is left alone.
  'declined',
  'later',
  'coming-visit',
  'being-invited',
  'invited-lately',
  'no-way-to-reach',
  'other-plan',
] as const;
export type RecallCode = (typeof RECALL_CODES)[number];

/** What somebody is to a plan. */
export const RECALL_STATES = [
  'not-asked-for',
  'not-due',
  'done',
  'due',
  'invited',
  'booked',
  'deferred',
  'declined',
  'left-out',
] as const;
export type RecallState = (typeof RECALL_STATES)[number];

/** What the rule that decides makes of somebody. */
export const STATE_OF: Readonly<Record<RecallCode, RecallState>> = {
  deceased: 'not-asked-for',
  inactive: 'not-asked-for',
  age: 'not-asked-for',
  sex: 'not-asked-for',
  language: 'not-asked-for',
  'home-site': 'not-asked-for',
  condition: 'not-asked-for',
  register: 'not-asked-for',
  field: 'not-asked-for',
  'nothing-to-count-from': 'not-asked-for',
  'seen-already': 'not-asked-for',
  done: 'done',
  'not-due-yet': 'not-due',
  declined: 'declined',
  later: 'deferred',
  'coming-visit': 'booked',
  'being-invited': 'invited',
  'invited-lately': 'left-out',
  'no-way-to-reach': 'left-out',
  'other-plan': 'left-out',
};
