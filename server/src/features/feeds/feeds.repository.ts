import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { BusyTime } from '../../exchange/scheduleCalendar.ts';

export interface FeedRow {
  readonly id: string;
  readonly resource_id: string;
  readonly detailed: boolean;
  readonly created_at: string;
  readonly name: string;
  readonly last_read_at: string | null;
}

export async function resourceName(em: SqlEntityManager, id: string): Promise<string | null> {
  const [row] = await em.execute<{ name: string }[]>('select name from resource where id = ? and active', [id]);
  return row?.name ?? null;
}

const FEED = `select f.id, f.resource_id, f.detailed, f.created_at, a.name, f.last_read_at from calendar_feed f join account a on a.id = f.created_by`;

export function feedsOf(em: SqlEntityManager, resourceId: string): Promise<FeedRow[]> {
  return em.execute(`${FEED} where f.resource_id = ? and f.revoked_at is null order by f.created_at`, [resourceId]);
}

export async function feedById(em: SqlEntityManager, id: string): Promise<FeedRow | null> {
  const [row] = await em.execute<FeedRow[]>(`${FEED} where f.id = ?`, [id]);
  return row ?? null;
}

export async function insertFeed(
  em: SqlEntityManager,
  feed: { id: string; resourceId: string; tokenHash: Buffer; detailed: boolean; at: Date; accountId: string },
): Promise<void> {
  await em.execute(
    'insert into calendar_feed (id, resource_id, token_hash, detailed, created_at, created_by) values (?, ?, ?, ?, ?, ?)',
    [feed.id, feed.resourceId, feed.tokenHash, feed.detailed, feed.at, feed.accountId],
  );
}

/** Ends a feed, or opens it again. Says whether that changed anything. */
export async function setRevoked(em: SqlEntityManager, id: string, at: Date | null): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'update calendar_feed set revoked_at = ? where id = ? and (revoked_at is null) = ? returning 1',
    [at, id, at !== null],
  );
  return rows.length > 0;
}

/** The feed of a token's hash, noted as read. */
export async function feedRead(em: SqlEntityManager, tokenHash: Buffer, at: Date): Promise<FeedRow | null> {
  const [row] = await em.execute<{ id: string }[]>(
    `update calendar_feed f set last_read_at = ? from resource r where r.id = f.resource_id and r.active and f.token_hash = ? and f.revoked_at is null returning f.id`,
    [at, tokenHash],
  );
  return row ? feedById(em, row.id) : null;
}

/** When a resource is taken by visits, and where; parts that follow each other are one. Nobody's name is read. */
export async function busyTimes(
  em: SqlEntityManager,
  resourceId: string,
  detailed: boolean,
  from: Date,
  until: Date,
  siteIds: readonly string[] | null,
): Promise<BusyTime[]> {
  const rows = await em.execute<{ id: string; start: string; end: string; site: string; type: string }[]>(
    `select a.id || '-' || row_number() over (partition by a.id order by run) as id, lower(run) as start, upper(run) as end, s.name as site, t.name as type
     from (select o.appointment_id, unnest(range_agg(o.during)) as run from occupancy o
           where o.resource_id = ? and o.appointment_id is not null and o.during && tstzrange(?, ?) group by o.appointment_id) x
     join appointment a on a.id = x.appointment_id and a.status not in ('cancelled','entered-in-error')
     join site s on s.id = a.site_id and (?::json is null or s.id in (select x::uuid from json_array_elements_text(?::json) x)) join visit_type t on t.id = a.visit_type_id order by run`,
    [resourceId, from, until, siteIds && JSON.stringify(siteIds), siteIds && JSON.stringify(siteIds)],
  );
  return rows.map((row) => ({
    id: row.id,
    start: new Date(row.start),
    end: new Date(row.end),
    place: row.site,
    what: detailed ? row.type : null,
  }));
}

/** Sites a resource is at, with their zones. */
export function sitesOf(em: SqlEntityManager, resourceId: string): Promise<{ id: string; time_zone: string }[]> {
  return em.execute(
    'select s.id, s.time_zone from resource_site rs join site s on s.id = rs.site_id and s.active where rs.resource_id = ? order by s.sort_order',
    [resourceId],
  );
}

/** Time off that stands, as texts to compare with. */
export async function knownTimeOff(em: SqlEntityManager, resourceId: string): Promise<Set<string>> {
  const rows = await em.execute<{ key: string }[]>(
    `select concat_ws(' ', coalesce(site_id::text, ''), start_date, start_minute, end_date, end_minute) as key from time_off where resource_id = ? and status = 'approved'`,
    [resourceId],
  );
  return new Set(rows.map(({ key }) => key));
}
