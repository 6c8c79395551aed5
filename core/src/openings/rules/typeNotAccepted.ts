import { startsAccepted, termsAt } from '../accepted.ts';
import type { MemberRule } from '../rule.ts';

/** The working hours accept other visit types only. */
export const typeNotAccepted: MemberRule = {
  code: 'type-not-accepted',
  scope: 'member',
  binds: 'everyone',
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
