import { EVERY_CELL, hasCell, NO_CELLS } from '../../time/index.ts';
import { someTerms, startsAccepted, termsAt } from '../accepted.ts';
import { dayOfSeat, passesByInvitation } from '../frame.ts';
import type { CriteriaRule } from '../rule.ts';

/**
 * Not shown online: by the hours' online bit, or by the brush, which replaces only that bit. Asked of the need that
 * leads (the provider; without one, the first need). An invitation passes if its template says "desk times too".
 */
export const deskOnly: CriteriaRule = {
  code: 'desk-only',
  scope: 'member',
  binds: 'online',
  judges: 'starts',
  mayRefuse: (plan) => plan.brushDesk !== NO_CELLS || someTerms(plan, ({ online }) => !online),
  passes: (frame, need, seat) => {
    if (!need.leads || passesByInvitation(frame.criteria)) return EVERY_CELL;
    const { brushShown, brushDesk } = dayOfSeat(frame, seat);
    return startsAccepted(frame, need, seat, ({ online }) => !online, { pass: brushShown, block: brushDesk });
  },
  facts: (frame, need, seat, cell) => {
    const { brushDesk } = dayOfSeat(frame, seat);
    const cells = Array.from({ length: need.lengthCells }, (_, i) => cell + need.fromCell + i);
    const byBrush = cells.some((c) => hasCell(brushDesk, c));
    return {
      resourceId: seat.resourceId,
      by: byBrush ? 'brush' : 'hours',
      hoursId: termsAt(frame, seat, cell + need.fromCell, cell)?.sourceId ?? null,
    };
  },
};
