import { NO_CELLS, fullMask } from '../../time/index.ts';
import { passesByInvitation } from '../frame.ts';
import type { StartRule } from '../rule.ts';

/** The visit type's online policy does not offer it here; names the level that decided. An invitation to desk times passes. */
export const notOffered: StartRule = {
  code: 'not-offered',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ policy, criteria, day }) =>
    policy.offered.value || passesByInvitation(criteria) ? NO_CELLS : fullMask(day.cells),
  facts: ({ policy }) => [{ level: policy.offered.level }],
};
