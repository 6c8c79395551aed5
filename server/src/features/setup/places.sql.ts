import type { PlaceDoc, PoolDoc } from '@zaguan/contracts/setup';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { VisitType } from '../../schema/index.ts';
import type { Stored } from './saving.ts';
import type { Upcoming } from './sites.sql.ts';

const PLACES = statement<{ ids: readonly string[] | null }, Stored<PlaceDoc>>(
  'one document of a room or a device and all that belongs to it',
  `select r.id, r.active, json_build_object(
     'kind', r.kind, 'name', r.name, 'shortName', r.short_name, 'siteId', coalesce(r.home_site_id, (select min(x.site_id::text)::uuid from resource_site x where x.resource_id = r.id)),
     'poolId', (select m.pool_id from pool_member m join pool p on p.id = m.pool_id where m.resource_id = r.id order by p.sort_order, p.id limit 1),
     'places', r.places, 'singleDevice', r.single_device, 'shownInDaybook', r.shown_in_daybook, 'leftOutOfMessages', r.left_out_of_messages, 'access', r.access, 'sortOrder', r.sort_order
   ) as doc from resource r
   where r.kind in ('room','equipment') and (:ids::uuid[] is null or r.id = any(:ids::uuid[])) order by r.sort_order, r.name`,
);

export function readPlaces(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PlaceDoc>[]> {
  return rowsOf(em, PLACES, { ids });
}

const POOLS = statement<{ ids: readonly string[] | null }, Stored<PoolDoc>>(
  'one document of a pool and its members',
  `select p.id, p.active, json_build_object('siteId', p.site_id, 'kind', p.kind, 'name', p.name,
     'memberIds', coalesce((select json_agg(m.resource_id order by m.number, m.resource_id) from pool_member m where m.pool_id = p.id), '[]'),
     'shownInDaybook', p.shown_in_daybook, 'sortOrder', p.sort_order) as doc
   from pool p join site s on s.id = p.site_id
   where :ids::uuid[] is null or p.id = any(:ids::uuid[]) order by s.sort_order, p.sort_order, p.name`,
);

export function readPools(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PoolDoc>[]> {
  return rowsOf(em, POOLS, { ids });
}

const ASKING = statement<{ poolKind: string }, Pick<VisitType, 'name'>>(
  'each type once, by what its parts need',
  'select distinct t.name from visit_type_need n join visit_type t on t.id = n.visit_type_id and t.active where n.pool_kind = :poolKind order by t.name',
);

/** Names of active visit types whose parts ask for a kind of pool. */
export async function typesAskingFor(em: SqlEntityManager, poolKind: string): Promise<string[]> {
  return (await rowsOf(em, ASKING, { poolKind })).map(({ name }) => name);
}

const UPCOMING = statement<{ memberId: string; siteId: string; kind: string; now: Date }, Upcoming>(
  'a count and the first of them',
  `select count(distinct a.id)::int as visits, min(a.starts_at) as first from occupancy o join appointment a on a.id = o.appointment_id
     join visit_type_need n on n.visit_type_id = a.visit_type_id and n.key = o.need_key
   where o.resource_id = :memberId and upper(o.during) > :now and a.site_id = :siteId and n.pool_kind = :kind`,
);

/** Coming visits at the pool's site that took this member for a need of the pool's kind. */
export async function upcomingOfMember(
  em: SqlEntityManager,
  { siteId, kind }: { readonly siteId: string; readonly kind: string },
  memberId: string,
  now: Date,
): Promise<Upcoming> {
  return (await rowOf(em, UPCOMING, { memberId, siteId, kind, now })) ?? { visits: 0, first: null };
}
