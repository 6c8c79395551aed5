import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { Code } from '@zaguan/core/openings';
import type { GroupKind } from '@zaguan/core/visits';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Provider, Resource, ResourceSite } from '../../schema/index.ts';

export type LaneRow = ColumnsOf<ResourceSite> &
  Pick<ColumnsOf<Resource>, 'kind'> & {
    readonly name: Resource['shortName'];
    readonly credentials: Provider['credentials'] | null;
  };

const LANES = statement<Record<never, never>, LaneRow>(
  'ordered by kinds as the Daybook lists them',
  `select rs.resource_id, rs.site_id, r.short_name as name, p.credentials, r.kind
   from resource_site rs join resource r on r.id = rs.resource_id left join provider p on p.resource_id = r.id
   where r.active and r.shown_in_daybook
   order by array_position(array['provider','staff','room','equipment'], r.kind), r.sort_order, r.name`,
);

/** Which resources have a lane at which site, in order: people first, then rooms and equipment. */
export function laneRows(em: SqlEntityManager): Promise<LaneRow[]> {
  return rowsOf(em, LANES, {});
}

type Columns = ColumnsOf<Appointment>;

export type PlateRow = Pick<
  Columns,
  'siteId' | 'siteDate' | 'providerId' | 'startsAt' | 'endsAt' | 'visitTypeId' | 'patientKind' | 'patientId'
> & {
  readonly [K in 'status' | 'identity' | 'approval' | 'origin' | 'version']: Columns[K] | null;
} & {
  readonly resourceId: Resource['id'];
  readonly visitId: string;
  readonly kind: 'visit' | 'hold';
  readonly present: { start: string; end: string }[];
  readonly confirmed: boolean;
  readonly givenName: string | null;
  readonly familyName: string | null;
  readonly reason: string | null;
  /** What whoever sees the patient next should know; `null` for visits that are over. */
  readonly alert: string | null;
  /** The rules it was booked against. */
  readonly waived: Code[] | null;
  readonly groupKind: GroupKind | null;
  /** Who books at the desk; `null` for a time that is held online. */
  readonly bookedBy: string | null;
  readonly waitingSince: string | null;
};

/** The ranges that each resource is taken by one visit or hold, looked up by it: joined, all that is ever taken would be read. */
const TAKEN_BY = (owner: string) =>
  `cross join lateral (select o.resource_id, json_agg(json_build_object('start', to_char(lower(o.during) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'end', to_char(upper(o.during) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')) order by lower(o.during)) as present
    from occupancy o where ${owner} and (:resourceId::uuid is null or o.resource_id = :resourceId::uuid) group by o.resource_id) o`;

const PLATES = statement<
  { dates: readonly string[]; siteId: string | null; resourceId: string | null; now: Date },
  PlateRow
>(
  'visits and holds as one list, with the ranges that each resource is taken',
  `select o.resource_id, a.site_id, a.site_date::text as site_date, a.id as visit_id, a.provider_id, 'visit' as kind, a.starts_at, a.ends_at, o.present, a.visit_type_id, a.status, a.confirmed_at is not null as confirmed, a.identity, a.approval, a.origin,
      a.patient_kind, a.patient_id, coalesce(p.given_name, s.given_name) as given_name, coalesce(p.family_name, s.family_name) as family_name, a.reason_text as reason, case when a.status in ('pending','booked','arrived','checked-in') then p.alert end as alert, a.version, a.rules_waived as waived, a.group_kind, null as booked_by, case when a.status = 'arrived' then a.arrived_at end as waiting_since
    from appointment a ${TAKEN_BY('o.appointment_id = a.id')} left join patient p on p.id = a.patient_id left join self_booking s on s.appointment_id = a.id
    where a.site_date = any(:dates::date[]) and (:siteId::uuid is null or a.site_id = :siteId::uuid) and a.status not in ('cancelled','entered-in-error')
   union all
   select o.resource_id, h.site_id, h.site_date::text, h.id, h.provider_id, 'hold', h.starts_at, h.ends_at, o.present, h.visit_type_id, null, false, null, null, null, h.patient_kind, null, null, null, null, null, null, null, null, b.name, null
    from hold h ${TAKEN_BY('o.hold_id = h.id')} left join account b on b.id = h.account_id where h.site_date = any(:dates::date[]) and (:siteId::uuid is null or h.site_id = :siteId::uuid) and h.expires_at > :now
   order by starts_at, visit_id`,
);

/**
 * What is drawn on each lane: one row per visit (or hold) and resource, with the minutes the resource is really taken.
 *
 * @param only one site's or one resource's; all if not said
 */
export function plateRows(
  em: SqlEntityManager,
  dates: readonly string[],
  now: Date,
  only: { readonly siteId?: string; readonly resourceId?: string },
): Promise<PlateRow[]> {
  return rowsOf(em, PLATES, { dates, siteId: only.siteId ?? null, resourceId: only.resourceId ?? null, now });
}

const BOOKED = statement<
  { siteId: string; from: string; until: string; visitTypeId: string | null },
  { date: string; booked: number }
>(
  'counted by date',
  `select site_date::text as date, count(*)::int as booked from appointment
   where site_id = :siteId and site_date between :from and :until and (:visitTypeId::uuid is null or visit_type_id = :visitTypeId::uuid)
     and status not in ('cancelled','entered-in-error') group by site_date`,
);

/** How many visits there are on each date of a site; none is none. */
export async function bookedByDate(
  em: SqlEntityManager,
  asked: { siteId: string; from: string; until: string; visitTypeId: string | null },
): Promise<ReadonlyMap<string, number>> {
  return new Map((await rowsOf(em, BOOKED, asked)).map(({ date, booked }) => [date, booked]));
}
