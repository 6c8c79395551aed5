import { andNot, fullMask } from '../../time/index.ts';
import { dayOfSeat, startsInside } from '../frame.ts';
import type { MemberRule } from '../rule.ts';

/** Recurring hours would hold, but a single-date change cancelled, moved or shortened them. */
export const changedThatDate: MemberRule = {
  code: 'changed-that-date',
  scope: 'member',
  binds: 'everyone',
  passes: (frame, need, seat) => startsInside(need, andNot(fullMask(320), dayOfSeat(frame, seat).changedAway)),
  facts: (frame, _need, seat) => ({
    resourceId: seat.resourceId,
    date: frame.day.date,
    changeIds: [...dayOfSeat(frame, seat).changeIds],
  }),
};
