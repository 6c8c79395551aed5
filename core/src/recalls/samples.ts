import type { RecallPerson, RecallPlan, Who } from './plan.ts';

/** A plan and a person for tests: due without anything that stands in the way. */
export const ANYBODY: Who = {
  ...{ ageFrom: null, ageTo: null, sexes: null, languages: null, homeSiteIds: null, codes: null, registerIds: null },
  fields: [],
};

export const aPlan = (more: Partial<RecallPlan> = {}): RecallPlan => ({
  id: 'p',
  who: ANYBODY,
  when: { kind: 'after-visit', typeIds: ['injection'], every: { n: 1, unit: 'months' } },
  aheadDays: 0,
  graceDays: 0,
  comingTypeIds: null,
  quietDays: 0,
  ...more,
});

export const aPerson = (more: Partial<RecallPerson> = {}): RecallPerson => ({
  birthDate: '1990-06-15',
  sex: 'female',
  language: 'en',
  homeSiteId: 'canal',
  isInactive: false,
  hasDied: false,
  registeredOn: '2020-01-01',
  codes: [],
  fields: {},
  registers: [],
  completed: [],
  coming: [],
  reach: 'open',
  invitedOn: [],
  live: [],
  choices: [],
  ...more,
});
