import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer asks for a referral, and there is none. */
export const referralNeeded: StartRule = {
  code: 'referral-needed',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'everyone',
  hide: ({ payer, criteria, day }) => (payer?.referral && !criteria.hasReferral ? fullMask(day.cells) : NO_CELLS),
  facts: ({ criteria }) => [{ payerId: criteria.payerId ?? null }],
};
