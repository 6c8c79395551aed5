import type { BusyTime } from '../../exchange/scheduleCalendar.ts';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Site, VisitType } from '../../schema/index.ts';

const BUSY = statement<
  { resourceId: string; from: Date; until: Date; siteIds: readonly string[] | null },
  { id: string; start: string; end: string; site: Site['name']; type: VisitType['name']; changedAt: string }
>(
  'joins ranges that follow each other',
  `select a.id || '-' || row_number() over (partition by a.id order by run) as id, lower(run) as start, upper(run) as end, s.name as site, t.name as type, a.changed_at
   from (select o.appointment_id, unnest(range_agg(o.during)) as run from occupancy o
         where o.resource_id = :resourceId and o.appointment_id is not null and o.during && tstzrange(:from, :until) group by o.appointment_id) x
   join appointment a on a.id = x.appointment_id and a.status not in ('cancelled','entered-in-error')
   join site s on s.id = a.site_id and (:siteIds::uuid[] is null or s.id = any(:siteIds::uuid[])) join visit_type t on t.id = a.visit_type_id order by run`,
);

/** When a resource is taken by visits, and where; parts that follow each other are one. Nobody's name is read. */
export async function busyTimes(
  em: SqlEntityManager,
  resourceId: string,
  detailed: boolean,
  from: Date,
  until: Date,
  siteIds: readonly string[] | null,
): Promise<BusyTime[]> {
  const rows = await rowsOf(em, BUSY, { resourceId, from, until, siteIds });
  return rows.map((row) => ({
    id: row.id,
    start: new Date(row.start),
    end: new Date(row.end),
    place: row.site,
    what: detailed ? row.type : null,
    stamp: new Date(row.changedAt),
  }));
}
