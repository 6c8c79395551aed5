import pg from 'pg';
import { AROUND_MIN, GRID_MIN, VISIT_MIN, type Workload } from './workload.ts';

/** The workload's rows as tables, indexed as a search would want them, vacuumed and analyzed. */
export async function loadTables(url: string, { snapshot }: Workload): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(`
    drop schema if exists bench cascade; create schema bench; set search_path to bench;
    create table hours (provider int, site text, zone text, weekday int, from_minute int, to_minute int);
    create table off (provider int, date date);
    create table provider_busy (provider int, date date, starts timestamptz, ends timestamptz);
    create table room_busy (room int, site text, date date, starts timestamptz, ends timestamptz);
    create table room (room int, site text, zone text)`);
  const zone = new Map(snapshot.sites.map((site) => [site.id, site.zone]));
  const number = (id: string) => Number(id.slice(id.lastIndexOf('-') + 1));
  await insert(
    client,
    'hours',
    snapshot.workingHours.flatMap((row) =>
      row.rule.weekdays.map((weekday) => ({
        provider: number(row.subject.id),
        site: row.siteId,
        zone: zone.get(row.siteId),
        weekday,
        from_minute: row.fromMinute,
        to_minute: row.toMinute,
      })),
    ),
  );
  await insert(
    client,
    'off',
    snapshot.timeOff.map((row) => ({ provider: number(row.resourceId), date: row.startDate })),
  );
  const roomSite = new Map(snapshot.pools.flatMap((pool) => pool.memberIds.map((id) => [id, pool.siteId])));
  const dateOf = new Map(snapshot.visits.map((row) => [row.id, row.date]));
  const at = (minute: number) => new Date(minute * 60_000).toISOString();
  const span = (row: { start: number; end: number }) => ({ starts: at(row.start), ends: at(row.end) });
  await insert(
    client,
    'provider_busy',
    snapshot.visits.map((row) => ({ provider: number(row.providerId ?? ''), date: row.date, ...span(row) })),
  );
  await insert(
    client,
    'room_busy',
    snapshot.occupied.flatMap((row) => {
      const site = roomSite.get(row.resourceId);
      return site ? [{ room: number(row.resourceId), site, date: dateOf.get(row.visitId), ...span(row) }] : [];
    }),
  );
  await insert(
    client,
    'room',
    [...roomSite].map(([id, site]) => ({ room: number(id), site, zone: zone.get(site) })),
  );
  await client.query(
    `create index on provider_busy (provider, date, starts); create index on room_busy (room, date, starts)`,
  );
  for (const table of ['hours', 'off', 'provider_busy', 'room_busy', 'room'])
    await client.query(`vacuum analyze ${table}`);
  // Sorting and hashing in memory, as a tuned server would.
  await client.query(`set work_mem = '256MB'; set jit = off`);
  return client;
}

async function insert(client: pg.Client, table: string, rows: readonly object[]): Promise<void> {
  for (let i = 0; i < rows.length; i += 20_000)
    await client.query(`insert into ${table} select * from json_populate_recordset(null::${table}, $1::json)`, [
      JSON.stringify(rows.slice(i, i + 20_000)),
    ]);
}

const WORKED = `worked as materialized (
  select h.provider, h.site, d.date, (d.date + make_interval(mins => h.from_minute)) at time zone h.zone as starts,
         (d.date + make_interval(mins => h.to_minute)) at time zone h.zone as ends
  from hours h join (select g::date as date from generate_series($1::date, $2::date, interval '1 day') g) d
    on extract(isodow from d.date) = h.weekday
  where not exists (select 1 from off o where o.provider = h.provider and o.date = d.date))`;
const WORKDAYS = `workday as (select site, date, min(starts) - interval '1 hour' as starts, max(ends) + interval '1 hour' as ends from worked group by site, date)`;
const STARTS = `
  select s.provider, extract(epoch from s.start)::bigint / 60 as start
  from (select f.provider, f.site, f.date, g as start
        from free_provider f,
          generate_series(to_timestamp(ceil(extract(epoch from f.starts + interval '${AROUND_MIN} minutes' - interval '${AROUND_MIN} minutes') / ${GRID_MIN * 60}) * ${GRID_MIN * 60}) - interval '${GRID_MIN} minutes',
                          f.ends, interval '${GRID_MIN} minutes') g
        where g + interval '${AROUND_MIN} minutes' >= f.starts and g + interval '${AROUND_MIN + VISIT_MIN} minutes' <= f.ends) s
  join site_free r on r.site = s.site and r.date = s.date and r.starts_free @> s.start`;

/** The same subtraction by multiranges (PostgreSQL 14 and later). */
const MULTIRANGES = `with ${WORKED}, ${WORKDAYS},
  busy as (select provider, date, range_agg(tstzrange(starts, ends)) as taken from provider_busy group by provider, date),
  used as (select room, date, range_agg(tstzrange(starts, ends)) as taken from room_busy group by room, date),
  free_provider as (
    select w.provider, w.site, w.date, lower(u) as starts, upper(u) as ends
    from (select w.*, tstzmultirange(tstzrange(w.starts, w.ends)) - coalesce(b.taken, '{}'::tstzmultirange) as free
          from worked w left join busy b on b.provider = w.provider and b.date = w.date) w, unnest(w.free) u),
  free_room as (
    select r.site, d.date, lower(u) as starts, upper(u) as ends
    from workday d join room r on r.site = d.site left join used b on b.room = r.room and b.date = d.date,
      unnest(tstzmultirange(tstzrange(d.starts, d.ends)) - coalesce(b.taken, '{}'::tstzmultirange)) u),
  site_free as (select site, date, range_agg(tstzrange(starts, ends - interval '${VISIT_MIN + 2 * AROUND_MIN} minutes', '[]')) as starts_free
    from free_room where ends - starts >= interval '${VISIT_MIN + 2 * AROUND_MIN} minutes' group by site, date)
  ${STARTS}`;

/** The same by window functions: what lies between one busy stretch and the next. */
const WINDOWS = `with ${WORKED}, ${WORKDAYS},
  marks as (
    select provider, site, date, starts as stretch, starts as at_start, starts as at_end from worked
    union all select provider, site, date, starts, ends, ends from worked
    union all select w.provider, w.site, w.date, w.starts, b.starts, b.ends from worked w join provider_busy b on b.provider = w.provider and b.date = w.date and b.starts >= w.starts and b.starts < w.ends),
  free_provider as (
    select provider, site, date, starts, ends from (
      select provider, site, date, at_end as starts, lead(at_start) over (partition by provider, stretch order by at_start, at_end) as ends from marks) m
    where ends - starts >= interval '${VISIT_MIN} minutes'),
  room_marks as (
    select r.room, d.site, d.date, d.starts as at_start, d.starts as at_end from workday d join room r on r.site = d.site
    union all select r.room, d.site, d.date, d.ends, d.ends from workday d join room r on r.site = d.site
    union all select b.room, d.site, d.date, b.starts, b.ends from workday d join room_busy b on b.site = d.site and b.date = d.date),
  free_room as (
    select site, date, starts, ends from (
      select site, date, at_end as starts, lead(at_start) over (partition by room, date order by at_start, at_end) as ends from room_marks) m
    where ends - starts >= interval '${VISIT_MIN + 2 * AROUND_MIN} minutes'),
  site_free as (select site, date, range_agg(tstzrange(starts, ends - interval '${VISIT_MIN + 2 * AROUND_MIN} minutes', '[]')) as starts_free from free_room group by site, date)
  ${STARTS}`;

export const QUERIES = { multiranges: MULTIRANGES, windows: WINDOWS } as const;

/** Runs a query for its answer: every start as (provider, epoch minute). */
export async function answerOf(client: pg.Client, query: string, { from, until }: Workload) {
  const { rows } = await client.query<{ provider: number; start: string }>(query, [from, until]);
  return rows.map((row) => ({ provider: row.provider, start: Number(row.start) }));
}

/** Milliseconds the server itself took, warm: planning and reading the answer out are left out. */
export async function serverMs(client: pg.Client, query: string, { from, until }: Workload): Promise<number> {
  const { rows } = await client.query<{ 'QUERY PLAN': string }>(`explain (analyze, timing off, costs off) ${query}`, [
    from,
    until,
  ]);
  const line = rows.map((row) => row['QUERY PLAN']).find((text) => text.startsWith('Execution Time'));
  return Number(/([\d.]+) ms/.exec(line ?? '')?.[1]);
}
