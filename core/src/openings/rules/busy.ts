import { addRangeInto, allBut, emptyMask, epochOfCell, or } from '../../time/index.ts';
import type { StandingRule } from '../rule.ts';

/** The seat is taken by a visit, a hold or an imported busy time, or the hours then give fewer places. */
export const busy: StandingRule = {
  code: 'busy',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ plan, place, taken }) => {
    if (place === 0) return allBut(taken);
    const lacking = emptyMask();
    plan.stretchOfCell.forEach((stretch, cell) => {
      const places = stretch < 0 ? plan.placesWithoutHours : plan.stretches[stretch].places;
      if (places <= place) addRangeInto(lacking, cell, cell + 1);
    });
    return allBut(or(taken, lacking));
  },
  facts: (frame, need, seat, cell) => {
    const from = epochOfCell(frame.day, cell + need.fromCell);
    const to = epochOfCell(frame.day, cell + need.fromCell + need.lengthCells);
    const rows = frame.index
      .occupiedOn(seat.resourceId, frame.day)
      .filter(
        (row) =>
          row.place === seat.place && row.visitId !== frame.criteria.ignoreVisitId && row.start < to && row.end > from,
      );
    return { resourceId: seat.resourceId, until: rows.length ? Math.max(...rows.map((row) => row.end)) : null };
  },
};
