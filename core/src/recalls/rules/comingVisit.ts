import { addDays } from '../../time/index.ts';
import { comingTypesOf } from '../due.ts';
import { firstAfter, passed, type RecallRule, refused } from '../rule.ts';

/** A visit that counts is booked already. One whose date has passed does not count, whatever became of it. */
export const comingVisit: RecallRule = {
  code: 'coming-visit',
  applies: () => true,
  judge: ({ plan, person, today }) => {
    const types = comingTypesOf(plan);
    const dates = person.coming
      .filter(({ typeId, date }) => date >= today && (types === null || types.includes(typeId)))
      .map(({ date }) => date)
      .sort();
    const last = dates.at(-1);
    return last === undefined
      ? passed()
      : refused({ visitOn: dates[0] }, firstAfter(today, [addDays(dates[0], 1), addDays(last, 1)]));
  },
};
