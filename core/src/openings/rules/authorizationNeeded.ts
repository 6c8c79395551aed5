import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer asks for an authorization, and there is none: a patient can't say online that there is one. */
export const authorizationNeeded: StartRule = {
  code: 'authorization-needed',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'everyone',
  hide: ({ payer, criteria, day }) =>
    payer?.authorization && !criteria.hasAuthorization ? fullMask(day.cells) : NO_CELLS,
  facts: ({ criteria }) => [{ payerId: criteria.payerId ?? null }],
};
