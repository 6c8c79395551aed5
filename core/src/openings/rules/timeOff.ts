import { andNot, fullMask } from '../../time/index.ts';
import { dayOfSeat, startsInside } from '../frame.ts';
import type { MemberRule } from '../rule.ts';

/** Away, at this site or everywhere. */
export const timeOff: MemberRule = {
  code: 'time-off',
  scope: 'member',
  binds: 'everyone',
  passes: (frame, need, seat) => startsInside(need, andNot(fullMask(320), dayOfSeat(frame, seat).timeOff)),
  facts: ({ index, site, day }, _need, seat) => {
    const row = index.snapshot.timeOff.find(
      (off) =>
        off.resourceId === seat.resourceId &&
        (off.siteId === null || off.siteId === site.id) &&
        off.startDate <= day.date &&
        off.endDate >= day.date,
    );
    return {
      resourceId: seat.resourceId,
      timeOffId: row?.id ?? null,
      startDate: row?.startDate ?? null,
      endDate: row?.endDate ?? null,
    };
  },
};
