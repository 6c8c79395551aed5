import { someTerms, startsAccepted, termsAt } from '../accepted.ts';
import type { CriteriaRule } from '../rule.ts';

/** The working hours take only new, or only established, patients. */
export const kindNotAccepted: CriteriaRule = {
  code: 'kind-not-accepted',
  scope: 'member',
  binds: 'everyone',
  judges: 'starts',
  mayRefuse: (plan) => someTerms(plan, ({ accepts }) => accepts.kinds !== null),
  passes: (frame, need, seat) =>
    startsAccepted(
      frame,
      need,
      seat,
      ({ accepts }) => accepts.kinds !== null && !accepts.kinds.includes(frame.criteria.kind),
    ),
  facts: (frame, need, seat, cell) => {
    const terms = termsAt(frame, seat, cell + need.fromCell, cell);
    return {
      resourceId: seat.resourceId,
      hoursId: terms?.sourceId ?? null,
      kind: frame.criteria.kind,
      accepted: [...(terms?.accepts.kinds ?? [])],
    };
  },
};
