import { addRangeInto, andNot, epochOfCell, fullMask } from '../../time/index.ts';
import { dayOfSeat, startsInside } from '../frame.ts';
import type { MemberRule } from '../rule.ts';

/** The seat is taken by a visit, a hold or an imported busy time, or the hours then give fewer places. */
export const busy: MemberRule = {
  code: 'busy',
  scope: 'member',
  binds: 'everyone',
  passes: (frame, need, seat) => {
    const taken = frame.index.takenCells(seat.resourceId, seat.place, frame.day, frame.wish.ignoreVisitId ?? null);
    if (seat.place > 0) {
      const plan = dayOfSeat(frame, seat);
      plan.stretchOfCell.forEach((stretch, cell) => {
        if (stretch < 0 || plan.stretches[stretch].places <= seat.place) addRangeInto(taken, cell, cell + 1);
      });
    }
    return startsInside(need, andNot(fullMask(320), taken));
  },
  facts: (frame, need, seat, cell) => {
    const from = epochOfCell(frame.day, cell + need.fromCell);
    const to = epochOfCell(frame.day, cell + need.fromCell + need.lengthCells);
    const rows = frame.index
      .occupiedOn(seat.resourceId, frame.day)
      .filter(
        (row) =>
          row.place === seat.place && row.visitId !== frame.wish.ignoreVisitId && row.start < to && row.end > from,
      );
    return { resourceId: seat.resourceId, until: rows.length ? Math.max(...rows.map((row) => row.end)) : null };
  },
};
