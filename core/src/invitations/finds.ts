import {
  type ClinicIndex,
  countByDay,
  type InvitationLimits,
  searchOpenings,
  type SearchCriteria,
} from '../openings/index.ts';
import { addDays, epochToWall, type LocalDate } from '../time/index.ts';

/** How far ahead it is looked whether an invitation finds anything. */
export const FINDS_DAYS = 21;

/** What an invitation may book, desk times too or not. */
export type InvitationSearch = InvitationLimits & { readonly deskTimesToo: boolean };

/** As what the holder of an invitation searches for a visit type. */
export function criteriaOfInvitation(
  rules: InvitationSearch,
  visitTypeId: string,
  who: Pick<SearchCriteria, 'kind' | 'patientId' | 'ignoreVisitId'> = { kind: 'established' },
): SearchCriteria {
  return { ...who, visitTypeId, channel: 'invited', deskTimesToo: rules.deskTimesToo, limits: rules };
}

/** Each search of the next three weeks: a visit type of the template at a site of it. What was archived since is left out. */
function* searches(index: ClinicIndex, rules: InvitationSearch) {
  const known = new Set(index.plan.visitTypes.map(({ id }) => id));
  for (const typeId of rules.typeIds)
    for (const { id: siteId, zone } of known.has(typeId) ? index.plan.sites : []) {
      if (rules.siteIds && !rules.siteIds.includes(siteId)) continue;
      const from = epochToWall(zone, index.now).date;
      const range = { providerIds: rules.providerIds, from, until: addDays(from, FINDS_DAYS - 1) };
      yield { typeId, siteId, criteria: criteriaOfInvitation(rules, typeId), range };
    }
}

/** Whether the holder of an invitation finds any time at all in the next three weeks. */
export function findsAny(index: ClinicIndex, rules: InvitationSearch): boolean {
  for (const { siteId, criteria, range } of searches(index, rules))
    for (const _ of searchOpenings(index, criteria, { ...range, siteIds: [siteId] })) return true;
  return false;
}

export interface Finds {
  /** Start times of all types; two providers free at once count once. */
  readonly starts: number;
  readonly sites: readonly { readonly siteId: string; readonly starts: number; readonly first: LocalDate }[];
  /** Types that nothing is found for. */
  readonly without: readonly string[];
}

/** What the holder of an invitation finds in the next three weeks, by site. */
export function findsBySite(index: ClinicIndex, rules: InvitationSearch): Finds {
  const bySite = new Map<string, { starts: number; first: LocalDate }>();
  const found = new Set<string>();
  for (const { typeId, siteId, criteria, range } of searches(index, rules)) {
    const days = countByDay(index, criteria, siteId, range).days.filter(({ starts }) => starts > 0);
    if (!days.length) continue;
    found.add(typeId);
    const known = bySite.get(siteId);
    const first = known && known.first < days[0].date ? known.first : days[0].date;
    bySite.set(siteId, { starts: days.reduce((sum, { starts }) => sum + starts, known?.starts ?? 0), first });
  }
  const sites = [...bySite].map(([siteId, each]) => ({ siteId, ...each }));
  return {
    starts: sites.reduce((sum, { starts }) => sum + starts, 0),
    sites,
    without: rules.typeIds.filter((id) => !found.has(id)),
  };
}
