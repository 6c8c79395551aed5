import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { CALL_OUTCOMES } from '@zaguan/contracts/availability';

/** Puts visits on the list; one that was left where it is before is looked at again. */
export async function addVisitsToMove(em: SqlEntityManager, ids: readonly string[], now: Date): Promise<void> {
  if (!ids.length) return;
  await em.execute(
    `insert into visit_to_move (appointment_id, since)
     select a.id, ? from appointment a where a.id in (select json_array_elements_text(?::json)::uuid)
     on conflict (appointment_id) do update set since = excluded.since, kept_at = null, kept_by = null, kept_reason = null,
       call_outcome = null, called_at = null, called_by = null`,
    [now, JSON.stringify(ids)],
  );
}

export async function removeFittingAgain(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await em.execute(
    'delete from visit_to_move where appointment_id in (select json_array_elements_text(?::json)::uuid)',
    [JSON.stringify(ids)],
  );
}

export interface OpenRow {
  readonly id: string;
  readonly since: string;
  readonly site_date: string;
  readonly told: boolean;
  readonly call_outcome: CallOutcome | null;
  readonly called_at: string | null;
  readonly called_by: string | null;
}

export type CallOutcome = (typeof CALL_OUTCOMES)[number];

/** Booked visits to come that are on the list, by when they start. */
export function openRows(em: SqlEntityManager, now: Date): Promise<OpenRow[]> {
  return em.execute(
    `select a.id, m.since, a.site_date::text, m.call_outcome, m.called_at, c.name as called_by,
       exists (select 1 from message x where x.appointment_id = a.id and x.kind = 'must-move' and x.created_at >= m.since
         and x.status in ('planned','sent','delivered')) as told
     from visit_to_move m join appointment a on a.id = m.appointment_id left join account c on c.id = m.called_by
     where m.kept_at is null and a.status in ('booked','pending') and a.starts_at > ? order by a.starts_at`,
    [now],
  );
}

/** Leaves a visit where it is, or takes that back. Says whether it was so before. */
export async function setKept(
  em: SqlEntityManager,
  id: string,
  kept: { at: Date; accountId: string; reason: string } | null,
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    `update visit_to_move set kept_at = ?, kept_by = ?, kept_reason = ? where appointment_id = ? and (kept_at is null) = ? returning 1`,
    [kept?.at ?? null, kept?.accountId ?? null, kept?.reason ?? null, id, kept !== null],
  );
  return rows.length > 0;
}

export interface Call {
  readonly outcome: CallOutcome;
  readonly at: Date;
  readonly accountId: string;
}

/** Notes the last call about a visit on the list, or takes it away; gives the one before, or nothing if it is not there. */
export async function setCall(
  em: SqlEntityManager,
  id: string,
  call: Call | null,
): Promise<{ before: Call | null } | null> {
  const [row] = await em.execute<{ outcome: CallOutcome | null; at: string; by: string }[]>(
    'select call_outcome as outcome, called_at as at, called_by as by from visit_to_move where appointment_id = ? for update',
    [id],
  );
  if (!row) return null;
  await em.execute('update visit_to_move set call_outcome = ?, called_at = ?, called_by = ? where appointment_id = ?', [
    call?.outcome ?? null,
    call?.at ?? null,
    call?.accountId ?? null,
    id,
  ]);
  return { before: row.outcome && { outcome: row.outcome, at: new Date(row.at), accountId: row.by } };
}
