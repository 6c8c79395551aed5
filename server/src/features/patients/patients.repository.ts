import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { FormItem, StoredAnswers, Words } from '@zaguan/core/intake';
import type { AppointmentStatus, Origin } from '@zaguan/core/visits';

export interface PatientRow {
  id: string;
  record_number: string;
  given_name: string;
  family_name: string;
  preferred_name: string | null;
  birth_date: string;
  sex: string | null;
  language: 'en' | 'es';
  status: string;
  restricted: boolean;
  version: number;
  fields: Record<string, string | number | boolean>;
}

export async function patientRow(em: SqlEntityManager, id: string): Promise<PatientRow | null> {
  const rows = await em.execute<PatientRow[]>(
    'select id, record_number, given_name, family_name, preferred_name, birth_date::text, sex, language, status, restricted, version, fields from patient where id = ?',
    [id],
  );
  return rows[0] ?? null;
}

/** Numbers and addresses, each with the ledger's latest word about automated messages. */
export function contactRows(em: SqlEntityManager, patientId: string): Promise<{ value: string; opted_out: boolean }[]> {
  return em.execute(
    `select cp.value, coalesce((select l.event in ('revoked','wrong-number') from contact_ledger l where l.contact_point_id = cp.id and l.event in ('consented','revoked','wrong-number') order by l.at desc, l.id desc limit 1), false) as opted_out
     from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = ? order by pc.rank`,
    [patientId],
  );
}

export interface VisitRow {
  id: string;
  site_date: string;
  starts_at: string;
  ends_at: string;
  time_zone: string;
  site: string;
  visit_type: string;
  provider: string | null;
  status: AppointmentStatus;
  origin: Origin;
  reason: string;
}

export function visitRowsOf(em: SqlEntityManager, patientId: string): Promise<VisitRow[]> {
  return em.execute(
    `select a.id, a.site_date::text, a.starts_at, a.ends_at, s.time_zone, s.name as site, t.name as visit_type, r.short_name as provider, a.status, a.origin, a.reason_text as reason
     from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id where a.patient_id = ? order by a.starts_at desc limit 200`,
    [patientId],
  );
}

export interface SentRow {
  id: string;
  kind: string;
  step: string | null;
  contact: string | null;
  send_at: string;
  status: string;
  site_date: string;
}

/** Messages about a patient's visits, newest first. */
export function sentRows(em: SqlEntityManager, patientId: string): Promise<SentRow[]> {
  return em.execute(
    `select m.id, m.kind, m.step, cp.value as contact, coalesce(m.settled_at, m.send_at) as send_at, m.status, a.site_date::text from message m join appointment a on a.id = m.appointment_id
     left join contact_point cp on cp.id = m.contact_point_id where a.patient_id = ? order by 5 desc, m.seq desc limit 100`,
    [patientId],
  );
}

export interface FormRow {
  id: string;
  title: Words;
  items: FormItem[];
  answers: StoredAnswers;
  status: string;
  saved_at: string;
  site_date: string;
}

export function formRows(em: SqlEntityManager, patientId: string): Promise<FormRow[]> {
  return em.execute(
    `select r.id, json_build_object('en', f.title_en, 'es', f.title_es) as title, f.items, r.answers, r.status, r.saved_at, a.site_date::text from form_response r
     join intake_form f on f.id = r.form_id join appointment a on a.id = r.appointment_id where a.patient_id = ? order by r.saved_at desc limit 60`,
    [patientId],
  );
}

export interface ConsentRow {
  id: string;
  title: Words;
  version: number;
  signer: string;
  signer_name: string;
  language: 'en' | 'es';
  signed_at: string;
  site_date: string;
}

export function consentRows(em: SqlEntityManager, patientId: string): Promise<ConsentRow[]> {
  return em.execute(
    `select c.id, json_build_object('en', f.title_en, 'es', f.title_es) as title, f.version, c.signer, c.signer_name, c.language, c.signed_at, a.site_date::text from signed_consent c
     join consent_form f on f.id = c.consent_id join appointment a on a.id = c.appointment_id where a.patient_id = ? order by c.signed_at desc limit 60`,
    [patientId],
  );
}

export interface TrailRow {
  at: string;
  kind: 'read' | 'write';
  command: string;
  actor_kind: 'staff' | 'patient' | 'system';
  by: string | null;
}

/** The latest entries about a record or any of its visits. */
export function trailRows(em: SqlEntityManager, patientId: string, visitIds: readonly string[]): Promise<TrailRow[]> {
  const wanted = [[{ kind: 'patient', id: patientId }], ...visitIds.map((id) => [{ kind: 'appointment', id }])].map(
    (subject) => JSON.stringify(subject),
  );
  return em.execute(
    `select e.at, e.kind, e.command, e.actor_kind, c.name as by from audit_entry e left join account c on c.id = e.account_id
     where e.subjects @> any (array[${wanted.map(() => '?::jsonb').join(',')}]) order by e.at desc, e.id desc limit 60`,
    wanted,
  );
}

/** Writes the clinic's own fields if nobody wrote since; says whether it did. */
export async function setFields(
  em: SqlEntityManager,
  id: string,
  version: number,
  fields: PatientRow['fields'],
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'update patient set fields = ?::jsonb, version = version + 1 where id = ? and version = ? returning 1',
    [JSON.stringify(fields), id, version],
  );
  return rows.length > 0;
}

export interface RelationshipRow {
  id: string;
  name: string;
  related_patient_id: string | null;
  kind: string;
  may_book: boolean;
  may_sign: boolean;
  may_receive: boolean;
  may_see: boolean;
  from_date: string;
  until_date: string | null;
  limits: string;
}

export function relationshipRows(em: SqlEntityManager, patientId: string): Promise<RelationshipRow[]> {
  return em.execute(
    `select r.id, coalesce(r.related_name, trim(p.given_name || ' ' || p.family_name)) as name, r.related_patient_id, r.kind, r.may_book, r.may_sign, r.may_receive, r.may_see,
       r.from_date::text, r.until_date::text, r.limits
     from relationship r left join patient p on p.id = r.related_patient_id where r.patient_id = ? order by r.from_date desc, r.id`,
    [patientId],
  );
}

/** State and zone of the site at which a patient is seen most; where they never were, the first site's. */
export async function mainSiteOf(
  em: SqlEntityManager,
  patientId: string,
): Promise<{ region: string; timeZone: string }> {
  const [row] = await em.execute<{ region: string; timeZone: string }[]>(
    `select s.region, s.time_zone as "timeZone" from site s
       left join (select site_id, count(*) as n from appointment where patient_id = ? group by site_id) a on a.site_id = s.id
     order by coalesce(a.n, 0) desc, s.sort_order limit 1`,
    [patientId],
  );
  return row;
}

export async function insertRelationship(
  em: SqlEntityManager,
  row: {
    id: string;
    patientId: string;
    name: string;
    kind: string;
    rights: readonly string[];
    fromDate: string;
    untilDate: string | null;
    limits: string;
  },
): Promise<void> {
  await em.execute(
    `insert into relationship (id, patient_id, related_name, kind, may_book, may_sign, may_receive, may_see, from_date, until_date, limits) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    [
      row.id,
      row.patientId,
      row.name,
      row.kind,
      ...['book', 'sign', 'receive', 'see'].map((right) => row.rights.includes(right)),
      row.fromDate,
      row.untilDate,
      row.limits,
    ],
  );
}

/** Sets the last date; gives the one before, or `undefined` if there is no such relationship. */
export async function setUntil(
  em: SqlEntityManager,
  patientId: string,
  id: string,
  until: string | null,
): Promise<{ from: string; until: string | null } | undefined> {
  const [row] = await em.execute<{ from: string; until: string | null }[]>(
    'select from_date::text as "from", until_date::text as "until" from relationship where id = ? and patient_id = ? for update',
    [id, patientId],
  );
  if (row && (until === null || until >= row.from))
    await em.execute('update relationship set until_date = ? where id = ?', [until, id]);
  return row;
}

/** An addition taken back leaves nothing. */
export async function deleteRelationship(em: SqlEntityManager, id: string): Promise<void> {
  await em.execute('delete from relationship where id = ?', [id]);
}
