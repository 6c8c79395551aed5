import { occursOn } from '../recurrence/index.ts';
import type { RowOf, ScheduleRows } from './rows.ts';

/** Single-date changes of hours that do not hold on their date: they do nothing, and are kept to be looked at. */
export function orphansOf(rows: ScheduleRows): RowOf<'dateChanges'>[] {
  const workingHours = new Map(rows.workingHours.map((hoursRow) => [hoursRow.id, hoursRow]));
  return rows.dateChanges.filter((row) => {
    if (row.workingHoursId === null) return false;
    const hoursRow = workingHours.get(row.workingHoursId);
    return !hoursRow || !occursOn(hoursRow.rule, row.date);
  });
}
