import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer asks for a referral, and there is none. */
export const referralNeeded: StartRule = {
  code: 'referral-needed',
  scope: 'start',
  variesBy: 'wish',
  binds: 'everyone',
  hide: ({ payer, wish, day }) => (payer?.referral && !wish.hasReferral ? fullMask(day.cells) : NO_CELLS),
  facts: ({ wish }) => [{ payerId: wish.payerId ?? null }],
};
