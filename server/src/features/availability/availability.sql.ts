import type { OpenInvitations } from '@zaguan/core/impact';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, InvitationTemplate, Patient, Resource, ResourceSite } from '../../schema/index.ts';

export type LaneRow = ResourceSite & Pick<Resource, 'name' | 'kind' | 'color'>;

const LANES = statement<Record<never, never>, LaneRow>(
  'people before rooms before equipment',
  `select r.id as "resourceId", rs.site_id as "siteId", r.name, r.kind, r.color
   from resource r join resource_site rs on rs.resource_id = r.id join site s on s.id = rs.site_id and s.active
   where r.active order by s.sort_order, array_position(array['provider','staff','room','equipment'], r.kind), r.sort_order, r.name`,
);

/** Everyone and everything in use, once for each site they are at. */
export function laneRows(em: SqlEntityManager): Promise<LaneRow[]> {
  return rowsOf(em, LANES, {});
}

const OPEN_INVITATIONS = statement<{ now: Date }, Pick<InvitationTemplate, 'rules'> & { open: number }>(
  'counted by template',
  `select t.rules, count(*)::int as open from invitation i join invitation_template t on t.id = i.template_id
   where i.ended_at is null and i.expires_at > :now group by t.id, t.rules`,
);

/** Open invitations of each template, with what they may book. */
export function openInvitations(em: SqlEntityManager, now: Date): Promise<OpenInvitations[]> {
  return rowsOf(em, OPEN_INVITATIONS, { now });
}

export type VisitSummary = Pick<Appointment, 'patientId' | 'version'> & {
  readonly name: string;
  /** Where the patient is called (E.164). */
  readonly phone: string | null;
} & { readonly [K in 'givenName' | 'familyName']: Patient[K] | null };

const SUMMARIES = statement<{ ids: readonly string[] }, VisitSummary & Pick<Appointment, 'id'>>(
  'a person as the record says or as they typed, and the first of their numbers',
  `select a.id, a.patient_id as "patientId", a.version, coalesce(p.given_name, b.given_name) as "givenName", coalesce(p.family_name, b.family_name) as "familyName",
     coalesce(b.phone, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id and cp.kind = 'phone'
       where pc.patient_id = a.patient_id order by pc.rank limit 1)) as phone,
     coalesce(nullif(trim(p.given_name || ' ' || p.family_name), ''), nullif(trim(b.given_name || ' ' || b.family_name), ''), '') as name
   from appointment a left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id
   where a.id = any(:ids::uuid[])`,
);

/** What is to be said of booked visits: whose they are, how to reach them, and their version. */
export async function visitSummaries(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, VisitSummary>> {
  if (!ids.length) return new Map();
  return new Map((await rowsOf(em, SUMMARIES, { ids })).map((row) => [row.id, row]));
}

const COUNTS = statement<
  { from: string; until: string },
  { resourceId: string; siteId: string; date: string; n: number }
>(
  'a count by resource, site and date',
  `select o.resource_id as "resourceId", a.site_id as "siteId", a.site_date::text as date, count(distinct a.id)::int as n
   from occupancy o join appointment a on a.id = o.appointment_id
   where a.site_date between :from and :until and a.status not in ('cancelled','entered-in-error') group by 1, 2, 3`,
);

/** How many visits each resource has, by site and date. */
export async function visitCounts(em: SqlEntityManager, from: string, until: string): Promise<Map<string, number>> {
  const rows = await rowsOf(em, COUNTS, { from, until });
  return new Map(rows.map(({ resourceId, siteId, date, n }) => [`${resourceId} ${siteId} ${date}`, n]));
}
