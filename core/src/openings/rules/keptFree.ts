import { allBut } from '../../time/index.ts';
import type { StandingRule } from '../rule.ts';

/** A stretch kept without visits. It beats the brush. */
export const keptFree: StandingRule = {
  code: 'kept-free',
  scope: 'member',
  binds: 'everyone',
  judges: 'cells',
  cells: ({ plan }) => allBut(plan.keptFree),
  facts: ({ day }, _need, seat) => ({ resourceId: seat.resourceId, date: day.date }),
};
