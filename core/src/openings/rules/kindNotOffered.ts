import { NO_CELLS, fullMask } from '../../time/index.ts';
import { passesByInvitation } from '../frame.ts';
import type { StartRule } from '../rule.ts';

/** The online policy offers the visit type to other patients only (new, established). An invitation to desk times passes. */
export const kindNotOffered: StartRule = {
  code: 'kind-not-offered',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ policy, criteria, day }) =>
    policy.kinds.value.includes(criteria.kind) || passesByInvitation(criteria) ? NO_CELLS : fullMask(day.cells),
  facts: ({ policy, criteria }) => [
    { level: policy.kinds.level, kind: criteria.kind, offeredTo: [...policy.kinds.value] },
  ],
};
