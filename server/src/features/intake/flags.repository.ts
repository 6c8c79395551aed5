import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { list } from './intake.repository.ts';

export interface FlagRow {
  id: string;
  appointment_id: string;
  form_id: string;
  link_id: string;
  raised_at: string;
  cleared_at: string | null;
  cleared_by: string | null;
  clear_note: string | null;
}

export function flagsOf(em: SqlEntityManager, ids: readonly string[]): Promise<FlagRow[]> {
  return em.execute(
    `select f.id, f.appointment_id, r.form_id, f.link_id, f.raised_at, f.cleared_at, c.name as cleared_by, f.clear_note
     from red_flag f join form_response r on r.id = f.form_response_id left join account c on c.id = f.cleared_by where f.appointment_id = any(?::uuid[]) order by f.raised_at`,
    [list(ids)],
  );
}

/** Raises a flag, or raises it again after it was cleared. Says whether it is open now and was not before. */
export async function raiseFlag(
  em: SqlEntityManager,
  flag: { id: string; appointmentId: string; responseId: string; linkId: string; at: Date },
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    `insert into red_flag (id, appointment_id, form_response_id, link_id, raised_at) values (?, ?, ?, ?, ?)
     on conflict (form_response_id, link_id) do update set raised_at = excluded.raised_at, cleared_at = null, cleared_by = null, clear_note = null
       where red_flag.cleared_at is not null returning 1`,
    [flag.id, flag.appointmentId, flag.responseId, flag.linkId, flag.at],
  );
  return rows.length > 0;
}

export interface OpenedFlag {
  id: string;
  appointment_id: string;
  site_id: string;
  site_date: string;
  patient_id: string | null;
  cleared_at: string | null;
}

export async function flagForUpdate(em: SqlEntityManager, id: string): Promise<OpenedFlag | null> {
  const rows = await em.execute<OpenedFlag[]>(
    'select f.id, f.appointment_id, a.site_id, a.site_date::text, a.patient_id, f.cleared_at from red_flag f join appointment a on a.id = f.appointment_id where f.id = ? for update of f',
    [id],
  );
  return rows[0] ?? null;
}

export async function setCleared(
  em: SqlEntityManager,
  id: string,
  cleared: { at: Date; by: string; note: string } | null,
): Promise<void> {
  await em.execute('update red_flag set cleared_at = ?, cleared_by = ?, clear_note = ? where id = ?', [
    cleared?.at ?? null,
    cleared?.by ?? null,
    cleared?.note ?? null,
    id,
  ]);
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
