import type { ListSort } from '@zaguan/contracts/patients';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient } from '../../schema/index.ts';

/** What a list of patients is narrowed by; `null` and empty: by nothing. */
export type ListFilter = {
  /** Those whom a search has found, best first; `null`: everybody. */
  readonly ids: readonly string[] | null;
  readonly statuses: readonly Patient['status'][];
  readonly restricted: boolean;
  readonly siteId: string | null;
  readonly language: Patient['language'] | null;
  readonly seen: 'any' | 'never' | 'within-year' | 'not-within-year';
  readonly next: 'any' | 'booked' | 'none';
  /** The beginning of an ICD-10-CM code. */
  readonly code: string;
  readonly now: Date;
};

type Page = { readonly size: number; readonly skipped: number };

const NAME = 'lower(p.family_name), lower(p.given_name)';
/** What each order goes by; last of all by the id, so that pages never overlap. */
const ORDERS: Readonly<Record<ListSort, (way: string) => string>> = {
  fit: () => 'array_position(:ids::uuid[], p.id)',
  recent: (way) => `coalesce(past.at, p.created_at) ${way === 'asc' ? 'asc' : 'desc'}`,
  name: (way) => NAME.replaceAll(')', `) ${way}`),
  birthDate: (way) => `p.birth_date ${way}, ${NAME}`,
  nextVisit: (way) => `next.at ${way} nulls last, ${NAME}`,
};

const listed = (order: string) =>
  statement<ListFilter & Page, { id: string; total: number }>(
    'the last and the next visit of each, by which it filters and orders',
    `select p.id, (count(*) over ())::int as total from patient p
     left join lateral (select max(a.starts_at) as at from appointment a where a.patient_id = p.id and a.starts_at <= :now and a.status in ('arrived','checked-in','fulfilled')) past on true
     left join lateral (select min(a.starts_at) as at from appointment a where a.patient_id = p.id and a.starts_at > :now and a.status in ('booked','pending')) next on true
     where p.status = any(:statuses::text[]) and (:restricted or not p.restricted)
       and (:ids::uuid[] is null or p.id = any(:ids::uuid[]))
       and (:siteId::uuid is null or p.home_site_id = :siteId::uuid
         or (p.home_site_id is null and exists (select 1 from appointment a where a.patient_id = p.id and a.site_id = :siteId::uuid)))
       and (:language::text is null or p.language = :language::text)
       and (:code = '' or exists (select 1 from patient_code c where c.patient_id = p.id and starts_with(c.code, :code)))
       and case :seen when 'never' then past.at is null when 'within-year' then past.at > :now::timestamptz - interval '1 year'
         when 'not-within-year' then past.at <= :now::timestamptz - interval '1 year' else true end
       and case :next when 'booked' then next.at is not null when 'none' then next.at is null else true end
     order by ${order}, p.id limit :size offset :skipped`,
  );

const LISTS = Object.fromEntries(
  Object.entries(ORDERS).flatMap(([sort, order]) =>
    ['asc', 'desc'].map((way) => [`${sort} ${way}`, listed(order(way))]),
  ),
);

/** One page of a list of patients in its order, and how many there are. */
export async function listedIds(
  em: SqlEntityManager,
  filter: ListFilter,
  { sort, descending }: { readonly sort: ListSort; readonly descending: boolean },
  page: Page,
): Promise<{ ids: string[]; total: number }> {
  // Without a search, nothing fits better than something else.
  const by = sort === 'fit' && filter.ids === null ? 'recent desc' : `${sort} ${descending ? 'desc' : 'asc'}`;
  const rows = await rowsOf(em, LISTS[by], { ...filter, ...page });
  return { ids: rows.map(({ id }) => id), total: rows[0]?.total ?? 0 };
}

const EXTRAS = statement<
  { ids: readonly string[] },
  Pick<Patient, 'id' | 'language'> & { readonly homeSite: string | null; readonly codes: readonly string[] }
>(
  'the codes of each in a list',
  `select p.id, p.language, s.name as home_site, coalesce((select json_agg(c.code order by c.code) from patient_code c where c.patient_id = p.id), '[]') as codes
   from patient p left join site s on s.id = p.home_site_id where p.id = any(:ids::uuid[])`,
);

/** Columns of the table that a search does not show. */
export function extrasOf(em: SqlEntityManager, ids: readonly string[]) {
  return ids.length ? rowsOf(em, EXTRAS, { ids }) : Promise.resolve([]);
}
