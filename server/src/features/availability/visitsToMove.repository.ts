import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** Puts visits on the list; one that was left where it is before is looked at again. */
export async function noteStranded(em: SqlEntityManager, ids: readonly string[], now: Date): Promise<void> {
  if (!ids.length) return;
  await em.execute(
    `insert into visit_to_move (appointment_id, since)
     select a.id, ? from appointment a where a.id in (select json_array_elements_text(?::json)::uuid)
     on conflict (appointment_id) do update set since = excluded.since, kept_at = null, kept_by = null, kept_reason = null`,
    [now, JSON.stringify(ids)],
  );
}

export async function takeOffMended(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await em.execute(
    'delete from visit_to_move where appointment_id in (select json_array_elements_text(?::json)::uuid)',
    [JSON.stringify(ids)],
  );
}

/** Booked visits to come that are on the list, by when they start. */
export function openRows(em: SqlEntityManager, now: Date): Promise<{ id: string; since: string; site_date: string }[]> {
  return em.execute(
    `select a.id, m.since, a.site_date::text from visit_to_move m join appointment a on a.id = m.appointment_id
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
