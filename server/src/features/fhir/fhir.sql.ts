import type { FhirLane } from '../../exchange/fhir/scheduleToFhir.ts';
import type { FhirEncounter, FhirVisit } from '../../exchange/fhir/visitToFhir.ts';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Encounter, Resource, Site, VisitType } from '../../schema/index.ts';

type VisitRow = Pick<
  ColumnsOf<Appointment>,
  | ('id' | 'version' | 'status' | 'startsAt' | 'endsAt' | 'createdAt')
  | ('cancelReason' | 'patientId' | 'providerId' | 'siteId')
> & {
  readonly visitType: VisitType['name'];
  readonly reason: Appointment['reasonText'];
  readonly confirmed: boolean;
  readonly name: string;
  readonly provider: Resource['name'] | null;
  readonly site: Site['name'];
};

const NAME = `trim(coalesce(p.given_name, b.given_name, '') || ' ' || coalesce(p.family_name, b.family_name, ''))`;
const VISIT = `select a.id, a.version, a.status, a.starts_at, a.ends_at, a.created_at, t.name as visit_type, a.reason_text as reason, a.cancel_reason, a.confirmed_at is not null as confirmed,
    a.patient_id, ${NAME} as name, a.provider_id, r.name as provider, a.site_id, s.name as site
  from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;

function toVisit(row: VisitRow): FhirVisit {
  return {
    id: row.id,
    version: row.version,
    status: row.status,
    start: new Date(row.startsAt),
    end: new Date(row.endsAt),
    created: new Date(row.createdAt),
    visitType: row.visitType,
    reason: row.reason,
    cancelReason: row.cancelReason,
    confirmed: row.confirmed,
    patient: { id: row.patientId, name: row.name },
    provider: row.providerId ? { id: row.providerId, name: row.provider ?? '' } : null,
    site: { id: row.siteId, name: row.site },
  };
}

const EITHER_NAME = 'the person is the patient’s record or what was typed';
const ONE = statement<{ id: string }, VisitRow>(EITHER_NAME, `${VISIT} where a.id = :id`);

export async function fhirVisit(em: SqlEntityManager, id: string): Promise<FhirVisit | null> {
  const row = await rowOf(em, ONE, { id });
  return row && toVisit(row);
}

const ON_DATE = 'where a.site_date = :date and (:status::text is null or a.status = :status::text)';
const PAGE = statement<{ date: string; status: string | null; count: number }, VisitRow>(
  EITHER_NAME,
  `${VISIT} ${ON_DATE} order by a.starts_at, a.id limit :count`,
);
const TOTAL = statement<{ date: string; status: string | null }, { n: number }>(
  'counted by the condition of the page',
  `select count(*)::int as n from appointment a ${ON_DATE}`,
);

export async function fhirVisitsOn(
  em: SqlEntityManager,
  date: string,
  status: string | null,
  count: number,
): Promise<{ visits: FhirVisit[]; total: number }> {
  const rows = await rowsOf(em, PAGE, { date, status, count });
  const [{ n }] = await rowsOf(em, TOTAL, { date, status });
  return { visits: rows.map(toVisit), total: n };
}

type EncounterRow = Pick<
  ColumnsOf<Encounter>,
  'id' | 'status' | 'appointmentId' | 'patientId' | 'startedAt' | 'endedAt'
> &
  Pick<ColumnsOf<Appointment>, 'providerId' | 'siteId'> & {
    readonly name: string;
    readonly provider: Resource['name'] | null;
    readonly site: Site['name'];
  };

const ENCOUNTER = statement<{ id: string | null; appointmentId: string | null }, EncounterRow>(
  'by its own id or by its visit’s, with what the visit belongs to',
  `select e.id, e.status, e.appointment_id, e.patient_id, trim(p.given_name || ' ' || p.family_name) as name, a.provider_id, r.name as provider, a.site_id, s.name as site, e.started_at, e.ended_at
   from encounter e join appointment a on a.id = e.appointment_id join site s on s.id = a.site_id join patient p on p.id = e.patient_id left join resource r on r.id = a.provider_id
   where e.id = :id::uuid or e.appointment_id = :appointmentId::uuid`,
);

export async function fhirEncounter(
  em: SqlEntityManager,
  by: { id: string } | { appointmentId: string },
): Promise<FhirEncounter | null> {
  const row = await rowOf(em, ENCOUNTER, { id: null, appointmentId: null, ...by });
  return (
    row && {
      id: row.id,
      status: row.status,
      appointmentId: row.appointmentId,
      patient: { id: row.patientId, name: row.name },
      provider: row.providerId ? { id: row.providerId, name: row.provider ?? '' } : null,
      site: { id: row.siteId, name: row.site },
      start: new Date(row.startedAt),
      end: row.endedAt ? new Date(row.endedAt) : null,
    }
  );
}

type LaneRow = Pick<ColumnsOf<Resource>, 'name' | 'kind'> & {
  readonly resourceId: Resource['id'];
  readonly siteId: Site['id'];
  readonly site: Site['name'];
};

const LANES = statement<Record<never, never>, LaneRow>(
  'once for each site: by the link of two tables, in the order of both',
  `select r.id as resource_id, s.id as site_id, r.name, r.kind, s.name as site from resource r
   join resource_site rs on rs.resource_id = r.id join site s on s.id = rs.site_id and s.active where r.active order by s.sort_order, r.sort_order, r.name`,
);

/** Everyone and everything in use, once for each site. */
export async function fhirLanes(em: SqlEntityManager): Promise<FhirLane[]> {
  const rows = await rowsOf(em, LANES, {});
  return rows.map((row) => ({
    resourceId: row.resourceId,
    siteId: row.siteId,
    name: row.name,
    kind: row.kind,
    siteName: row.site,
  }));
}
