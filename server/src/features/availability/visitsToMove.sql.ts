import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Account, Appointment, VisitToMove } from '../../schema/index.ts';

export type OpenRow = Pick<ColumnsOf<Appointment>, 'id' | 'siteDate'> &
  Pick<ColumnsOf<VisitToMove>, 'since' | 'foundBy' | 'callOutcome' | 'calledAt'> & {
    readonly calledBy: Account['name'] | null;
    /** The patient was sent a message about it. */
    readonly told: boolean;
  };

const OPEN = statement<{ now: Date }, OpenRow>(
  'asks of each visit whether a message about it exists',
  `select a.id, m.since, m.found_by, a.site_date::text, m.call_outcome, m.called_at, c.name as called_by,
     exists (select 1 from message x where x.appointment_id = a.id and x.kind = 'must-move' and x.created_at >= m.since
       and x.status in ('planned','sent','delivered')) as told
   from visit_to_move m join appointment a on a.id = m.appointment_id left join account c on c.id = m.called_by
   where m.kept_at is null and a.status in ('booked','pending') and a.starts_at > :now order by a.starts_at`,
);

/** Booked visits to come that are on the list, by when they start. */
export function openRows(em: SqlEntityManager, now: Date): Promise<OpenRow[]> {
  return rowsOf(em, OPEN, { now });
}
