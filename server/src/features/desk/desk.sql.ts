import type { KnownVisit } from '@zaguan/core/findTime';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Patient } from '../../schema/index.ts';

/** A visit of the patient that took place, or a coming one of their household. */
export type HabitRow = KnownVisit & { readonly own: boolean };

const MINUTE = (instant: string) => `(extract(epoch from ${instant}) / 60)::int`;

const HABITS = statement<{ id: string; householdId: string | null; now: Date }, HabitRow>(
  'the last visits of one and the next ones of others, in one trip',
  `(select true as own, a.site_id, a.provider_id, ${MINUTE('a.starts_at')} as start, ${MINUTE('a.ends_at')} as "end" from appointment a
     where a.patient_id = :id and a.status = 'fulfilled' and a.starts_at <= :now order by a.starts_at desc limit 8)
   union all
   (select false, a.site_id, a.provider_id, ${MINUTE('a.starts_at')}, ${MINUTE('a.ends_at')} from appointment a join patient p on p.id = a.patient_id
     where p.household_id = :householdId::uuid and p.id <> :id and not p.restricted and a.status = 'booked' and a.starts_at > :now order by a.starts_at limit 20)`,
);

/** What habits are read from: the patient's last visits, the latest first, and those their household has before it. */
export function habitRows(
  em: SqlEntityManager,
  { id, householdId }: Pick<Patient, 'id' | 'householdId'>,
  now: Date,
): Promise<HabitRow[]> {
  return rowsOf(em, HABITS, { id, householdId, now });
}

export interface ContextVisitRow {
  readonly id: string;
  readonly patientId: string;
  readonly siteDate: string;
  readonly startsAt: string;
  readonly timeZone: string;
  readonly siteName: string;
  readonly visitTypeId: string;
  readonly visitType: string;
  readonly provider: string | null;
  readonly status: Appointment['status'];
  readonly payerId: string | null;
}

const CONTEXT = statement<{ ids: readonly string[]; now: Date; from: Date }, ContextVisitRow>(
  'visits of several people with what they name and who pays, in one trip',
  `select a.id, a.patient_id, a.site_date::text, a.starts_at, s.time_zone, s.name as site_name, a.visit_type_id, t.name as visit_type, r.short_name as provider, a.status, c.payer_id
   from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join visit_coverage c on c.appointment_id = a.id
   where a.patient_id = any(:ids::uuid[]) and a.status not in ('cancelled','entered-in-error') and a.starts_at > :from
   order by a.starts_at`,
);

/** Visits of some people that are to come or were within a time; none that were canceled. */
export function contextVisits(
  em: SqlEntityManager,
  ids: readonly string[],
  now: Date,
  from: Date,
): Promise<ContextVisitRow[]> {
  return rowsOf(em, CONTEXT, { ids, now, from });
}
