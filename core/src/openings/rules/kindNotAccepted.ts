import { someTerms, startsAccepted, termsAt } from '../accepted.ts';
import type { AskedRule } from '../rule.ts';

/** The working hours take only new, or only established, patients. */
export const kindNotAccepted: AskedRule = {
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
      ({ accepts }) => accepts.kinds !== null && !accepts.kinds.includes(frame.wish.kind),
    ),
  facts: (frame, need, seat, cell) => {
    const terms = termsAt(frame, seat, cell + need.fromCell, cell);
    return {
      resourceId: seat.resourceId,
      hoursId: terms?.sourceId ?? null,
      kind: frame.wish.kind,
      accepted: [...(terms?.accepts.kinds ?? [])],
    };
  },
};
