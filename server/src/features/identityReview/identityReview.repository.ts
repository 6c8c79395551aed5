import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { SourceTraces } from '@zaguan/core/matching';

export interface WaitingRow {
  id: string;
  version: number;
  site_id: string;
  site_date: string;
  site: string;
  time_zone: string;
  starts_at: string;
  visit_type: string;
  provider: string | null;
  patient_kind: 'new' | 'established';
  given_name: string;
  family_name: string;
  birth_date: string;
  contact: string;
  language: string;
  reason: string;
  booked_at: string;
}

const WAITING = `select a.id, a.version, a.site_id, a.site_date::text, s.name as site, s.time_zone, a.starts_at, t.name as visit_type, r.short_name as provider, a.patient_kind, b.given_name, b.family_name, b.birth_date::text,
    coalesce(b.phone, b.email) as contact, b.language, a.reason_text as reason, b.booked_at
  from appointment a join self_booking b on b.appointment_id = a.id join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id
  where a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow')`;

/** One page of those that wait, by the time of the visit. */
export function waitingRows(em: SqlEntityManager, page: number, size: number): Promise<WaitingRow[]> {
  return em.execute(`${WAITING} order by a.starts_at, a.id limit ? offset ?`, [size, page * size]);
}

/** Traces of all that wait, for finding those of one source. */
export async function waitingTraces(em: SqlEntityManager): Promise<SourceTraces[]> {
  return em.execute(
    `select a.id, encode(b.browser_hash, 'hex') as browser, coalesce(b.phone, b.email) as contact, encode(b.address_hash, 'hex') as address
     from appointment a join self_booking b on b.appointment_id = a.id
     where a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow') order by b.booked_at, a.id`,
  );
}

export interface ApprovalRow {
  id: string;
  version: number;
  site: string;
  time_zone: string;
  site_date: string;
  starts_at: string;
  visit_type: string;
  provider: string | null;
  patient_kind: 'new' | 'established';
  patient_id: string | null;
  identity: 'sure' | 'unknown';
  name: string;
  reason: string;
  booked_at: string;
}

/** Self-bookings that wait until the clinic agrees; also when their time has come: somebody may stand at the door. */
export function approvalRows(em: SqlEntityManager): Promise<ApprovalRow[]> {
  return em.execute(
    `select a.id, a.version, s.name as site, s.time_zone, a.site_date::text, a.starts_at, t.name as visit_type, r.short_name as provider, a.patient_kind, a.patient_id, a.identity,
       trim(coalesce(p.given_name, b.given_name, '') || ' ' || coalesce(p.family_name, b.family_name, '')) as name, a.reason_text as reason, coalesce(b.booked_at, a.created_at) as booked_at
     from appointment a join site s on s.id = a.site_id join visit_type t on t.id = a.visit_type_id left join resource r on r.id = a.provider_id
     left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id
     where a.approval = 'waiting' and a.status = 'pending' order by a.starts_at, a.id`,
  );
}

export async function waitingRow(em: SqlEntityManager, id: string): Promise<WaitingRow | null> {
  const rows = await em.execute<WaitingRow[]>(`${WAITING} and a.id = ?`, [id]);
  return rows[0] ?? null;
}

/** The next record number; the lock keeps two from taking the same. */
export async function nextRecordNumber(em: SqlEntityManager): Promise<string> {
  await em.execute("select pg_advisory_xact_lock(hashtextextended('zaguan.record-number', 0))");
  const [row] = await em.execute<{ n: number }[]>(
    `select coalesce(max(substring(record_number from 2)::int), 9999) + 1 as n from patient where record_number ~ '^B[0-9]+$'`,
  );
  return `B${row.n}`;
}

export async function insertPatient(
  em: SqlEntityManager,
  patient: { id: string; recordNumber: string; typed: WaitingRow; now: Date },
): Promise<void> {
  const { typed } = patient;
  await em.execute(
    `insert into patient (id, record_number, given_name, family_name, birth_date, language, status, created_at) values (?, ?, ?, ?, ?, ?, 'new', ?)`,
    [
      patient.id,
      patient.recordNumber,
      typed.given_name,
      typed.family_name,
      typed.birth_date,
      typed.language,
      patient.now,
    ],
  );
}

/** Adds a number to a record; says whether it was new to it. */
export async function addContact(em: SqlEntityManager, patientId: string, number: string): Promise<void> {
  await em.execute(
    `insert into patient_contact (patient_id, contact_point_id, rank) select ?, id, 9 from contact_point where value = ? on conflict do nothing`,
    [patientId, number],
  );
}

/** A record that was made here and has nothing else on it goes; otherwise it is archived. */
export async function takeBackPatient(em: SqlEntityManager, patientId: string): Promise<void> {
  const used = await em.execute<unknown[]>('select 1 from appointment where patient_id = ? limit 1', [patientId]);
  if (used.length) {
    await em.execute("update patient set status = 'archived' where id = ?", [patientId]);
    return;
  }
  await em.execute('delete from patient_contact where patient_id = ?', [patientId]);
  await em.execute('delete from patient where id = ?', [patientId]);
}

export async function patientExists(em: SqlEntityManager, id: string): Promise<boolean> {
  const rows = await em.execute<unknown[]>("select 1 from patient where id = ? and status <> 'archived'", [id]);
  return rows.length > 0;
}

/** The number was proved by a code when this person booked; from now on it counts for the record. */
export async function recordVerifiedFor(
  em: SqlEntityManager,
  newId: string,
  patientId: string,
  number: string,
  at: Date,
): Promise<void> {
  await em.execute(
    `insert into contact_ledger (id, contact_point_id, patient_id, event, purpose, wording, wording_version, how, at)
     select ?, id, ?, 'verified', 'identity', 'The desk linked a booking made with a code to this number.', '1', 'identity-review', ? from contact_point where value = ?`,
    [newId, patientId, at, number],
  );
}

/** Taking a decision back takes the proof back with it. */
export async function forgetVerifiedFor(em: SqlEntityManager, patientId: string, number: string): Promise<void> {
  await em.execute(
    `delete from contact_ledger where patient_id = ? and event = 'verified' and contact_point_id = (select id from contact_point where value = ?)`,
    [patientId, number],
  );
}
