import { NO_CELLS, fullMask } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function excepted({ site, providerId, index }: Frame): Facts[] {
  const facts: Facts[] = [];
  if (!site.bookableOnline) facts.push({ excepted: 'site', siteId: site.id });
  if (providerId !== null && !index.resource(providerId).bookableOnline)
    facts.push({ excepted: 'provider', providerId });
  return facts;
}

/** The whole provider or the whole site is left out of self-booking. */
export const notBookableOnline: StartRule = {
  code: 'not-bookable-online',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: (frame) => (excepted(frame).length ? fullMask(frame.day.cells) : NO_CELLS),
  facts: excepted,
};
