import { fullMask } from '../../time/index.ts';
import { startsAccepted, termsAt } from '../accepted.ts';
import type { MemberRule } from '../rule.ts';

/** The working hours are kept for invited patients; only an invitation passes (and the desk). */
export const invitedOnly: MemberRule = {
  code: 'invited-only',
  scope: 'member',
  binds: 'online',
  passes: (frame, need, seat) =>
    frame.wish.channel === 'online'
      ? startsAccepted(frame, need, seat, ({ accepts }) => accepts.invitedOnly)
      : fullMask(320),
  facts: (frame, need, seat, cell) => ({
    resourceId: seat.resourceId,
    hoursId: termsAt(frame, seat, cell + need.fromCell, cell)?.sourceId ?? null,
  }),
};
