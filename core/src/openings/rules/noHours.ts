import { NO_CELLS, or } from '../../time/index.ts';
import { dayOfSeat } from '../frame.ts';
import type { StandingRule } from '../rule.ts';

/** No working hours at this site then (hours that a single-date change took away count as `changed-that-date`). */
export const noHours: StandingRule = {
  code: 'no-hours',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ plan: { hours, changedAway } }) => (changedAway === NO_CELLS ? hours : or(hours, changedAway)),
  facts: (frame, _need, seat) => {
    const { day } = frame;
    const hours = dayOfSeat(frame, seat).stretches.map(
      (s) => `${day.wallOfCell[s.fromCell]}-${s.toCell >= day.cells ? 1440 : day.wallOfCell[s.toCell]}`,
    );
    return { resourceId: seat.resourceId, hoursThatDay: hours };
  },
};
