import type { SourceTraces } from '@zaguan/core/matching';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Resource, SelfBooking, Site, VisitType } from '../../schema/index.ts';

type VisitColumns = ColumnsOf<Appointment>;

export type WaitingRow = Pick<VisitColumns, 'id' | 'version' | 'siteId' | 'siteDate' | 'startsAt' | 'patientKind'> &
  Pick<ColumnsOf<SelfBooking>, 'givenName' | 'familyName' | 'birthDate' | 'language' | 'bookedAt'> &
  Pick<ColumnsOf<Site>, 'timeZone'> & {
    readonly site: Site['name'];
    readonly visitType: VisitType['name'];
    readonly provider: Resource['shortName'] | null;
    readonly contact: string;
    readonly reason: Appointment['reasonText'];
  };

const OPEN = `a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow')`;
const WAITING = `select a.id, a.version, a.site_id, a.site_date::text, s.name as site, s.time_zone, a.starts_at, t.name as visit_type, r.short_name as provider, a.patient_kind, b.given_name, b.family_name, b.birth_date::text,
    coalesce(b.phone, b.email) as contact, b.language, a.reason_text as reason, b.booked_at
  from appointment a join self_booking b on b.appointment_id = a.id join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id
  where ${OPEN}`;
const BY_SELF_BOOKING = 'led by the self-booking, which is no to-one relation of the visit';

const WAITING_PAGE = statement<{ size: number; skipped: number }, WaitingRow>(
  BY_SELF_BOOKING,
  `${WAITING} order by a.starts_at, a.id limit :size offset :skipped`,
);

/** One page of those that wait, by the time of the visit. */
export function waitingRows(em: SqlEntityManager, page: number, size: number): Promise<WaitingRow[]> {
  return rowsOf(em, WAITING_PAGE, { size, skipped: page * size });
}

const WAITING_ONE = statement<{ id: string }, WaitingRow>(BY_SELF_BOOKING, `${WAITING} and a.id = :id`);

export function waitingRow(em: SqlEntityManager, id: string): Promise<WaitingRow | null> {
  return rowOf(em, WAITING_ONE, { id });
}

const TRACES = statement<Record<never, never>, SourceTraces>(
  BY_SELF_BOOKING,
  `select a.id, encode(b.browser_hash, 'hex') as browser, coalesce(b.phone, b.email) as contact, encode(b.address_hash, 'hex') as address
   from appointment a join self_booking b on b.appointment_id = a.id where ${OPEN} order by b.booked_at, a.id`,
);

/** Traces of all that wait, for finding those of one source. */
export function waitingTraces(em: SqlEntityManager): Promise<SourceTraces[]> {
  return rowsOf(em, TRACES, {});
}

export type ApprovalRow = Pick<
  VisitColumns,
  'id' | 'version' | 'siteDate' | 'startsAt' | 'patientKind' | 'patientId' | 'identity'
> &
  Pick<ColumnsOf<Site>, 'timeZone'> & {
    readonly site: Site['name'];
    readonly visitType: VisitType['name'];
    readonly provider: Resource['shortName'] | null;
    readonly name: string;
    readonly reason: Appointment['reasonText'];
    readonly bookedAt: string;
  };

const APPROVALS = statement<Record<never, never>, ApprovalRow>(
  'the name is the patient’s or what was typed',
  `select a.id, a.version, s.name as site, s.time_zone, a.site_date::text, a.starts_at, t.name as visit_type, r.short_name as provider, a.patient_kind, a.patient_id, a.identity,
     trim(coalesce(p.given_name, b.given_name, '') || ' ' || coalesce(p.family_name, b.family_name, '')) as name, a.reason_text as reason, coalesce(b.booked_at, a.created_at) as booked_at
   from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id
   left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id
   where a.approval = 'waiting' and a.status = 'pending' order by a.starts_at, a.id`,
);

/** Self-bookings that wait until the clinic agrees; also when their time has come: somebody may stand at the door. */
export function approvalRows(em: SqlEntityManager): Promise<ApprovalRow[]> {
  return rowsOf(em, APPROVALS, {});
}
