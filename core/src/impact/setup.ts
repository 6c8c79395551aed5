import type { ClinicPlan, ClinicStore } from '../openings/index.ts';
import { type ChangedDay, changedDays } from '../schedule/index.ts';
import { datesFrom, type EpochMinute, type LocalDate } from '../time/index.ts';
import { type Impact, impactOf } from './impact.ts';
import { noticeShifts } from './notice.ts';

/** Where two set-ups of one clinic may differ for a search. */
export interface PlanTouches {
  /** Sites of which any day may differ. */
  readonly wholeSites: readonly string[];
  /** Sites of which only what is open and closed differs: which days that comes to can be compared. */
  readonly openingOf: readonly string[];
  /** Visit types that are searched for in another way. */
  readonly visitTypeIds: readonly string[];
}

/** Rows that stand in only one of two lists, compared by what they say. */
function differing<T extends object>(before: readonly T[], after: readonly T[], namedById: boolean): T[] {
  const said = (row: T) => JSON.stringify(row, (key, value) => (key === 'id' && !namedById ? undefined : value));
  const [was, becomes] = [before, after].map((rows) => new Set(rows.map(said)));
  return [...before.filter((row) => !becomes.has(said(row))), ...after.filter((row) => !was.has(said(row)))];
}

/** Compares what set-up keeps of a plan; the schedule's own rows are `changedDays`' matter. */
export function planTouches(before: ClinicStore, after: ClinicStore): PlanTouches {
  const whole = new Set<string>();
  const opening = new Set<string>();
  const types = new Set<string>();
  const [was, is] = [before.plan, after.plan];
  const all = [...was.sites, ...is.sites].map(({ id }) => id);
  const rows = <K extends keyof ClinicPlan>(kind: K, namedById: boolean) =>
    differing(was[kind] as readonly object[], is[kind] as readonly object[], namedById) as unknown as ClinicPlan[K];
  for (const { id } of rows('sites', true)) whole.add(id);
  for (const { fromSiteId, toSiteId } of rows('travel', false)) whole.add(fromSiteId).add(toSiteId);
  for (const { siteId } of rows('pools', true)) whole.add(siteId);
  for (const { id } of rows('resources', true)) for (const siteId of sitesOf(id, before, after)) whole.add(siteId);
  for (const { siteId } of rows('siteHours', false)) opening.add(siteId);
  for (const { siteId } of rows('closures', false)) for (const id of siteId ? [siteId] : all) opening.add(id);
  for (const { id } of rows('visitTypes', true)) types.add(id);
  for (const { visitTypeId } of rows('policies', false)) types.add(visitTypeId);
  for (const { visitTypeId } of rows('caps', false))
    for (const id of visitTypeId ? [visitTypeId] : is.visitTypes.map((type) => type.id)) types.add(id);
  return {
    wholeSites: [...whole],
    openingOf: [...opening].filter((id) => !whole.has(id)),
    visitTypeIds: [...types],
  };
}

/** Sites at which someone, or a room, may ever be, in either plan. */
function sitesOf(id: string, ...stores: readonly ClinicStore[]): string[] {
  return stores.flatMap((store) =>
    store.plan.sites.flatMap((site) =>
      store.plan.resources.some((row) => row.id === id) && store.lane(id, site.id).everThere ? [site.id] : [],
    ),
  );
}

export interface SetupImpactInput {
  readonly before: ClinicStore;
  readonly after: ClinicStore;
  readonly now: EpochMinute;
  /** First and last date looked at; both stores must be complete for them. */
  readonly from: LocalDate;
  readonly until: LocalDate;
  /** Only the booked visits are wanted: start times are not counted, which takes longer. */
  readonly visitsOnly?: boolean;
}

/**
 * What a change of set-up does: as `impactOf` for the sites it touches, and at the other sites for the visit types it
 * touches. A changed visit type holds for what is booked from then on: booked visits keep the parts, people and rooms
 * they were booked with, so that they are judged at touched sites only.
 */
export function setupImpact(input: SetupImpactInput): Impact & { readonly days: readonly ChangedDay[] } {
  const { before, after, now, from, until } = input;
  const { wholeSites, openingOf, visitTypeIds } = planTouches(before, after);
  const allDays = (siteIds: readonly string[]): ChangedDay[] =>
    datesFrom(from, until).flatMap((date) => siteIds.map((siteId) => ({ siteId, date, resourceIds: [] })));
  const everybody = before.plan.resources.map(({ id }) => id);
  const opened = openingOf.length
    ? changedDays(before, after, { resourceIds: everybody, siteIds: openingOf }, from, until).filter(({ siteId }) =>
        openingOf.includes(siteId),
      )
    : [];
  const days = [...allDays(wholeSites), ...opened].sort((a, b) => (a.date < b.date ? -1 : 1));
  const what = input.visitsOnly ? 'visits' : 'all';
  const shifted = noticeShifts(input, openingOf, from, until);
  const here = impactOf({ before, after, days, shifted, now, placesOnDates: 0, what });
  if (input.visitsOnly || !visitTypeIds.length) return { ...here, days: isNothing(here) ? [] : days };
  const known = before.plan.sites.filter(({ id }) => after.plan.sites.some((site) => site.id === id));
  const elsewhere = allDays(known.map(({ id }) => id).filter((id) => !wholeSites.includes(id)));
  const there = impactOf({ before, after, days: elsewhere, now, placesOnDates: 0, what: 'starts', visitTypeIds });
  const types = [
    ...here.types.filter((row) => !openingOf.includes(row.siteId) || !visitTypeIds.includes(row.visitTypeId)),
    ...there.types,
  ];
  return { ...here, types, days: [...(isNothing(here) ? [] : days), ...(there.types.length ? elsewhere : [])] };
}

/** What is written otherwise may come to the same: then no day differs. */
function isNothing({ types, visitsToMove, fittingAgain }: Impact): boolean {
  return !types.length && !visitsToMove.length && !fittingAgain.length;
}
