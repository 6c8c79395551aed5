import type { Subject, WorkingHours } from '../availability/index.ts';
import { type ClinicStore, needsProvider, settlePolicy } from '../openings/index.ts';
import { occursOn } from '../recurrence/index.ts';
import {
  addDays,
  and,
  andNot,
  CELL_MIN,
  cellOfWall,
  countCells,
  datesFrom,
  epochToWall,
  isEmpty,
  type LocalDate,
  type Mask,
  rangeMask,
  wallToEpoch,
} from '../time/index.ts';
import type { Warning } from './edits.ts';
import type { RowChanges } from './rows.ts';

/** A year and a bit: both changes of clocks lie in it. */
const DAYS_SEARCHED = 400;
/** How many dates hours are compared with their site's for. */
const DAYS_COMPARED = 56;

/** What is worth knowing of hours that were put, and stands in nobody's way. */
export function warningsOf(store: ClinicStore, changes: RowChanges, edit: number, today: LocalDate): Warning[] {
  const recurring = (changes.workingHours?.put ?? []).flatMap((hoursRow) => [
    unlisted(store, hoursRow.subject, hoursRow.siteId),
    late(store, hoursRow),
    ...(hoursRow.followsSiteHours ? [] : [outsideSite(store, hoursRow, today), ...oddTimes(store, hoursRow, today)]),
  ]);
  const single = (changes.dateChanges?.put ?? []).flatMap(({ subject, date, hours }) =>
    hours
      ? [unlisted(store, subject, hours.siteId), hours.online ? beyondSite(store, hours.siteId, date, hours) : null]
      : [],
  );
  return [...recurring, ...single].flatMap((told) => (told ? [{ ...told, edit }] : []));
}

type Found = Omit<Warning, 'edit'> | null;

/** A provider whom no visit type lists at the site: nobody can book these hours. */
function unlisted(store: ClinicStore, subject: Subject, siteId: string): Found {
  const { resources, visitTypes } = store.plan;
  if (subject.of !== 'resource') return null;
  if (resources.find(({ id }) => id === subject.id)?.kind !== 'provider') return null;
  const isListed = visitTypes.some(
    (type) =>
      needsProvider(type) &&
      (type.siteIds === null || type.siteIds.includes(siteId)) &&
      (type.providerIds === null || type.providerIds.includes(subject.id)),
  );
  return isListed ? null : { code: 'no-visit-type', facts: { resourceId: subject.id, siteId } };
}

/** The first date on which hours shown online reach beyond the site's. */
function outsideSite(store: ClinicStore, hoursRow: WorkingHours, today: LocalDate): Found {
  if (!hoursRow.online) return null;
  const from = later(hoursRow.rule.effectiveFrom, today);
  for (const date of datesFrom(from, addDays(from, DAYS_COMPARED))) {
    const found = occursOn(hoursRow.rule, date) ? beyondSite(store, hoursRow.siteId, date, hoursRow) : null;
    if (found) return found;
  }
  return null;
}

function beyondSite(
  store: ClinicStore,
  siteId: string,
  date: LocalDate,
  { fromMinute, toMinute }: { fromMinute: number; toMinute: number },
): Found {
  const day = store.day(siteId, date);
  return notShown(store, siteId, date, rangeMask(cellOfWall(day, fromMinute), cellOfWall(day, toMinute)));
}

/** Minutes of a date that are to be shown online, and that nobody is shown because the site is not open then. */
export function notShown(store: ClinicStore, siteId: string, date: LocalDate, shown: Mask): Found {
  const { open } = store.siteDay(siteId, date);
  const outside = andNot(shown, open);
  if (isEmpty(outside)) return null;
  const [minutes, inside] = [outside, and(shown, open)].map((mask) => countCells(mask) * CELL_MIN);
  return { code: 'outside-site-hours', facts: { siteId, date, minutes, inside } };
}

/** Dates on which a start or end does not exist on the site's clock, or comes twice. */
function oddTimes(store: ClinicStore, hoursRow: WorkingHours, today: LocalDate): Found[] {
  const { zone } = store.site(hoursRow.siteId);
  const from = later(hoursRow.rule.effectiveFrom, today);
  for (const date of datesFrom(from, addDays(from, DAYS_SEARCHED))) {
    const day = store.day(hoursRow.siteId, date);
    if (day.end - day.start === 1440 || !occursOn(hoursRow.rule, date)) continue;
    for (const minute of [hoursRow.fromMinute, hoursRow.toMinute]) {
      if (minute === 1440) continue;
      const at = wallToEpoch(zone, date, minute);
      const read = epochToWall(zone, at);
      if (read.date !== date || read.minute !== minute)
        return [{ code: 'no-such-time', facts: { siteId: hoursRow.siteId, date, minute, becomes: read.minute } }];
      const again = epochToWall(zone, at + 60);
      if (again.date === date && again.minute === minute)
        return [{ code: 'time-twice', facts: { siteId: hoursRow.siteId, date, minute } }];
    }
  }
  return [];
}

/** Hours released later than the least lead time of any type offered online: no patient sees them released. */
function late(store: ClinicStore, { siteId, release, subject }: WorkingHours): Found {
  if (!release?.online) return null;
  const providerId = subject.of === 'resource' ? subject.id : null;
  const leads = store.plan.visitTypes
    .map(({ id }) => settlePolicy(store.plan.policies, id, siteId, providerId))
    .filter(({ offered }) => offered.value)
    .map(({ leadMin }) => leadMin.value);
  const min = Math.min(...leads);
  if (!leads.length || release.beforeMin >= min) return null;
  return { code: 'release-under-lead', facts: { beforeMin: release.beforeMin, leadMin: min } };
}

function later(a: LocalDate, b: LocalDate): LocalDate {
  return a > b ? a : b;
}
