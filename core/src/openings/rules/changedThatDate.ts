import { allBut } from '../../time/index.ts';
import { dayOfSeat } from '../frame.ts';
import type { StandingRule } from '../rule.ts';

/** Recurring hours would hold, but a single-date change cancelled, moved or shortened them. */
export const changedThatDate: StandingRule = {
  code: 'changed-that-date',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ plan }) => allBut(plan.changedAway),
  facts: (frame, _need, seat) => ({
    resourceId: seat.resourceId,
    date: frame.day.date,
    changeIds: [...dayOfSeat(frame, seat).changeIds],
  }),
};
