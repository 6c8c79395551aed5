import type { ClinicIndex, SearchCriteria } from '../openings/index.ts';
import { addDays } from '../time/index.ts';
import { firstTimes, type Time, type Where } from './times.ts';

/** A criterion that can be given up. */
export const RELAXATIONS = ['hour', 'weekday', 'provider', 'site', 'language', 'later', 'desk', 'access'] as const;
export type Relaxation = (typeof RELAXATIONS)[number];

export interface Relaxed {
  readonly giveUp: readonly Relaxation[];
  /** The first time that would be found then. */
  readonly first: Time;
}

/** How much further ahead is looked, if later would do. */
const DAYS_LATER = 60;

function relaxed(criteria: SearchCriteria, where: Where, allSiteIds: readonly string[], giveUp: readonly Relaxation[]) {
  let [relaxedWhere, relaxedCriteria]: [Where, SearchCriteria] = [where, criteria];
  for (const one of giveUp) {
    if (one === 'hour') relaxedWhere = { ...relaxedWhere, fromMinute: 0, toMinute: 1440 };
    if (one === 'weekday') relaxedWhere = { ...relaxedWhere, weekdays: null };
    if (one === 'provider') relaxedWhere = { ...relaxedWhere, providerIds: null };
    if (one === 'site') relaxedWhere = { ...relaxedWhere, siteIds: allSiteIds };
    if (one === 'language') relaxedWhere = { ...relaxedWhere, language: null };
    if (one === 'later') relaxedWhere = { ...relaxedWhere, until: addDays(relaxedWhere.until, DAYS_LATER) };
    if (one === 'desk') relaxedCriteria = { ...relaxedCriteria, channel: 'desk' };
  }
  return { relaxedWhere, relaxedCriteria };
}

/** The criteria that were given at all, the ones given up most easily first. */
function givenCriteria(criteria: SearchCriteria, where: Where, allSiteIds: readonly string[]): Relaxation[] {
  const made: Record<Relaxation, boolean> = {
    hour: where.fromMinute > 0 || where.toMinute < 1440,
    weekday: where.weekdays !== null && where.weekdays.length < 7,
    provider: where.providerIds !== null,
    site: where.siteIds.length < allSiteIds.length,
    language: where.language !== null,
    later: true,
    desk: criteria.channel !== 'desk',
    access: true,
  };
  return RELAXATIONS.filter((one) => made[one]);
}

/** All choices of `size` of some things, in their order. */
function choicesOf<T>(things: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return things.flatMap((thing, i) => choicesOf(things.slice(i + 1), size - 1).map((rest) => [thing, ...rest]));
}

/**
 * The fewest criteria to give up so that something would be found: every choice of that many that helps, the soonest
 * time first; nothing if not even all of them together would help.
 *
 * @param allSiteIds the sites that "any site" means
 * @param anywhere the clinic without regard to access, if that was wished for (`withAccess`)
 */
export function minimalRelaxations(
  index: ClinicIndex,
  criteria: SearchCriteria,
  where: Where,
  allSiteIds: readonly string[],
  anywhere: ClinicIndex | null = null,
): Relaxed[] {
  const made = givenCriteria(criteria, where, allSiteIds).filter((one) => one !== 'access' || anywhere !== null);
  for (let size = 1; size <= made.length; size++) {
    const helping = choicesOf(made, size).flatMap((giveUp): Relaxed[] => {
      const { relaxedWhere, relaxedCriteria } = relaxed(criteria, where, allSiteIds, giveUp);
      const searched = anywhere && giveUp.includes('access') ? anywhere : index;
      const [first] = firstTimes(searched, relaxedCriteria, relaxedWhere, 1);
      return first ? [{ giveUp, first }] : [];
    });
    if (helping.length) return helping.sort((a, b) => a.first.start - b.first.start);
  }
  return [];
}
