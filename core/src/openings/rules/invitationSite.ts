import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The invitation is for other sites. */
export const invitationSite: StartRule = {
  code: 'invitation-site',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ criteria, site, day }) => {
    const allowed = criteria.limits?.siteIds;
    return allowed && !allowed.includes(site.id) ? fullMask(day.cells) : NO_CELLS;
  },
  facts: ({ criteria }) => [{ allowed: [...(criteria.limits?.siteIds ?? [])] }],
};
