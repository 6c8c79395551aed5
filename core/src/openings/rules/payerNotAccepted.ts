import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The payer named in the wish is not accepted for this type, here, with this provider. */
export const payerNotAccepted: StartRule = {
  code: 'payer-not-accepted',
  scope: 'start',
  variesBy: 'wish',
  binds: 'everyone',
  hide: ({ payer, day }) => (payer && !payer.accepted ? fullMask(day.cells) : NO_CELLS),
  facts: ({ wish, site, providerId }) => [{ payerId: wish.payerId ?? null, siteId: site.id, providerId }],
};
