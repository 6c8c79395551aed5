import { ClinicIndex, openDays, type SearchCriteria } from '../openings/index.ts';
import type { PatientKind } from '../availability/index.ts';
import type { ChangedDay } from '../schedule/index.ts';
import { andNot, countCells, dateOfDay, dayNumber, emptyMask, type LocalDate, type Mask, or } from '../time/index.ts';
import { checkBookedVisit, type VisitToMove } from './visitToMove.ts';
import { type PlacesInput, placesOf } from './places.ts';

/** What changes for one visit type at one site, in start times (one for each provider who could be seen). */
export interface TypeImpact {
  readonly visitTypeId: string;
  readonly siteId: string;
  readonly online: GainAndLoss;
  /** The same for each kind of patient alone: some hours are for new patients only. */
  readonly onlineByKind: Readonly<Record<PatientKind, GainAndLoss>>;
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
      const found = (criteria: SearchCriteria): BeforeAndAfter => ({
        was: startsOf(new ClinicIndex(before, now), criteria, siteId, stretches),
        becomes: startsOf(new ClinicIndex(after, now), criteria, siteId, stretches),
      });
      const [forNew, forEstablished] = KINDS.map((kind) => found({ visitTypeId, kind, channel: 'online' }));
      const onlineByKind = { new: difference(forNew), established: difference(forEstablished) };
      const online = difference(together(forNew, forEstablished));
      const desk = difference(found({ visitTypeId, kind: 'established', channel: 'desk' }));
      const same = [online, desk, ...Object.values(onlineByKind)].every(({ gained, lost }) => !gained && !lost);
      if (same) continue;
      types.push({
        visitTypeId,
        siteId,
        online,
        onlineByKind,
        desk,
        places: placesOf(input, visitTypeId, siteId, days),
      });
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

/** Starts by provider and date. */
type Starts = ReadonlyMap<string, Mask>;

interface BeforeAndAfter {
  readonly was: Starts;
  readonly becomes: Starts;
}

const difference = ({ was, becomes }: BeforeAndAfter): GainAndLoss => ({
  gained: onlyIn(becomes, was),
  lost: onlyIn(was, becomes),
});

/** Whatever either of two searches finds. */
function together(a: BeforeAndAfter, b: BeforeAndAfter): BeforeAndAfter {
  return { was: either(a.was, b.was), becomes: either(a.becomes, b.becomes) };
}

function either(a: Starts, b: Starts): Starts {
  const found = new Map(a);
  for (const [key, mask] of b) found.set(key, or(found.get(key) ?? emptyMask(), mask));
  return found;
}

function startsOf(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteId: string,
  stretches: readonly { from: LocalDate; until: LocalDate }[],
): Starts {
  const found = new Map<string, Mask>();
  const { visitTypes, sites } = index.plan;
  // A type or a site that only one of the two clinics has: the other finds nothing.
  if (!visitTypes.some(({ id }) => id === criteria.visitTypeId) || !sites.some(({ id }) => id === siteId)) return found;
  for (const { from, until } of stretches)
    for (const { providerId, day, starts } of openDays(index, criteria, {
      siteIds: [siteId],
      providerIds: null,
      from,
      until,
    }))
      found.set(`${providerId} ${day.date}`, starts);
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
