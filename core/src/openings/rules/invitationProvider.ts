import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The invitation is for other providers. What needs no provider is not held to it. */
export const invitationProvider: StartRule = {
  code: 'invitation-provider',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ criteria, providerId, day }) => {
    const allowed = criteria.limits?.providerIds;
    return allowed && providerId !== null && !allowed.includes(providerId) ? fullMask(day.cells) : NO_CELLS;
  },
  facts: ({ criteria }) => [{ allowed: [...(criteria.limits?.providerIds ?? [])] }],
};
