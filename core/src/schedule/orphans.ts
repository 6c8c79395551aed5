import { occursOn } from '../recurrence/index.ts';
import type { RowOf, ScheduleRows } from './rows.ts';

/** Single-date changes of hours that do not hold on their date: they do nothing, and are kept to be looked at. */
export function orphansOf(rows: ScheduleRows): RowOf<'dateChanges'>[] {
  const sessions = new Map(rows.sessions.map((session) => [session.id, session]));
  return rows.dateChanges.filter((row) => {
    if (row.sessionId === null) return false;
    const session = sessions.get(row.sessionId);
    return !session || !occursOn(session.rule, row.date);
  });
}
