import { NO_CELLS, fullMask } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function missing({ type, providerId, site, missingPools }: Frame): Facts[] {
  const facts: Facts[] = [];
  if (type.siteIds !== null && !type.siteIds.includes(site.id)) facts.push({ missing: 'site', siteId: site.id });
  if (providerId !== null && type.providerIds !== null && !type.providerIds.includes(providerId))
    facts.push({ missing: 'provider', providerId });
  for (const poolKind of missingPools) facts.push({ missing: 'pool', poolKind });
  return facts;
}

/** The provider does not perform this visit type, the site does not offer it, or has no pool it needs. */
export const notPerformed: StartRule = {
  code: 'not-performed',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'everyone',
  hide: (frame) => (missing(frame).length ? fullMask(frame.day.cells) : NO_CELLS),
  facts: missing,
};
