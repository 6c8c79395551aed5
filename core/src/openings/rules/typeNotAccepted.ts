import { someTerms, startsAccepted, termsAt } from '../accepted.ts';
import type { CriteriaRule } from '../rule.ts';

/** The working hours accept other visit types only. */
export const typeNotAccepted: CriteriaRule = {
  code: 'type-not-accepted',
  scope: 'member',
  binds: 'everyone',
  judges: 'starts',
  mayRefuse: (plan) => someTerms(plan, ({ accepts }) => accepts.visitTypeIds !== null),
  passes: (frame, need, seat) =>
    startsAccepted(
      frame,
      need,
      seat,
      ({ accepts }) => accepts.visitTypeIds !== null && !accepts.visitTypeIds.includes(frame.type.id),
    ),
  facts: (frame, need, seat, cell) => {
    const terms = termsAt(frame, seat, cell + need.fromCell, cell);
    return {
      resourceId: seat.resourceId,
      hoursId: terms?.sourceId ?? null,
      accepted: [...(terms?.accepts.visitTypeIds ?? [])],
    };
  },
};
