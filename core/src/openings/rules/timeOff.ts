import { allBut } from '../../time/index.ts';
import type { StandingRule } from '../rule.ts';

/** Away, at this site or everywhere. */
export const timeOff: StandingRule = {
  code: 'time-off',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ plan }) => allBut(plan.timeOff),
  facts: ({ index, site, day }, _need, seat) => {
    const row = index.plan.timeOff.find(
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
