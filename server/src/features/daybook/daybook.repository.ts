import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { AppointmentStatus, Origin } from '@zaguan/core/visits';

export interface LaneRow {
  resource_id: string;
  site_id: string;
  name: string;
  credentials: string | null;
  kind: 'provider' | 'staff' | 'room' | 'equipment';
}

/** Which resources have a lane at which site, in order: people first, then rooms and equipment. */
export function laneRows(em: SqlEntityManager): Promise<LaneRow[]> {
  return em.execute(`select rs.resource_id, rs.site_id, r.short_name as name, p.credentials, r.kind
    from resource_site rs join resource r on r.id = rs.resource_id left join provider p on p.resource_id = r.id
    where r.active and r.shown_in_daybook
    order by array_position(array['provider','staff','room','equipment'], r.kind), r.sort_order, r.name`);
}

export interface PlateRow {
  resource_id: string;
  site_id: string;
  /** The start's date at the site. */
  site_date: string;
  visit_id: string;
  provider_id: string | null;
  kind: 'visit' | 'hold';
  starts_at: string;
  ends_at: string;
  present: { start: string; end: string }[];
  visit_type_id: string;
  status: AppointmentStatus | null;
  confirmed: boolean;
  identity: 'sure' | 'unknown' | null;
  approval: string | null;
  origin: Origin | null;
  patient_kind: 'new' | 'established';
  patient_id: string | null;
  given_name: string | null;
  family_name: string | null;
  reason: string | null;
  version: number | null;
}

/**
 * What is drawn on each lane: one row per visit (or hold) and resource, with the minutes the resource is really taken.
 *
 * @param only one resource; `null` for all
 */
export function plateRows(
  em: SqlEntityManager,
  dates: readonly string[],
  now: Date,
  only: string | null,
): Promise<PlateRow[]> {
  const days = `{${dates.join(',')}}`;
  const present = `json_agg(json_build_object('start', to_char(lower(o.during) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'end', to_char(upper(o.during) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')) order by lower(o.during)) as present`;
  return em.execute(
    `select o.resource_id, a.site_id, a.site_date::text as site_date, a.id as visit_id, a.provider_id, 'visit' as kind, a.starts_at, a.ends_at, ${present}, a.visit_type_id, a.status, a.confirmed_at is not null as confirmed, a.identity, a.approval, a.origin,
        a.patient_kind, a.patient_id, coalesce(p.given_name, s.given_name) as given_name, coalesce(p.family_name, s.family_name) as family_name, a.reason_text as reason, a.version
      from appointment a join occupancy o on o.appointment_id = a.id left join patient p on p.id = a.patient_id left join self_booking s on s.appointment_id = a.id
      where a.site_date = any(?::date[]) and (?::uuid is null or o.resource_id = ?) and a.status not in ('cancelled','entered-in-error')
      group by o.resource_id, a.id, p.id, s.appointment_id
     union all
     select o.resource_id, h.site_id, h.site_date::text, h.id, h.provider_id, 'hold', h.starts_at, h.ends_at, ${present}, h.visit_type_id, null, false, null, null, null, h.patient_kind, null, null, null, null, null
      from hold h join occupancy o on o.hold_id = h.id where h.site_date = any(?::date[]) and (?::uuid is null or o.resource_id = ?) and h.expires_at > ?
      group by o.resource_id, h.id
     order by starts_at, visit_id`,
    [days, only, only, days, only, only, now],
  );
}
