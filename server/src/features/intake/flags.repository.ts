import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { AnswerValue, RedFlagSeverity, Words } from '@zaguan/core/intake';
import { list } from './intake.repository.ts';

export interface FlagRow {
  id: string;
  appointment_id: string;
  form_id: string;
  link_id: string;
  severity: RedFlagSeverity;
  answer: AnswerValue;
  advice: Words;
  raised_at: string;
  cleared_at: string | null;
  cleared_by: string | null;
  clear_note: string | null;
}

/** Every flag of these visits, open and closed. A flag is open until a clearing of it stands. */
export function flagsOf(em: SqlEntityManager, ids: readonly string[]): Promise<FlagRow[]> {
  return em.execute(
    `select f.id, f.appointment_id, r.form_id, f.link_id, f.severity, f.answer, f.advice, f.raised_at, k.at as cleared_at, c.name as cleared_by, k.note as clear_note
     from red_flag f join form_response r on r.id = f.form_response_id left join red_flag_clearing k on k.red_flag_id = f.id and k.undone_at is null left join account c on c.id = k.account_id
     where f.appointment_id = any(?::uuid[]) order by f.raised_at, f.id`,
    [list(ids)],
  );
}

/**
 * Raises a flag unless the same question's flag is still open; the answers' row is locked by the caller. One that was
 * cleared stays as it was, with who cleared it: the same answer again is a new flag. Says whether one was raised.
 */
export async function raiseFlag(
  em: SqlEntityManager,
  flag: {
    id: string;
    appointmentId: string;
    responseId: string;
    linkId: string;
    severity: RedFlagSeverity;
    answer: AnswerValue;
    advice: Words;
    at: Date;
  },
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    `insert into red_flag (id, appointment_id, form_response_id, link_id, severity, answer, advice, raised_at)
     select ?::uuid, ?::uuid, ?::uuid, ?, ?, ?::jsonb, ?::jsonb, ?::timestamptz
     where not exists (select 1 from red_flag f where f.form_response_id = ? and f.link_id = ?
       and not exists (select 1 from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null)) returning 1`,
    [
      flag.id,
      flag.appointmentId,
      flag.responseId,
      flag.linkId,
      flag.severity,
      JSON.stringify(flag.answer),
      JSON.stringify(flag.advice),
      flag.at,
      flag.responseId,
      flag.linkId,
    ],
  );
  return rows.length > 0;
}

export interface OpenedFlag {
  id: string;
  appointment_id: string;
  site_id: string;
  site_date: string;
  patient_id: string | null;
  /** The clearing that stands. */
  clearing_id: string | null;
}

/** A flag, kept from a second decision at the same time. */
export async function flagForUpdate(em: SqlEntityManager, id: string): Promise<OpenedFlag | null> {
  const rows = await em.execute<OpenedFlag[]>(
    `select f.id, f.appointment_id, a.site_id, a.site_date::text, a.patient_id,
       (select k.id from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null) as clearing_id
     from red_flag f join appointment a on a.id = f.appointment_id where f.id = ? for update of f`,
    [id],
  );
  return rows[0] ?? null;
}

/** A clinician's closing of a flag: a row of its own, for ever. */
export async function insertClearing(
  em: SqlEntityManager,
  row: { id: string; flagId: string; accountId: string; note: string; at: Date },
): Promise<void> {
  await em.execute('insert into red_flag_clearing (id, red_flag_id, account_id, note, at) values (?, ?, ?, ?, ?)', [
    row.id,
    row.flagId,
    row.accountId,
    row.note,
    row.at,
  ]);
}

/** The clearing stays, marked as undone; the flag is open again. */
export async function undoClearing(
  em: SqlEntityManager,
  id: string,
  by: { accountId: string; at: Date },
): Promise<void> {
  await em.execute('update red_flag_clearing set undone_at = ?, undone_by = ? where id = ?', [by.at, by.accountId, id]);
}

export interface WaiverRow {
  appointment_id: string;
  item: string;
  reason: string;
  by: string;
}

export function waiversOf(em: SqlEntityManager, ids: readonly string[]): Promise<WaiverRow[]> {
  return em.execute(
    'select w.appointment_id, w.item, w.reason, c.name as by from readiness_waiver w join account c on c.id = w.account_id where w.appointment_id = any(?::uuid[])',
    [list(ids)],
  );
}

export async function insertWaiver(
  em: SqlEntityManager,
  row: { appointmentId: string; item: string; reason: string; accountId: string; at: Date },
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'insert into readiness_waiver (appointment_id, item, reason, account_id, at) values (?, ?, ?, ?, ?) on conflict do nothing returning 1',
    [row.appointmentId, row.item, row.reason, row.accountId, row.at],
  );
  return rows.length > 0;
}

export async function deleteWaiver(em: SqlEntityManager, appointmentId: string, item: string): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'delete from readiness_waiver where appointment_id = ? and item = ? returning 1',
    [appointmentId, item],
  );
  return rows.length > 0;
}
