import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The invitation is for other visit types. */
export const invitationType: StartRule = {
  code: 'invitation-type',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ criteria, day }) =>
    criteria.limits && !criteria.limits.typeIds.includes(criteria.visitTypeId) ? fullMask(day.cells) : NO_CELLS,
  facts: ({ criteria }) => [{ allowed: [...(criteria.limits?.typeIds ?? [])] }],
};
