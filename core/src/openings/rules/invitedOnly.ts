import { EVERY_CELL } from '../../time/index.ts';
import { someTerms, startsAccepted, termsAt } from '../accepted.ts';
import type { CriteriaRule } from '../rule.ts';

/** The working hours are kept for invited patients; only an invitation passes (and the desk). */
export const invitedOnly: CriteriaRule = {
  code: 'invited-only',
  scope: 'member',
  binds: 'online',
  judges: 'starts',
  mayRefuse: (plan) => someTerms(plan, ({ accepts }) => accepts.invitedOnly),
  passes: (frame, need, seat) =>
    frame.criteria.channel === 'online'
      ? startsAccepted(frame, need, seat, ({ accepts }) => accepts.invitedOnly)
      : EVERY_CELL,
  facts: (frame, need, seat, cell) => ({
    resourceId: seat.resourceId,
    hoursId: termsAt(frame, seat, cell + need.fromCell, cell)?.sourceId ?? null,
  }),
};
