import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** Whether a person may change their own hours: the manager says so in set-up. */
export async function mayEditOwnHours(em: SqlEntityManager, resourceId: string): Promise<boolean> {
  const [row] = await em.execute<{ may: boolean }[]>('select may_edit_own_hours as may from resource where id = ?', [
    resourceId,
  ]);
  return row?.may ?? false;
}

export interface LaneRow {
  readonly resource_id: string;
  readonly site_id: string;
  readonly name: string;
  readonly kind: 'provider' | 'staff' | 'room' | 'equipment';
  readonly color: string | null;
}

/** Everyone and everything in use, once for each site they are at. */
export function laneRows(em: SqlEntityManager): Promise<LaneRow[]> {
  return em.execute(`select r.id as resource_id, rs.site_id, r.name, r.kind, r.color
    from resource r join resource_site rs on rs.resource_id = r.id join site s on s.id = rs.site_id and s.active
    where r.active order by s.sort_order, array_position(array['provider','staff','room','equipment'], r.kind), r.sort_order, r.name`);
}

export interface VisitSummary {
  readonly patientId: string | null;
  readonly name: string;
  readonly version: number;
  /** Where the patient is called (E.164). */
  readonly phone: string | null;
  readonly givenName: string | null;
  readonly familyName: string | null;
}

/** What is to be said of booked visits: whose they are, how to reach them, and their version. */
export async function visitSummaries(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, VisitSummary>> {
  if (!ids.length) return new Map();
  const rows = await em.execute<(VisitSummary & { id: string })[]>(
    `select a.id, a.patient_id as "patientId", a.version, coalesce(p.given_name, b.given_name) as "givenName", coalesce(p.family_name, b.family_name) as "familyName",
       coalesce(b.phone, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id and cp.kind = 'phone'
         where pc.patient_id = a.patient_id order by pc.rank limit 1)) as phone,
       coalesce(nullif(trim(p.given_name || ' ' || p.family_name), ''), nullif(trim(b.given_name || ' ' || b.family_name), ''), '') as name
     from appointment a left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id
     where a.id in (select json_array_elements_text(?::json)::uuid)`,
    [JSON.stringify(ids)],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** How many visits each resource has, by site and date. */
export async function visitCounts(em: SqlEntityManager, from: string, until: string): Promise<Map<string, number>> {
  const rows = await em.execute<{ resource_id: string; site_id: string; date: string; n: number }[]>(
    `select o.resource_id, a.site_id, a.site_date::text as date, count(distinct a.id)::int as n
     from occupancy o join appointment a on a.id = o.appointment_id
     where a.site_date between ? and ? and a.status not in ('cancelled','entered-in-error') group by 1, 2, 3`,
    [from, until],
  );
  return new Map(rows.map((row) => [`${row.resource_id} ${row.site_id} ${row.date}`, row.n]));
}

/** Names of everyone and everything, pools too, by id. */
export async function namesOf(em: SqlEntityManager): Promise<Map<string, string>> {
  const rows = await em.execute<{ id: string; name: string }[]>(
    'select id, name from resource union all select id, kind as name from pool',
  );
  return new Map(rows.map((row) => [row.id, row.name]));
}
