import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { AppointmentStatus, CancelReason } from '@zaguan/core/visits';
import type { FhirLane } from '../../exchange/fhir/scheduleToFhir.ts';
import type { FhirEncounter, FhirVisit } from '../../exchange/fhir/visitToFhir.ts';

interface VisitRow {
  id: string;
  version: number;
  status: AppointmentStatus;
  starts_at: string;
  ends_at: string;
  created_at: string;
  visit_type: string;
  reason: string;
  cancel_reason: CancelReason | null;
  confirmed: boolean;
  patient_id: string | null;
  name: string;
  provider_id: string | null;
  provider: string | null;
  site_id: string;
  site: string;
}

const NAME = `trim(coalesce(p.given_name, b.given_name, '') || ' ' || coalesce(p.family_name, b.family_name, ''))`;
const VISIT = `select a.id, a.version, a.status, a.starts_at, a.ends_at, a.created_at, t.name as visit_type, a.reason_text as reason, a.cancel_reason, a.confirmed_at is not null as confirmed,
    a.patient_id, ${NAME} as name, a.provider_id, r.name as provider, a.site_id, s.name as site
  from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;

function toVisit(row: VisitRow): FhirVisit {
  return {
    id: row.id,
    version: row.version,
    status: row.status,
    start: new Date(row.starts_at),
    end: new Date(row.ends_at),
    created: new Date(row.created_at),
    visitType: row.visit_type,
    reason: row.reason,
    cancelReason: row.cancel_reason,
    confirmed: row.confirmed,
    patient: { id: row.patient_id, name: row.name },
    provider: row.provider_id ? { id: row.provider_id, name: row.provider ?? '' } : null,
    site: { id: row.site_id, name: row.site },
  };
}

export async function fhirVisit(em: SqlEntityManager, id: string): Promise<FhirVisit | null> {
  const [row] = await em.execute<VisitRow[]>(`${VISIT} where a.id = ?`, [id]);
  return row ? toVisit(row) : null;
}

export async function fhirVisitsOn(
  em: SqlEntityManager,
  date: string,
  status: string | null,
  count: number,
): Promise<{ visits: FhirVisit[]; total: number }> {
  const where = 'where a.site_date = ? and (?::text is null or a.status = ?)';
  const rows = await em.execute<VisitRow[]>(`${VISIT} ${where} order by a.starts_at, a.id limit ?`, [
    date,
    status,
    status,
    count,
  ]);
  const [{ n }] = await em.execute<{ n: number }[]>(`select count(*)::int as n from appointment a ${where}`, [
    date,
    status,
    status,
  ]);
  return { visits: rows.map(toVisit), total: n };
}

interface EncounterRow {
  id: string;
  status: 'arrived' | 'finished' | 'cancelled';
  appointment_id: string;
  patient_id: string;
  name: string;
  provider_id: string | null;
  provider: string | null;
  site_id: string;
  site: string;
  started_at: string;
  ended_at: string | null;
}

export async function fhirEncounter(
  em: SqlEntityManager,
  by: { id: string } | { appointmentId: string },
): Promise<FhirEncounter | null> {
  const [row] = await em.execute<EncounterRow[]>(
    `select e.id, e.status, e.appointment_id, e.patient_id, trim(p.given_name || ' ' || p.family_name) as name, a.provider_id, r.name as provider, a.site_id, s.name as site, e.started_at, e.ended_at
     from encounter e join appointment a on a.id = e.appointment_id join site s on s.id = a.site_id join patient p on p.id = e.patient_id left join resource r on r.id = a.provider_id
     where ${'id' in by ? 'e.id' : 'e.appointment_id'} = ?`,
    ['id' in by ? by.id : by.appointmentId],
  );
  return row
    ? {
        id: row.id,
        status: row.status,
        appointmentId: row.appointment_id,
        patient: { id: row.patient_id, name: row.name },
        provider: row.provider_id ? { id: row.provider_id, name: row.provider ?? '' } : null,
        site: { id: row.site_id, name: row.site },
        start: new Date(row.started_at),
        end: row.ended_at ? new Date(row.ended_at) : null,
      }
    : null;
}

/** Everyone and everything in use, once for each site. */
export async function fhirLanes(em: SqlEntityManager): Promise<FhirLane[]> {
  const rows = await em.execute<
    { resource_id: string; site_id: string; name: string; kind: FhirLane['kind']; site: string }[]
  >(
    `select r.id as resource_id, s.id as site_id, r.name, r.kind, s.name as site from resource r
     join resource_site rs on rs.resource_id = r.id join site s on s.id = rs.site_id and s.active where r.active order by s.sort_order, r.sort_order, r.name`,
  );
  return rows.map((row) => ({
    resourceId: row.resource_id,
    siteId: row.site_id,
    name: row.name,
    kind: row.kind,
    siteName: row.site,
  }));
}

/** What is only held. */
export async function holdIds(em: SqlEntityManager, now: Date): Promise<Set<string>> {
  const rows = await em.execute<{ id: string }[]>('select id from hold where expires_at > ?', [now]);
  return new Set(rows.map(({ id }) => id));
}
