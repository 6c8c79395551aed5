import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer named in the search is not accepted for this type, here, with this provider. */
export const payerNotAccepted: StartRule = {
  code: 'payer-not-accepted',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'everyone',
  hide: ({ payer, day }) => (payer && !payer.accepted ? fullMask(day.cells) : NO_CELLS),
  facts: ({ criteria, site, providerId }) => [{ payerId: criteria.payerId ?? null, siteId: site.id, providerId }],
};
