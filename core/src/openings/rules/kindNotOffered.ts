import { NO_CELLS, fullMask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The online policy offers the visit type to other patients only (new, established). */
export const kindNotOffered: StartRule = {
  code: 'kind-not-offered',
  scope: 'start',
  variesBy: 'wish',
  binds: 'online',
  hide: ({ policy, wish, day }) => (policy.kinds.value.includes(wish.kind) ? NO_CELLS : fullMask(day.cells)),
  facts: ({ policy, wish }) => [{ level: policy.kinds.level, kind: wish.kind, offeredTo: [...policy.kinds.value] }],
};
