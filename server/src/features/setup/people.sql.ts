import type { PersonDoc } from '@zaguan/contracts/setup';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { WorkingHours } from '../../schema/index.ts';
import type { Stored } from './saving.ts';
import type { Upcoming } from './sites.sql.ts';

const PEOPLE = statement<{ ids: readonly string[] | null }, Stored<PersonDoc>>(
  'one document of a person and all that belongs to them',
  `select r.id, r.active, json_build_object(
     'kind', r.kind, 'name', r.name, 'shortName', r.short_name, 'color', r.color,
     'siteIds', coalesce((select json_agg(x.site_id order by s.sort_order, s.id) from resource_site x join site s on s.id = x.site_id where x.resource_id = r.id), '[]'),
     'capabilities', r.capabilities, 'bookableOnline', r.bookable_online, 'shownInDaybook', r.shown_in_daybook, 'mayEditOwnHours', r.may_edit_own_hours,
     'credentials', coalesce(p.credentials, ''), 'specialty', coalesce(p.specialty, ''), 'npi', p.npi, 'licenses', coalesce(p.licenses, '[]'),
     'languages', coalesce(p.languages, '{en}'), 'acceptsNew', coalesce(p.accepts_new, true), 'bioEn', coalesce(p.bio_en, ''), 'bioEs', coalesce(p.bio_es, ''), 'publicNameEs', coalesce(p.public_name_es, ''),
     'sortOrder', r.sort_order
   ) as doc from resource r left join provider p on p.resource_id = r.id
   where r.kind in ('provider','staff') and (:ids::uuid[] is null or r.id = any(:ids::uuid[])) order by r.sort_order, r.name`,
);

export function readPeople(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PersonDoc>[]> {
  return rowsOf(em, PEOPLE, { ids });
}

const UPCOMING = statement<{ resourceId: string; siteId: string | null; now: Date }, Upcoming>(
  'a count and the first of them',
  `select count(distinct a.id)::int as visits, min(a.starts_at) as first from occupancy o join appointment a on a.id = o.appointment_id
   where o.resource_id = :resourceId and upper(o.during) > :now and (:siteId::uuid is null or a.site_id = :siteId::uuid)`,
);

/** Visits still to come that take a resource, at one site or all. */
export async function upcomingOf(
  em: SqlEntityManager,
  resourceId: string,
  siteId: string | null,
  now: Date,
): Promise<Upcoming> {
  return (await rowOf(em, UPCOMING, { resourceId, siteId, now })) ?? { visits: 0, first: null };
}

const SITES_WITH_HOURS = statement<{ resourceId: string; today: string }, Pick<WorkingHours, 'siteId'>>(
  'each site once',
  'select distinct site_id as "siteId" from working_hours where resource_id = :resourceId and (effective_until is null or effective_until >= :today)',
);

/** Sites at which a person has recurring hours that still hold. */
export async function sitesWithHours(em: SqlEntityManager, resourceId: string, today: string): Promise<string[]> {
  return (await rowsOf(em, SITES_WITH_HOURS, { resourceId, today })).map(({ siteId }) => siteId);
}
