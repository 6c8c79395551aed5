import { occursOn } from '../recurrence/index.ts';
import { addDays, datesFrom, type LocalDate, type Weekday, weekdayOf } from '../time/index.ts';
import type { WorkingHours } from '../availability/index.ts';
import { type Collision, DAYS_SEARCHED } from './collisions.ts';
import type { HoursPattern, ScheduleEdit } from './edits.ts';
import type { ScheduleRows } from './rows.ts';

/** Hours that meet others every second week, say, are taken off date by date; more dates than these are nobody's wish. */
const MAX_SINGLE_DATES = 30;

/**
 * The edits after which what stands in the way gives way: the whole stretch, on the days on which it is in the way, and
 * no longer than what takes its place. Recurring hours end on those days of the week, and begin again after the last of
 * the new dates if those have an end; where only some of their dates are in the way, those dates are taken off alone.
 *
 * @param rows the schedule as it stands, which the edits are done on first
 * @returns `null` where something can't give way: a pool's hours, whose other members would lose them, or too many dates
 */
export function makeWay(collisions: readonly Collision[], rows: ScheduleRows, today: LocalDate): ScheduleEdit[] | null {
  const edits: ScheduleEdit[] = [];
  for (const [sourceId, those] of bySource(collisions)) {
    const dates = [...new Set(those.flatMap((collision) => collision.dates))].filter((date) => date >= today).sort();
    if (!dates.length) return null;
    const change = rows.dateChanges.find(({ id }) => id === sourceId);
    const hours = rows.workingHours.find(({ id }) => id === (change ? change.workingHoursId : sourceId));
    if ((change ?? hours)?.subject.of !== 'resource') return null;
    if (change && !hours) edits.push({ do: 'drop-date-change', changeId: change.id });
    else if (change && hours) edits.push(takenOff(hours, change.date));
    else if (hours) {
      const given = recurringGivesWay(
        hours,
        dates,
        those.map(({ own }) => own),
      );
      if (!given) return null;
      edits.push(...given);
    }
  }
  return edits;
}

function bySource(collisions: readonly Collision[]): Map<string, Collision[]> {
  const found = new Map<string, Collision[]>();
  for (const each of collisions) found.set(each.other.sourceId, [...(found.get(each.other.sourceId) ?? []), each]);
  return found;
}

const takenOff = (hours: WorkingHours, date: LocalDate): ScheduleEdit => ({
  do: 'end-hours',
  hoursId: hours.id,
  reach: { of: 'date', date },
});

function recurringGivesWay(
  hours: WorkingHours,
  dates: readonly LocalDate[],
  owns: readonly (WorkingHours | null)[],
): ScheduleEdit[] | null {
  const recurring = owns.filter((own) => own !== null);
  const [first] = dates;
  const weekdays = [...new Set(dates.map(weekdayOf))].sort((a, b) => a - b);
  const meets = new Set(dates);
  const worked = datesFrom(first, lastCompared(recurring, first)).filter(
    (date) => weekdays.includes(weekdayOf(date)) && occursOn(hours.rule, date),
  );
  if (recurring.length < owns.length || !worked.every((date) => meets.has(date))) {
    // Single dates, or every second week of these: the other dates stay as they are.
    const isWhole = recurring.every(
      ({ rule }) => rule.effectiveUntil !== null && rule.effectiveUntil <= addDays(rule.effectiveFrom, DAYS_SEARCHED),
    );
    return isWhole && dates.length <= MAX_SINGLE_DATES ? dates.map((date) => takenOff(hours, date)) : null;
  }
  const ends: ScheduleEdit = {
    do: 'end-hours',
    hoursId: hours.id,
    reach: { of: 'from', date: first, ...(weekdays.length < hours.rule.weekdays.length && { weekdays }) },
  };
  const untils = recurring.map(({ rule }) => rule.effectiveUntil);
  const bounded = untils.filter((until) => until !== null).sort();
  const again = bounded.length === untils.length ? beginsAgain(hours, weekdays, bounded.at(-1) as LocalDate) : null;
  return again ? [ends, again] : [ends];
}

/** Until when every date must be in the way: as long as the new hours last, or as far as collisions are looked for. */
function lastCompared(recurring: readonly WorkingHours[], first: LocalDate): LocalDate {
  const ends = recurring.map(({ rule }) => {
    const searched = addDays(rule.effectiveFrom, DAYS_SEARCHED);
    return rule.effectiveUntil === null || rule.effectiveUntil > searched ? searched : rule.effectiveUntil;
  });
  return ends.reduce((latest, date) => (date > latest ? date : latest), first);
}

/** The hours as they were, from their first date after another one on; `null` if there is none. */
function beginsAgain(hours: WorkingHours, weekdays: readonly Weekday[], after: LocalDate): ScheduleEdit | null {
  const { id: _, subject, rule, ...rest } = hours;
  const days = datesFrom(addDays(after, 1), addDays(after, DAYS_SEARCHED));
  const from = days.find((date) => weekdays.includes(weekdayOf(date)) && occursOn(rule, date));
  if (!from) return null;
  const { everyWeeks, effectiveUntil } = rule;
  const pattern: HoursPattern = { ...rest, weekdays, everyWeeks, effectiveUntil };
  return { do: 'add-hours', subject, from, pattern };
}
