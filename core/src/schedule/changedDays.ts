import type { ResourceDay, Subject } from '../availability/index.ts';
import type { ClinicStore } from '../openings/index.ts';
import { datesFrom, type LocalDate, type Mask } from '../time/index.ts';
import { ROW_KINDS, type RowChanges, type ScheduleRows } from './rows.ts';

/** A day of a site on which the schedule differs, and whose does: nobody's by name where the site itself closes or opens. */
export interface ChangedDay {
  readonly siteId: string;
  readonly date: LocalDate;
  readonly resourceIds: readonly string[];
}

/** Whose schedule a change may touch, and which sites it closes or opens. */
export function touchedBy(
  store: ClinicStore,
  before: ScheduleRows,
  changes: RowChanges,
): { resourceIds: string[]; siteIds: string[] } {
  const resources = new Set<string>();
  const sites = new Set<string>();
  for (const kind of ROW_KINDS) {
    const gone = new Set([...(changes[kind]?.drop ?? []), ...(changes[kind]?.put ?? []).map(({ id }) => id)]);
    const rows = [...before[kind].filter(({ id }) => gone.has(id)), ...(changes[kind]?.put ?? [])];
    for (const row of rows) {
      if (kind === 'closures' && 'siteId' in row && row.siteId) sites.add(row.siteId);
      else if ('subject' in row) for (const id of membersOf(store, row.subject)) resources.add(id);
      else if ('resourceId' in row) resources.add(row.resourceId);
    }
  }
  return { resourceIds: [...resources], siteIds: [...sites] };
}

function membersOf(store: ClinicStore, subject: Subject): readonly string[] {
  if (subject.of === 'resource') return [subject.id];
  return store.plan.pools.find((pool) => pool.id === subject.id)?.memberIds ?? [];
}

/** The days between two dates (both included) on which anything that was touched differs between two schedules. */
export function changedDays(
  before: ClinicStore,
  after: ClinicStore,
  touched: { readonly resourceIds: readonly string[]; readonly siteIds: readonly string[] },
  from: LocalDate,
  until: LocalDate,
): ChangedDay[] {
  const known = new Set(before.plan.resources.map(({ id }) => id));
  const found: ChangedDay[] = [];
  for (const date of datesFrom(from, until))
    for (const { id: siteId } of before.plan.sites) {
      const resourceIds = touched.resourceIds.filter(
        (id) => known.has(id) && !alike(dayOf(before, id, siteId, date), dayOf(after, id, siteId, date)),
      );
      const opens = touched.siteIds.includes(siteId) && !opensAlike(before, after, siteId, date);
      if (resourceIds.length || opens) found.push({ siteId, date, resourceIds });
    }
  return found;
}

function opensAlike(before: ClinicStore, after: ClinicStore, siteId: string, date: LocalDate): boolean {
  const [was, becomes] = [before.siteDay(siteId, date), after.siteDay(siteId, date)];
  return sameCells(was.open, becomes.open) && sameCells(was.closed, becomes.closed);
}

function dayOf(store: ClinicStore, resourceId: string, siteId: string, date: LocalDate): ResourceDay {
  return store.planOn(store.lane(resourceId, siteId), store.day(siteId, date));
}

const MASKS = ['hours', 'timeOff', 'keptFree', 'brushShown', 'brushDesk', 'changedAway'] as const;

/** Whether two plans of a day come to the same for every search; whose row a stretch comes from does not matter. */
function alike(a: ResourceDay, b: ResourceDay): boolean {
  return MASKS.every((mask) => sameCells(a[mask], b[mask])) && a.places === b.places && termsOf(a) === termsOf(b);
}

function sameCells(a: Mask, b: Mask): boolean {
  return a.every((word, i) => word === b[i]);
}

function termsOf({ stretches, removed }: ResourceDay): string {
  return JSON.stringify(stretches.slice(removed).map(({ sourceId: _, ...pattern }) => pattern));
}
