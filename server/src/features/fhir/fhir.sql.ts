import type { LocalDate } from '@zaguan/core/time';
import type { FhirLane } from '../../exchange/fhir/scheduleToFhir.ts';
import type { FhirEncounter, FhirVisit } from '../../exchange/fhir/visitToFhir.ts';
import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Bounds } from './searching.ts';
import type { Appointment, Encounter, Resource, Site, VisitType } from '../../schema/index.ts';

type VisitRow = Pick<
  ColumnsOf<Appointment>,
  | ('id' | 'version' | 'changedAt' | 'status' | 'startsAt' | 'endsAt' | 'createdAt')
  | ('cancelReason' | 'patientId' | 'providerId' | 'siteId' | 'visitTypeId')
> & {
  readonly typeCode: VisitType['code'];
  readonly typeName: VisitType['name'];
  readonly reason: Appointment['reasonText'];
  readonly confirmed: boolean;
  readonly name: string;
  readonly provider: Resource['name'] | null;
  readonly site: Site['name'];
};

const NAME = `trim(coalesce(p.given_name, b.given_name, '') || ' ' || coalesce(p.family_name, b.family_name, ''))`;
const VISIT = `select a.id, a.version, a.changed_at, a.status, a.starts_at, a.ends_at, a.created_at, a.visit_type_id, t.code as type_code, t.name as type_name, a.reason_text as reason, a.cancel_reason,
    a.confirmed_at is not null as confirmed, a.patient_id, ${NAME} as name, a.provider_id, r.name as provider, a.site_id, s.name as site
  from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;

function toVisit(row: VisitRow): FhirVisit {
  return {
    id: row.id,
    version: row.version,
    changedAt: new Date(row.changedAt),
    status: row.status,
    start: new Date(row.startsAt),
    end: new Date(row.endsAt),
    created: new Date(row.createdAt),
    service: { id: row.visitTypeId, code: row.typeCode, name: row.typeName },
    reason: row.reason,
    cancelReason: row.cancelReason,
    confirmed: row.confirmed,
    patient: { id: row.patientId, name: row.name },
    provider: row.providerId ? { id: row.providerId, name: row.provider ?? '' } : null,
    site: { id: row.siteId, name: row.site },
  };
}

/** What visits are searched by; `null`: not by that. Bounds from above are not included. */
export interface VisitSearch {
  readonly ids: readonly string[] | null;
  readonly statuses: readonly string[] | null;
  readonly patientIds: readonly string[] | null;
  readonly providerIds: readonly string[] | null;
  readonly siteIds: readonly string[] | null;
  readonly typeIds: readonly string[] | null;
  readonly dates: Bounds<LocalDate>;
  readonly starts: Bounds<number>;
  readonly changed: Bounds<number>;
}

/** Where a page begins: after this visit, by start and id. */
export interface PageStart {
  readonly start: number;
  readonly id: string;
}

type SearchParams = {
  ids: readonly string[] | null;
  statuses: readonly string[] | null;
  patientIds: readonly string[] | null;
  providerIds: readonly string[] | null;
  siteIds: readonly string[] | null;
  typeIds: readonly string[] | null;
  dateFrom: string | null;
  dateUntil: string | null;
  startFrom: Date | null;
  startUntil: Date | null;
  changedFrom: Date | null;
  changedUntil: Date | null;
};

const instantOf = (ms: number | null) => (ms === null ? null : new Date(ms));
const paramsOf = ({ dates, starts, changed, ...lists }: VisitSearch): SearchParams => ({
  ...lists,
  dateFrom: dates.from,
  dateUntil: dates.until,
  startFrom: instantOf(starts.from),
  startUntil: instantOf(starts.until),
  changedFrom: instantOf(changed.from),
  changedUntil: instantOf(changed.until),
});

const MATCHES = `where (:ids::uuid[] is null or a.id = any(:ids::uuid[])) and (:statuses::text[] is null or a.status = any(:statuses::text[]))
   and (:patientIds::uuid[] is null or a.patient_id = any(:patientIds::uuid[])) and (:providerIds::uuid[] is null or a.provider_id = any(:providerIds::uuid[]))
   and (:siteIds::uuid[] is null or a.site_id = any(:siteIds::uuid[])) and (:typeIds::uuid[] is null or a.visit_type_id = any(:typeIds::uuid[]))
   and (:dateFrom::date is null or a.site_date >= :dateFrom::date) and (:dateUntil::date is null or a.site_date < :dateUntil::date)
   and (:startFrom::timestamptz is null or a.starts_at >= :startFrom::timestamptz) and (:startUntil::timestamptz is null or a.starts_at < :startUntil::timestamptz)
   and (:changedFrom::timestamptz is null or a.changed_at >= :changedFrom::timestamptz) and (:changedUntil::timestamptz is null or a.changed_at < :changedUntil::timestamptz)`;

const EITHER_NAME = 'the person is the patient’s record or what was typed';
const PAGE = statement<SearchParams & { afterStart: Date | null; afterId: string | null; count: number }, VisitRow>(
  EITHER_NAME,
  `${VISIT} ${MATCHES} and (:afterStart::timestamptz is null or (a.starts_at, a.id) > (:afterStart::timestamptz, :afterId::uuid)) order by a.starts_at, a.id limit :count`,
);
const TOTAL = statement<SearchParams, { n: number }>(
  'counted by the condition of the page',
  `select count(*)::int as n from appointment a ${MATCHES}`,
);

/** A page of visits in the order of their starts, one more than asked for if there are more; and how many there are in all. */
export async function fhirVisits(
  em: SqlEntityManager,
  search: VisitSearch,
  { after, count }: { after: PageStart | null; count: number },
): Promise<{ visits: FhirVisit[]; total: number }> {
  const params = paramsOf(search);
  const at = { afterStart: after && new Date(after.start), afterId: after?.id ?? null };
  const rows = await rowsOf(em, PAGE, { ...params, ...at, count: count + 1 });
  const [{ n }] = await rowsOf(em, TOTAL, params);
  return { visits: rows.map(toVisit), total: n };
}

type EncounterRow = Pick<
  ColumnsOf<Encounter>,
  'id' | 'status' | 'appointmentId' | 'patientId' | 'startedAt' | 'endedAt'
> &
  Pick<ColumnsOf<Appointment>, 'providerId' | 'siteId' | 'version' | 'changedAt'> & {
    readonly name: string;
    readonly provider: Resource['name'] | null;
    readonly site: Site['name'];
  };

type EncounterParams = {
  ids: readonly string[] | null;
  appointmentIds: readonly string[] | null;
  patientIds: readonly string[] | null;
  statuses: readonly string[] | null;
  from: Date | null;
  until: Date | null;
  changedFrom: Date | null;
  changedUntil: Date | null;
};

const OF_ENCOUNTERS = `from encounter e join appointment a on a.id = e.appointment_id join site s on s.id = a.site_id join patient p on p.id = e.patient_id left join resource r on r.id = a.provider_id
   where (:ids::uuid[] is null or e.id = any(:ids::uuid[])) and (:appointmentIds::uuid[] is null or e.appointment_id = any(:appointmentIds::uuid[]))
   and (:patientIds::uuid[] is null or e.patient_id = any(:patientIds::uuid[])) and (:statuses::text[] is null or e.status = any(:statuses::text[]))
   and (:from::timestamptz is null or coalesce(e.ended_at, 'infinity') >= :from::timestamptz) and (:until::timestamptz is null or e.started_at < :until::timestamptz)
   and (:changedFrom::timestamptz is null or a.changed_at >= :changedFrom::timestamptz) and (:changedUntil::timestamptz is null or a.changed_at < :changedUntil::timestamptz)`;
const ENCOUNTERS = statement<
  EncounterParams & { afterStart: Date | null; afterId: string | null; count: number },
  EncounterRow
>(
  'with what the visit belongs to',
  `select e.id, e.status, e.appointment_id, e.patient_id, trim(p.given_name || ' ' || p.family_name) as name, a.provider_id, r.name as provider, a.site_id, s.name as site, e.started_at, e.ended_at, a.version, a.changed_at
   ${OF_ENCOUNTERS} and (:afterStart::timestamptz is null or (e.started_at, e.id) > (:afterStart::timestamptz, :afterId::uuid)) order by e.started_at, e.id limit :count`,
);
const ENCOUNTER_TOTAL = statement<EncounterParams, { n: number }>(
  'counted by the condition of the page',
  `select count(*)::int as n ${OF_ENCOUNTERS}`,
);

/** What encounters are searched by; a period overlaps the bounds of its time. */
export interface EncounterSearch {
  readonly ids: readonly string[] | null;
  readonly appointmentIds: readonly string[] | null;
  readonly patientIds: readonly string[] | null;
  readonly statuses: readonly string[] | null;
  readonly time: Bounds<number>;
  readonly changed: Bounds<number>;
}

/** A page of encounters in the order of their beginnings, in the same way. */
export async function fhirEncounters(
  em: SqlEntityManager,
  { time, changed, ...lists }: EncounterSearch,
  { after, count }: { after: PageStart | null; count: number },
): Promise<{ encounters: FhirEncounter[]; total: number }> {
  const params = {
    ...lists,
    from: instantOf(time.from),
    until: instantOf(time.until),
    changedFrom: instantOf(changed.from),
    changedUntil: instantOf(changed.until),
  };
  const at = { afterStart: after && new Date(after.start), afterId: after?.id ?? null };
  const rows = await rowsOf(em, ENCOUNTERS, { ...params, ...at, count: count + 1 });
  const [{ n }] = await rowsOf(em, ENCOUNTER_TOTAL, params);
  return { encounters: rows.map(toEncounterFacts), total: n };
}

function toEncounterFacts(row: EncounterRow): FhirEncounter {
  return {
    id: row.id,
    version: row.version,
    changedAt: new Date(row.changedAt),
    status: row.status,
    appointmentId: row.appointmentId,
    patient: { id: row.patientId, name: row.name },
    provider: row.providerId ? { id: row.providerId, name: row.provider ?? '' } : null,
    site: { id: row.siteId, name: row.site },
    start: new Date(row.startedAt),
    end: row.endedAt ? new Date(row.endedAt) : null,
  };
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
