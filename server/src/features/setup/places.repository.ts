import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { PlaceDoc, PoolDoc } from '@zaguan/contracts/setup';
import { replaceRows, upsertRow } from '../../platform/db/rows.ts';
import type { Stored } from './saving.ts';

const PLACE = `json_build_object(
  'kind', r.kind, 'name', r.name, 'shortName', r.short_name, 'siteId', coalesce(r.home_site_id, (select min(x.site_id::text)::uuid from resource_site x where x.resource_id = r.id)),
  'poolId', (select m.pool_id from pool_member m join pool p on p.id = m.pool_id where m.resource_id = r.id order by p.sort_order, p.id limit 1),
  'places', r.places, 'singleDevice', r.single_device, 'shownInDaybook', r.shown_in_daybook, 'leftOutOfMessages', r.left_out_of_messages, 'access', r.access, 'sortOrder', r.sort_order
)`;

export function readPlaces(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PlaceDoc>[]> {
  const some = ids && JSON.stringify(ids);
  return em.execute(
    `select r.id, r.active, ${PLACE} as doc from resource r
     where r.kind in ('room','equipment') and (?::json is null or r.id in (select x::uuid from json_array_elements_text(?::json) x)) order by r.sort_order, r.name`,
    [some, some],
  );
}

export async function writePlace(
  em: SqlEntityManager,
  id: string,
  doc: PlaceDoc,
  before: Stored<PlaceDoc> | null,
): Promise<void> {
  await upsertRow(em, 'resource', 'id', {
    id,
    kind: doc.kind,
    name: doc.name,
    short_name: doc.shortName,
    home_site_id: doc.siteId,
    capabilities: [],
    bookable_online: true,
    shown_in_daybook: doc.shownInDaybook,
    left_out_of_messages: doc.leftOutOfMessages,
    single_device: doc.singleDevice,
    places: doc.places,
    access: doc.access,
    may_edit_own_hours: false,
    active: true,
    sort_order: doc.sortOrder,
  });
  await replaceRows(em, 'resource_site', { column: 'resource_id', id }, [{ site_id: doc.siteId }]);
  const left = before?.doc.poolId ?? null;
  if (left === doc.poolId) return;
  if (left) await em.execute('delete from pool_member where pool_id = ? and resource_id = ?', [left, id]);
  if (doc.poolId)
    await em.execute(
      `insert into pool_member (pool_id, resource_id, number) select ?::uuid, ?::uuid, coalesce(max(number), 0) + 1 from pool_member where pool_id = ? on conflict do nothing`,
      [doc.poolId, id, doc.poolId],
    );
}

const POOL = `json_build_object('siteId', p.site_id, 'kind', p.kind, 'name', p.name,
  'memberIds', coalesce((select json_agg(m.resource_id order by m.number, m.resource_id) from pool_member m where m.pool_id = p.id), '[]'),
  'shownInDaybook', p.shown_in_daybook, 'sortOrder', p.sort_order)`;

export function readPools(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PoolDoc>[]> {
  const some = ids && JSON.stringify(ids);
  return em.execute(
    `select p.id, p.active, ${POOL} as doc from pool p join site s on s.id = p.site_id
     where (?::json is null or p.id in (select x::uuid from json_array_elements_text(?::json) x)) order by s.sort_order, p.sort_order, p.name`,
    [some, some],
  );
}

export async function writePool(em: SqlEntityManager, id: string, doc: PoolDoc): Promise<void> {
  await upsertRow(em, 'pool', 'id', {
    id,
    site_id: doc.siteId,
    kind: doc.kind,
    name: doc.name,
    shown_in_daybook: doc.shownInDaybook,
    sort_order: doc.sortOrder,
    active: true,
  });
  await replaceRows(
    em,
    'pool_member',
    { column: 'pool_id', id },
    doc.memberIds.map((resource_id, i) => ({ resource_id, number: i + 1 })),
  );
}

export async function setPoolsActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.execute('update pool set active = ? where id in (select x::uuid from json_array_elements_text(?::json) x)', [
    active,
    JSON.stringify(ids),
  ]);
}

/** Another pool of that kind at that site. */
export async function poolLike(
  em: SqlEntityManager,
  siteId: string,
  kind: string,
  otherThan: string,
): Promise<boolean> {
  const rows = await em.execute<unknown[]>('select 1 from pool where site_id = ? and kind = ? and id <> ?', [
    siteId,
    kind,
    otherThan,
  ]);
  return rows.length > 0;
}

/** Names of active visit types whose parts ask for a kind of pool. */
export async function typesAskingFor(em: SqlEntityManager, poolKind: string): Promise<string[]> {
  const rows = await em.execute<{ name: string }[]>(
    'select distinct t.name from visit_type_need n join visit_type t on t.id = n.visit_type_id and t.active where n.pool_kind = ? order by t.name',
    [poolKind],
  );
  return rows.map(({ name }) => name);
}

/** Coming visits at the pool's site that took this member for a need of the pool's kind. */
export async function upcomingOfMember(
  em: SqlEntityManager,
  pool: { readonly siteId: string; readonly kind: string },
  memberId: string,
  now: Date,
): Promise<{ visits: number; first: string | null }> {
  const [row] = await em.execute<{ visits: number; first: string | null }[]>(
    `select count(distinct a.id)::int as visits, min(a.starts_at) as first from occupancy o join appointment a on a.id = o.appointment_id
       join visit_type_need n on n.visit_type_id = a.visit_type_id and n.key = o.need_key
     where o.resource_id = ? and upper(o.during) > ? and a.site_id = ? and n.pool_kind = ?`,
    [memberId, now, pool.siteId, pool.kind],
  );
  return row;
}
