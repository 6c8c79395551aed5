import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment } from '../../schema/index.ts';

export type SheetRow = Pick<ColumnsOf<Appointment>, 'startsAt' | 'endsAt' | 'status' | 'patientId' | 'changedAt'> & {
  readonly visitId: Appointment['id'];
  readonly confirmed: boolean;
  readonly visitType: string;
  readonly provider: string | null;
  readonly places: readonly string[];
  readonly givenName: string | null;
  readonly familyName: string | null;
  readonly birthDate: string | null;
  readonly phone: string | null;
  readonly reason: string | null;
  readonly alert: string | null;
};

const ROWS = statement<{ date: string; siteId: string; resourceId: string | null }, SheetRow>(
  'a visit with everybody and everything it takes, and how its patient is reached, in one trip',
  `select a.id as visit_id, a.starts_at, a.ends_at, a.status, a.patient_id, a.changed_at, a.confirmed_at is not null as confirmed, t.name as visit_type, who.short_name as provider,
      (select coalesce(json_agg(distinct r.short_name), '[]') from occupancy o join resource r on r.id = o.resource_id where o.appointment_id = a.id and r.id is distinct from a.provider_id) as places,
      coalesce(p.given_name, s.given_name) as given_name, coalesce(p.family_name, s.family_name) as family_name, coalesce(p.birth_date, s.birth_date)::text as birth_date,
      coalesce((select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id and cp.kind = 'phone' order by pc.rank limit 1), s.phone) as phone,
      a.reason_text as reason, p.alert
    from appointment a join visit_type t on t.id = a.visit_type_id left join resource who on who.id = a.provider_id
      left join patient p on p.id = a.patient_id left join self_booking s on s.appointment_id = a.id
    where a.site_id = :siteId and a.site_date = :date::date and a.status not in ('cancelled','entered-in-error')
      and (:resourceId::uuid is null or exists (select 1 from occupancy o where o.appointment_id = a.id and o.resource_id = :resourceId::uuid))
    order by a.starts_at, who.sort_order, a.id`,
);

/** The visits of one site's date that stand, in the order of their start; of one resource's alone, if one is named. */
export function sheetRows(
  em: SqlEntityManager,
  asked: { readonly date: string; readonly siteId: string; readonly resourceId: string | null },
): Promise<SheetRow[]> {
  return rowsOf(em, ROWS, asked);
}
