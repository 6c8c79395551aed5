import { ClinicIndex, openDays, type SearchCriteria } from '../openings/index.ts';
import type { PatientKind } from '../availability/index.ts';
import type { ChangedDay } from '../schedule/index.ts';
import {
  andNot,
  countCells,
  dateOfDay,
  dayNumber,
  emptyMask,
  type LocalDate,
  type Mask,
  orInto,
} from '../time/index.ts';
import { checkBookedVisit, type VisitToMove } from './visitToMove.ts';
import { type PlacesInput, placesOf } from './places.ts';

/** What changes for one visit type at one site, in start times (one for each provider who could be seen). */
export interface TypeImpact {
  readonly visitTypeId: string;
  readonly siteId: string;
  readonly online: GainAndLoss;
  readonly desk: GainAndLoss;
  /** Places patients can book, before and after, on the changed days; `null` where they were not counted. */
  readonly places: { readonly before: number; readonly after: number } | null;
}

export interface GainAndLoss {
  readonly gained: number;
  readonly lost: number;
}

export interface Impact {
  readonly types: readonly TypeImpact[];
  /** Visits that stood before and do not stand after, by their start. */
  readonly visitsToMove: readonly VisitToMove[];
  /** Visits that did not stand before and do after. */
  readonly fittingAgain: readonly string[];
}

export interface ImpactInput extends PlacesInput {
  readonly days: readonly ChangedDay[];
  /** Further days of which only the start times may differ (`noticeShifts`). */
  readonly shifted?: readonly ChangedDay[];
  /** Start times, booked visits, or both (the default). */
  readonly what?: 'all' | 'starts' | 'visits';
  /** Start times of these types only. */
  readonly visitTypeIds?: readonly string[];
}

const KINDS: readonly PatientKind[] = ['new', 'established'];

/**
 * What a change of the schedule does, as the difference of two full searches on the days that changed and a second
 * judgment of the visits booked on them. On other days nothing can differ but notice in working days (`noticeShifts`):
 * all else that a start needs lies on its own day.
 */
export function impactOf(input: ImpactInput): Impact {
  const { what = 'all' } = input;
  return {
    types: what === 'visits' ? [] : typesOf({ ...input, days: withShifted(input) }),
    ...(what === 'starts' ? { visitsToMove: [], fittingAgain: [] } : visitsOf(input)),
  };
}

function withShifted({ days, shifted = [] }: ImpactInput): readonly ChangedDay[] {
  const own = new Set(days.map(({ siteId, date }) => `${siteId} ${date}`));
  return [...days, ...shifted.filter(({ siteId, date }) => !own.has(`${siteId} ${date}`))];
}

function typesOf(input: ImpactInput): TypeImpact[] {
  const { before, after, now } = input;
  const types: TypeImpact[] = [];
  const all = [...before.plan.visitTypes, ...after.plan.visitTypes];
  for (const siteId of new Set(input.days.map((day) => day.siteId))) {
    const days = input.days.filter((day) => day.siteId === siteId);
    const stretches = stretchesOf(days.map(({ date }) => date));
    const offeredHere = all.filter(({ siteIds }) => siteIds === null || siteIds.includes(siteId));
    for (const visitTypeId of new Set(offeredHere.map(({ id }) => id))) {
      if (input.visitTypeIds && !input.visitTypeIds.includes(visitTypeId)) continue;
      const difference = (criteriaList: readonly SearchCriteria[]) => {
        const was = startsOf(new ClinicIndex(before, now), criteriaList, siteId, stretches);
        const becomes = startsOf(new ClinicIndex(after, now), criteriaList, siteId, stretches);
        return { gained: onlyIn(becomes, was), lost: onlyIn(was, becomes) };
      };
      const online = difference(KINDS.map((kind): SearchCriteria => ({ visitTypeId, kind, channel: 'online' })));
      const desk = difference([{ visitTypeId, kind: 'established', channel: 'desk' }]);
      if (!online.gained && !online.lost && !desk.gained && !desk.lost) continue;
      types.push({ visitTypeId, siteId, online, desk, places: placesOf(input, visitTypeId, siteId, days) });
    }
  }
  return types;
}

/** Neighboring dates together: a search over many days is cheaper than many searches. */
function stretchesOf(dates: readonly LocalDate[]): { from: LocalDate; until: LocalDate }[] {
  const stretches: { from: LocalDate; until: LocalDate }[] = [];
  for (const number of [...new Set(dates.map(dayNumber))].sort((a, b) => a - b)) {
    const last = stretches.at(-1);
    if (last && dayNumber(last.until) === number - 1) last.until = dateOfDay(number);
    else stretches.push({ from: dateOfDay(number), until: dateOfDay(number) });
  }
  return stretches;
}

/** Starts by provider and date; for several criteria, whatever any of them finds. */
function startsOf(
  index: ClinicIndex,
  criteriaList: readonly SearchCriteria[],
  siteId: string,
  stretches: readonly { from: LocalDate; until: LocalDate }[],
): Map<string, Mask> {
  const found = new Map<string, Mask>();
  const { visitTypes, sites } = index.plan;
  const known =
    visitTypes.some(({ id }) => id === criteriaList[0]?.visitTypeId) && sites.some(({ id }) => id === siteId);
  // A type or a site that only one of the two clinics has: the other finds nothing.
  if (!known) return found;
  for (const criteria of criteriaList)
    for (const { from, until } of stretches)
      for (const { providerId, day, starts } of openDays(index, criteria, {
        siteIds: [siteId],
        providerIds: null,
        from,
        until,
      })) {
        const key = `${providerId} ${day.date}`;
        const known = found.get(key) ?? emptyMask();
        orInto(known, starts);
        found.set(key, known);
      }
  return found;
}

function onlyIn(these: ReadonlyMap<string, Mask>, those: ReadonlyMap<string, Mask>): number {
  let count = 0;
  for (const [key, mask] of these) count += countCells(andNot(mask, those.get(key) ?? emptyMask()));
  return count;
}

/** Visits to come on the changed days, and their provider's elsewhere on those days: the way there may have changed. */
function visitsOf({ before, after, days, now }: ImpactInput): Pick<Impact, 'visitsToMove' | 'fittingAgain'> {
  const sitesOn = new Map<LocalDate, Set<string>>();
  const peopleOn = new Map<LocalDate, Set<string>>();
  for (const { siteId, date, resourceIds } of days) {
    sitesOn.set(date, (sitesOn.get(date) ?? new Set()).add(siteId));
    const people = peopleOn.get(date) ?? new Set();
    for (const id of resourceIds) people.add(id);
    peopleOn.set(date, people);
  }
  const visitsToMove: VisitToMove[] = [];
  const fittingAgain: string[] = [];
  for (const [date, sites] of sitesOn)
    for (const visit of after.taken.visitsOn(date)) {
      if (visit.start < now) continue;
      if (!sites.has(visit.siteId) && !peopleOn.get(date)?.has(visit.providerId ?? '')) continue;
      const then = checkBookedVisit(after, now, visit);
      const was = checkBookedVisit(before, now, visit);
      if (then && !was) visitsToMove.push(then);
      if (was && !then) fittingAgain.push(visit.id);
    }
  return { visitsToMove: visitsToMove.sort((a, b) => a.visit.start - b.visit.start), fittingAgain };
}
