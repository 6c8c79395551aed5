import { placesIn } from '../../availability/index.ts';
import { allBut, CELL_MIN, epochOfCell, hasCell } from '../../time/index.ts';
import { dayOfSeat } from '../frame.ts';
import type { StandingRule } from '../rule.ts';

/** As many visits, holds and imported busy times at once as the hours allow: no place is left. */
export const busy: StandingRule = {
  code: 'busy',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ full }) => allBut(full()),
  // Until when: the last cell without a place is looked at, and how many must go there before one is free.
  facts: (frame, need, seat, cell) => {
    const { index, day, criteria } = frame;
    const plan = dayOfSeat(frame, seat);
    const full = index.fullCells(plan, day, criteria.ignoreVisitId ?? null);
    let last = cell + need.fromCell + need.lengthCells - 1;
    while (last > cell + need.fromCell && !hasCell(full, last)) last--;
    const at = epochOfCell(day, last);
    const ends = index
      .occupiedOn(seat.resourceId, day)
      .filter((row) => row.visitId !== criteria.ignoreVisitId && row.start < at + CELL_MIN && row.end > at)
      .map(({ end }) => end)
      .sort((a, b) => a - b);
    return { resourceId: seat.resourceId, until: ends[ends.length - placesIn(plan, last)] ?? null };
  },
};
