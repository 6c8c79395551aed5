import { andNot, fullMask } from '../../time/index.ts';
import { dayOfSeat, startsInside } from '../frame.ts';
import type { MemberRule } from '../rule.ts';

/** A stretch kept without visits. It beats the brush. */
export const keptFree: MemberRule = {
  code: 'kept-free',
  scope: 'member',
  binds: 'everyone',
  passes: (frame, need, seat) => startsInside(need, andNot(fullMask(320), dayOfSeat(frame, seat).keptFree)),
  facts: ({ day }, _need, seat) => ({ resourceId: seat.resourceId, date: day.date }),
};
