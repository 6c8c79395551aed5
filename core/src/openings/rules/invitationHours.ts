import { addRangeInto, emptyMask, NO_CELLS, weekdayOf } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** Outside of the hours that the invitation may book, on the site's clock; a visit counts by its start. */
export const invitationHours: StartRule = {
  code: 'invitation-hours',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ criteria, day }) => {
    const allowed = criteria.limits?.hours;
    if (!allowed) return NO_CELLS;
    const today = allowed.filter(({ weekdays }) => weekdays.includes(weekdayOf(day.date)));
    const mask = emptyMask();
    for (let cell = 0; cell < day.cells; cell++) {
      const minute = day.wallOfCell[cell];
      if (!today.some(({ fromMinute, toMinute }) => minute >= fromMinute && minute < toMinute))
        addRangeInto(mask, cell, cell + 1);
    }
    return mask;
  },
  facts: ({ criteria, day }) => [
    {
      allowed: (criteria.limits?.hours ?? [])
        .filter(({ weekdays }) => weekdays.includes(weekdayOf(day.date)))
        .map(({ fromMinute, toMinute }) => `${fromMinute}-${toMinute}`),
    },
  ],
};
