import { passed, type RecallRule, refused } from '../rule.ts';

/** Has another home site than the plan asks for, or none. */
export const homeSite: RecallRule = {
  code: 'home-site',
  applies: ({ who }) => who.homeSiteIds !== null,
  judge: ({ plan, person }) =>
    person.homeSiteId !== null && plan.who.homeSiteIds?.includes(person.homeSiteId)
      ? passed()
      : refused({ siteId: person.homeSiteId }),
};
