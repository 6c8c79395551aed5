import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer asks for an authorization, and there is none: a patient can't say online that there is one. */
export const authorizationNeeded: StartRule = {
  code: 'authorization-needed',
  scope: 'start',
  variesBy: 'wish',
  binds: 'everyone',
  hide: ({ payer, wish, day }) => (payer?.authorization && !wish.hasAuthorization ? fullMask(day.cells) : NO_CELLS),
  facts: ({ wish }) => [{ payerId: wish.payerId ?? null }],
};
