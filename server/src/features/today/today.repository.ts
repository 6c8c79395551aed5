import type { SqlEntityManager } from '@mikro-orm/postgresql';

const ABOUT = `a.id as appointment_id, coalesce(nullif(trim(p.given_name || ' ' || p.family_name), ''), nullif(trim(b.given_name || ' ' || b.family_name), ''), '') as name, a.patient_id, s.id as site_id, s.name as site, s.time_zone, a.site_date::text, a.starts_at`;
const VISIT = `left join appointment a on a.id = x.appointment_id left join site s on s.id = a.site_id left join patient p on p.id = a.patient_id left join self_booking b on b.appointment_id = a.id`;

export interface AboutRow {
  appointment_id: string | null;
  name: string;
  patient_id: string | null;
  site_id: string | null;
  site: string;
  time_zone: string;
  site_date: string;
  starts_at: string;
}
export type InboxRow = AboutRow & { id: string; number: string; body: string; received_at: string };
export type FailedRow = AboutRow & {
  id: string;
  number: string;
  kind: string;
  step: string | null;
  fail_reason: string;
  settled_at: string;
};

/** Answers that no rule could read, oldest first. */
export function openInbox(em: SqlEntityManager): Promise<InboxRow[]> {
  return em.execute(`select x.id, cp.value as number, x.body, x.received_at, ${ABOUT} from inbox_message x join contact_point cp on cp.id = x.contact_point_id ${VISIT}
    where x.meaning = 'other' and x.handled_at is null order by x.received_at limit 200`);
}

/** Messages that will not arrive by themselves. */
export function openFailures(em: SqlEntityManager): Promise<FailedRow[]> {
  return em.execute(`select x.id, cp.value as number, x.kind, x.step, x.fail_reason, x.settled_at, ${ABOUT} from message x join contact_point cp on cp.id = x.contact_point_id ${VISIT}
    where x.status = 'failed' and x.handled_at is null order by x.settled_at limit 200`);
}

export async function vestibuleSummary(
  em: SqlEntityManager,
  siteIds: readonly string[] | null,
): Promise<{ n: number; first: string | null; time_zone: string | null }> {
  const [row] = await em.execute<{ n: number; first: string | null; time_zone: string | null }[]>(
    `select count(*)::int as n, min(a.starts_at) as first, (array_agg(s.time_zone order by a.starts_at))[1] as time_zone from appointment a join self_booking b on b.appointment_id = a.id join site s on s.id = a.site_id
     where a.identity = 'unknown' and a.status not in ('cancelled','entered-in-error','noshow') and (?::uuid[] is null or a.site_id = any(?::uuid[]))`,
    [toArray(siteIds), toArray(siteIds)],
  );
  return row;
}

function toArray(ids: readonly string[] | null): string | null {
  return ids && `{${ids.join(',')}}`;
}

const TABLES = { inbox: 'inbox_message', failed: 'message' } as const;
export type WorkKind = keyof typeof TABLES;

/** Marks work as done, or open again. Says whether that changed anything, or `null` if there is no such work. */
export async function setHandled(
  em: SqlEntityManager,
  kind: WorkKind,
  id: string,
  by: { at: Date; accountId: string } | null,
): Promise<boolean | null> {
  const rows = await em.execute<unknown[]>(
    `update ${TABLES[kind]} set handled_at = ?, handled_by = ? where id = ? and (handled_at is null) = ? returning 1`,
    [by?.at ?? null, by?.accountId ?? null, id, by !== null],
  );
  if (rows.length) return true;
  return (await em.execute<unknown[]>(`select 1 from ${TABLES[kind]} where id = ?`, [id])).length ? false : null;
}

/** The site of the visit a piece of work is about; `null` when it is about none. */
export async function siteOfWork(em: SqlEntityManager, kind: WorkKind, id: string): Promise<string | null> {
  const [row] = await em.execute<{ site_id: string }[]>(
    `select a.site_id from ${TABLES[kind]} x join appointment a on a.id = x.appointment_id where x.id = ?`,
    [id],
  );
  return row?.site_id ?? null;
}
