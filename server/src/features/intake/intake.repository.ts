import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { PatientKind } from '@zaguan/core/availability';
import type { FormItem, StoredAnswers, Words } from '@zaguan/core/intake';
import type { AppointmentStatus } from '@zaguan/core/visits';

export interface VisitFactsRow {
  id: string;
  version: number;
  status: AppointmentStatus;
  site_id: string;
  site_date: string;
  starts_at: string;
  time_zone: string;
  visit_type_id: string;
  visit_type: string;
  provider: string | null;
  patient_kind: PatientKind;
  patient_id: string | null;
  identity: 'sure' | 'unknown';
  confirmed: boolean;
  given_name: string;
  family_name: string;
  preferred_name: string | null;
  birth_date: string;
  record_number: string | null;
  restricted: boolean;
  contact: string | null;
  contact_good: boolean;
}

const CONTACT = `coalesce(b.phone, b.email, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id order by pc.rank, cp.kind desc limit 1))`;

/** Visits with everything readiness asks of them, in the order of their starts. */
export function visitFacts(em: SqlEntityManager, ids: readonly string[]): Promise<VisitFactsRow[]> {
  return em.execute(
    `select v.*, v.contact is not null
        and not coalesce((select l.event in ('revoked','wrong-number') from contact_ledger l where l.contact_point_id = cp.id and l.event in ('consented','revoked','wrong-number') order by l.at desc, l.id desc limit 1), false)
        and not coalesce((select m.status = 'failed' from message m where m.contact_point_id = cp.id and m.status in ('delivered','failed') order by m.settled_at desc limit 1), false) as contact_good
     from (select a.id, a.version, a.status, a.site_id, a.site_date::text, a.starts_at, s.time_zone, a.visit_type_id, t.name as visit_type, r.short_name as provider, a.patient_kind, a.patient_id, a.identity,
         a.confirmed_at is not null as confirmed, coalesce(p.given_name, b.given_name, '') as given_name, coalesce(p.family_name, b.family_name, '') as family_name, p.preferred_name,
         coalesce(p.birth_date, b.birth_date)::text as birth_date, p.record_number, coalesce(p.restricted, false) as restricted, ${CONTACT} as contact
       from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id
       where a.id = any(?::uuid[])) v left join contact_point cp on cp.value = v.contact order by v.starts_at, v.id`,
    [list(ids)],
  );
}

export function list(ids: readonly string[]): string {
  return `{${ids.join(',')}}`;
}

export interface DocumentRow {
  id: string;
  kind: 'form' | 'consent';
  title: Words;
  visit_type_ids: string[] | null;
  kinds: PatientKind[] | null;
  valid_months: number | null;
  items: FormItem[] | null;
  body: Words | null;
}

/** Every form and consent that some visit asks for, in order. */
export function documentRows(em: SqlEntityManager): Promise<DocumentRow[]> {
  return em.execute(
    `select coalesce(f.id, c.id) as id, case when f.id is null then 'consent' else 'form' end as kind,
       json_build_object('en', coalesce(f.title_en, c.title_en), 'es', coalesce(f.title_es, c.title_es)) as title,
       r.visit_type_ids, r.kinds, c.valid_months, f.items, case when c.id is null then null else json_build_object('en', c.body_en, 'es', c.body_es) end as body
     from packet_rule r left join intake_form f on f.id = r.form_id left join consent_form c on c.id = r.consent_id order by r.position, r.id`,
  );
}

export interface ResponseRow {
  id: string;
  appointment_id: string;
  form_id: string;
  answers: StoredAnswers;
  rev: number;
  status: 'in-progress' | 'completed';
}

export function responsesOf(em: SqlEntityManager, ids: readonly string[]): Promise<ResponseRow[]> {
  return em.execute(
    'select id, appointment_id, form_id, answers, rev, status from form_response where appointment_id = any(?::uuid[])',
    [list(ids)],
  );
}

/** The answers to one form, made if they are new and kept from a second saving at the same time. */
export async function responseForUpdate(
  em: SqlEntityManager,
  made: { id: string; appointmentId: string; formId: string; language: string; now: Date },
): Promise<ResponseRow> {
  await em.execute(
    'insert into form_response (id, appointment_id, form_id, language, started_at, saved_at) values (?, ?, ?, ?, ?, ?) on conflict do nothing',
    [made.id, made.appointmentId, made.formId, made.language, made.now, made.now],
  );
  const [row] = await em.execute<ResponseRow[]>(
    'select id, appointment_id, form_id, answers, rev, status from form_response where appointment_id = ? and form_id = ? for update',
    [made.appointmentId, made.formId],
  );
  return row;
}

export async function saveResponse(
  em: SqlEntityManager,
  row: { id: string; answers: StoredAnswers; rev: number; status: string; language: string; now: Date },
): Promise<void> {
  await em.execute(
    `update form_response set answers = ?::jsonb, rev = ?, status = ?, language = ?, saved_at = ?,
       completed_at = case when ? = 'completed' then coalesce(completed_at, ?) end where id = ?`,
    [JSON.stringify(row.answers), row.rev, row.status, row.language, row.now, row.status, row.now, row.id],
  );
}

export interface SignedRow {
  id: string;
  appointment_id: string;
  patient_id: string | null;
  consent_id: string;
  signer_name: string;
  signed_at: string;
  /** Date of signing at the site. */
  on: string;
}

/** Signatures for these visits, and earlier ones of the same people where it is sure who they are. */
export function signedFor(
  em: SqlEntityManager,
  ids: readonly string[],
  patientIds: readonly string[],
): Promise<SignedRow[]> {
  return em.execute(
    `select c.id, c.appointment_id, case a.identity when 'sure' then a.patient_id end as patient_id, c.consent_id, c.signer_name, c.signed_at, (c.signed_at at time zone s.time_zone)::date::text as on
     from signed_consent c join appointment a on a.id = c.appointment_id join site s on s.id = a.site_id
     where c.appointment_id = any(?::uuid[]) or (a.identity = 'sure' and a.patient_id = any(?::uuid[])) order by c.signed_at`,
    [list(ids), list(patientIds)],
  );
}

export async function insertSigned(
  em: SqlEntityManager,
  row: {
    id: string;
    appointmentId: string;
    consentId: string;
    signer: string;
    signerName: string;
    language: string;
    signature: unknown;
    at: Date;
    pdf: Buffer;
    sha256: Buffer;
  },
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    `insert into signed_consent (id, appointment_id, consent_id, signer, signer_name, language, signature, signed_at, pdf, pdf_sha256)
     values (?, ?, ?, ?, ?, ?, ?::jsonb, ?, ?, ?) on conflict do nothing returning 1`,
    [
      row.id,
      row.appointmentId,
      row.consentId,
      row.signer,
      row.signerName,
      row.language,
      JSON.stringify(row.signature),
      row.at,
      row.pdf,
      row.sha256,
    ],
  );
  return rows.length > 0;
}

export async function signedPdf(
  em: SqlEntityManager,
  id: string,
): Promise<{
  pdf: Buffer;
  appointment_id: string;
  site_id: string;
  patient_id: string | null;
  restricted: boolean;
} | null> {
  const rows = await em.execute<
    { pdf: Buffer; appointment_id: string; site_id: string; patient_id: string | null; restricted: boolean }[]
  >(
    `select c.pdf, c.appointment_id, a.site_id, a.patient_id, coalesce(p.restricted, false) as restricted from signed_consent c join appointment a on a.id = c.appointment_id left join patient p on p.id = a.patient_id where c.id = ?`,
    [id],
  );
  return rows[0] ?? null;
}

/** Booked visits of two dates at the sites named, by their own clocks. */
export function visitsBetween(
  em: SqlEntityManager,
  siteId: string,
  from: string,
  until: string,
): Promise<{ id: string }[]> {
  return em.execute(
    `select id from appointment where site_id = ? and site_date between ? and ? and status in ('pending','booked','arrived','checked-in') order by starts_at`,
    [siteId, from, until],
  );
}

export async function siteInfo(
  em: SqlEntityManager,
  appointmentId: string,
): Promise<{ clinic: string; site: string; time_zone: string } | null> {
  const rows = await em.execute<{ clinic: string; site: string; time_zone: string }[]>(
    'select c.name as clinic, s.public_name as site, s.time_zone from appointment a join site s on s.id = a.site_id cross join clinic c where a.id = ?',
    [appointmentId],
  );
  return rows[0] ?? null;
}
