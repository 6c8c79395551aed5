import { givePlaces, type OccupancyRow } from '@zaguan/core/booking';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

/** What lies over the new rows, over what does, and so on; times in milliseconds. */
interface NearRow {
  id: string;
  resourceId: string;
  place: number;
  start: number;
  end: number;
}

const NEAR = statement<
  { ids: readonly string[]; starts: readonly string[]; ends: readonly string[]; now: Date },
  NearRow
>(
  'holds that have run out go in the same trip, and ranges that touch each other are followed as far as they go',
  `with recursive lapsed as (delete from hold where id in (select h.id from hold h where h.expires_at <= :now::timestamptz
     and exists (select 1 from occupancy o where o.hold_id = h.id and o.resource_id = any(:ids::uuid[])) order by h.id for update) returning id),
   near as (
     select o.id, o.resource_id, o.place, o.during from unnest(:ids::uuid[], :starts::timestamptz[], :ends::timestamptz[]) as w (id, starts, ends)
     join occupancy o on o.resource_id = w.id and o.during && tstzrange(w.starts, w.ends) where not exists (select 1 from lapsed l where l.id = o.hold_id)
     union
     select o.id, o.resource_id, o.place, o.during from near n
     join occupancy o on o.resource_id = n.resource_id and o.during && n.during where not exists (select 1 from lapsed l where l.id = o.hold_id))
   select id::text, resource_id, place, (extract(epoch from lower(during)) * 1000)::float8 as start, (extract(epoch from upper(during)) * 1000)::float8 as end from near order by id`,
);

/** Added while rows change places among each other: no resource has so many. */
const ASIDE = 10_000;

const STEP_ASIDE = statement<{ rows: readonly string[] }, never>(
  'its own value, for many rows at once',
  `update occupancy set place = place + ${ASIDE}, places = places + ${ASIDE} where id = any(:rows::bigint[])`,
);

const STEP_IN = statement<{ rows: readonly string[]; given: readonly number[] }, never>(
  'each row another value, all at once',
  `update occupancy o set place = g.place, places = greatest(o.places - ${ASIDE}, g.place + 1)
   from unnest(:rows::bigint[], :given::smallint[]) as g (id, place) where o.id = g.id`,
);

/**
 * Which place of its resource each new row gets; what is there already changes places where that makes room. Rows are
 * changed where they stand: a hold that is being booked at this moment keeps its row. The caller has the resources'
 * locks, so nobody else takes a place meanwhile. A resource that takes one at a time is not asked about, unless one too
 * many shall be taken.
 *
 * @param tooMany a row may get a place beyond those there are; those that stand keep theirs
 */
export async function settlePlaces(
  em: SqlEntityManager,
  rows: readonly OccupancyRow[],
  now: Date,
  tooMany = false,
): Promise<number[]> {
  const given = rows.map(() => 0);
  const several = rows.map((_, i) => i).filter((i) => tooMany || rows[i].places > 1);
  if (!several.length) return given;
  const near = await rowsOf(em, NEAR, {
    ids: several.map((i) => rows[i].resourceId),
    starts: several.map((i) => new Date(rows[i].start * 60_000).toISOString()),
    ends: several.map((i) => new Date(rows[i].end * 60_000).toISOString()),
    now,
  });
  const changed: { row: NearRow; place: number }[] = [];
  for (const resourceId of new Set(several.map((i) => rows[i].resourceId))) {
    const mine = several.filter((i) => rows[i].resourceId === resourceId);
    const wanted = mine.map((i) => ({
      start: rows[i].start * 60_000,
      end: rows[i].end * 60_000,
      places: rows[i].places,
    }));
    const settled = givePlaces(
      near.filter((row) => row.resourceId === resourceId),
      wanted,
      tooMany,
    );
    mine.forEach((i, n) => {
      given[i] = settled.places[n];
    });
    changed.push(...settled.changed);
  }
  if (changed.length) {
    const ids = changed.map(({ row }) => row.id);
    await rowsOf(em, STEP_ASIDE, { rows: ids });
    await rowsOf(em, STEP_IN, { rows: ids, given: changed.map(({ place }) => place) });
  }
  return given;
}
