import type { RowOf } from '@zaguan/core/schedule';
import type { LocalDate } from '@zaguan/core/time';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const LOCK = statement<Record<never, never>, never>(
  'an advisory lock',
  "select pg_advisory_xact_lock(hashtextextended('zaguan.schedule', 0))",
);

/**
 * One change of the schedule at a time, and no booking between what is judged and what is written: a booking holds the
 * same lock together with others (see `booking.sql.ts`).
 */
export async function lockSchedule(em: SqlEntityManager): Promise<void> {
  await rowsOf(em, LOCK, {});
}

const LAST = statement<Record<never, never>, { last: LocalDate | null }>(
  'the last of all',
  "select max(site_date)::text as last from appointment where status in ('booked','pending')",
);

/** The last date on which anything is booked, today or later; `null` if nothing is. */
export async function lastBookedDate(em: SqlEntityManager): Promise<LocalDate | null> {
  return (await rowOf(em, LAST, {}))?.last ?? null;
}

const STROKE = statement<
  {
    id: string;
    resourceId: string;
    siteId: string;
    date: string;
    fromMinute: number;
    toMinute: number;
    value: string;
    order: number;
  },
  never
>(
  'takes back the number under which it was painted, which the database gives otherwise',
  `insert into brush_stroke (id, resource_id, site_id, date, from_minute, to_minute, value, painted) overriding system value
   values (:id, :resourceId, :siteId, :date, :fromMinute, :toMinute, :value, :order)`,
);

/** Paints a stroke anew in its old place. */
export async function putStrokeBack(em: SqlEntityManager, row: RowOf<'brush'>): Promise<void> {
  const { id, resourceId, siteId, date, fromMinute, toMinute, value, order } = row;
  await rowsOf(em, STROKE, { id, resourceId, siteId, date, fromMinute, toMinute, value, order });
}
