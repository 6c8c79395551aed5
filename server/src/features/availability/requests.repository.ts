import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface RequestRow {
  readonly id: string;
  readonly resource_id: string;
  readonly name: string;
  readonly site_id: string | null;
  readonly start_date: string;
  readonly start_minute: number;
  readonly end_date: string;
  readonly end_minute: number;
  readonly reason: string;
  readonly cover_id: string | null;
  readonly status: 'requested' | 'approved' | 'declined';
  readonly requested_at: string;
  readonly answer: string;
}

const REQUEST = `select t.id, t.resource_id, r.name, t.site_id, t.start_date::text, t.start_minute, t.end_date::text, t.end_minute, t.reason, t.cover_id, t.status, t.requested_at, t.answer
  from time_off t join resource r on r.id = t.resource_id where t.requested_at is not null`;

/** Open ones of everybody, or all of one person's that are not over. */
export function requestsOf(em: SqlEntityManager, resourceId: string | null, from: string): Promise<RequestRow[]> {
  return resourceId === null
    ? em.execute(`${REQUEST} and t.status = 'requested' order by t.start_date, t.requested_at`)
    : em.execute(`${REQUEST} and t.resource_id = ? and t.end_date >= ? order by t.start_date, t.requested_at`, [
        resourceId,
        from,
      ]);
}

export async function requestById(em: SqlEntityManager, id: string): Promise<RequestRow | null> {
  const [row] = await em.execute<RequestRow[]>(`${REQUEST} and t.id = ? for update of t`, [id]);
  return row ?? null;
}

export async function insertRequest(
  em: SqlEntityManager,
  row: Omit<RequestRow, 'name' | 'status' | 'requested_at' | 'answer'> & { at: Date; accountId: string },
): Promise<void> {
  await em.execute(
    `insert into time_off (id, resource_id, site_id, start_date, start_minute, end_date, end_minute, reason, cover_id, status, requested_at, requested_by)
     values (?, ?, ?, ?, ?, ?, ?, ?, ?, 'requested', ?, ?)`,
    [
      ...[row.id, row.resource_id, row.site_id, row.start_date, row.start_minute, row.end_date, row.end_minute],
      ...[row.reason, row.cover_id, row.at, row.accountId],
    ],
  );
}

/** Decides, or opens again (`asked`). Says whether the request was as expected. */
export async function setDecided(
  em: SqlEntityManager,
  id: string,
  from: RequestRow['status'],
  to: {
    status: RequestRow['status'];
    at: Date | null;
    accountId: string | null;
    answer: string;
    coverId: string | null;
  },
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'update time_off set status = ?, decided_at = ?, decided_by = ?, answer = ?, cover_id = ? where id = ? and status = ? returning 1',
    [to.status, to.at, to.accountId, to.answer, to.coverId, id, from],
  );
  return rows.length > 0;
}

/** Takes a request back that nobody has decided. */
export async function deleteRequest(em: SqlEntityManager, id: string): Promise<boolean> {
  const rows = await em.execute<unknown[]>("delete from time_off where id = ? and status = 'requested' returning 1", [
    id,
  ]);
  return rows.length > 0;
}
