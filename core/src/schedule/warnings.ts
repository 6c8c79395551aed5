import type { WorkingHours } from '../availability/index.ts';
import { type ClinicStore, settlePolicy } from '../openings/index.ts';
import { occursOn } from '../recurrence/index.ts';
import {
  addDays,
  addRangeInto,
  and,
  andNot,
  cellOfWall,
  countCells,
  datesFrom,
  emptyMask,
  epochToWall,
  isEmpty,
  type LocalDate,
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
  const put = (changes.workingHours?.put ?? []).filter(({ followsSiteHours }) => !followsSiteHours);
  return put.flatMap((hoursRow) =>
    [outsideSite(store, hoursRow, today), ...oddTimes(store, hoursRow, today), late(store, hoursRow)].flatMap((told) =>
      told ? [{ ...told, edit }] : [],
    ),
  );
}

type Found = Omit<Warning, 'edit'> | null;

/** The first date on which hours shown online reach beyond the site's. */
function outsideSite(store: ClinicStore, hoursRow: WorkingHours, today: LocalDate): Found {
  if (!hoursRow.online) return null;
  const from = later(hoursRow.rule.effectiveFrom, today);
  for (const date of datesFrom(from, addDays(from, DAYS_COMPARED))) {
    if (!occursOn(hoursRow.rule, date)) continue;
    const day = store.day(hoursRow.siteId, date);
    const hours = emptyMask();
    addRangeInto(hours, cellOfWall(day, hoursRow.fromMinute), cellOfWall(day, hoursRow.toMinute));
    const { open } = store.siteDay(hoursRow.siteId, date);
    const outside = andNot(hours, open);
    if (!isEmpty(outside))
      return {
        code: 'outside-site-hours',
        facts: {
          siteId: hoursRow.siteId,
          date,
          minutes: countCells(outside) * 5,
          inside: countCells(and(hours, open)) * 5,
        },
      };
  }
  return null;
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
