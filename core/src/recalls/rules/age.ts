import { ageOn, birthdayAt } from '../../patients/index.ts';
import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** Younger or older than the plan asks for, in whole years on the date. */
export const age: RecallRule = {
  code: 'age',
  applies: ({ who }) => who.ageFrom !== null || who.ageTo !== null,
  judge: ({ plan, person, today }) => {
    const { ageFrom, ageTo } = plan.who;
    const years = ageOn(person.birthDate, today);
    const changesOn = firstAfter(today, [
      ageFrom === null ? null : birthdayAt(person.birthDate, ageFrom),
      ageTo === null ? null : birthdayAt(person.birthDate, ageTo + 1),
    ]);
    const isWithin = (ageFrom === null || years >= ageFrom) && (ageTo === null || years <= ageTo);
    return isWithin ? passed(changesOn) : refused({ years, ageFrom, ageTo }, changesOn);
  },
};
