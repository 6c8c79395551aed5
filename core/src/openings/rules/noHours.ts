import { or } from '../../time/index.ts';
import { dayOfSeat, startsInside } from '../frame.ts';
import type { MemberRule } from '../rule.ts';

/** No working hours at this site then (hours that a single-date change took away count as `changed-that-date`). */
export const noHours: MemberRule = {
  code: 'no-hours',
  scope: 'member',
  binds: 'everyone',
  passes: (frame, need, seat) => {
    const plan = dayOfSeat(frame, seat);
    return startsInside(need, or(plan.hours, plan.changedAway));
  },
  facts: (frame, _need, seat) => {
    const { day } = frame;
    const hours = dayOfSeat(frame, seat).stretches.map(
      (s) => `${day.wallOfCell[s.fromCell]}-${s.toCell >= day.cells ? 1440 : day.wallOfCell[s.toCell]}`,
    );
    return { resourceId: seat.resourceId, hoursThatDay: hours };
  },
};
