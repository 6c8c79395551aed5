import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { PersonDoc } from '@zaguan/contracts/setup';
import { replaceRows, upsertRow } from '../../platform/db/rows.ts';
import type { Stored } from './saving.ts';

const DOC = `json_build_object(
  'kind', r.kind, 'name', r.name, 'shortName', r.short_name, 'color', r.color,
  'siteIds', coalesce((select json_agg(x.site_id order by s.sort_order, s.id) from resource_site x join site s on s.id = x.site_id where x.resource_id = r.id), '[]'),
  'capabilities', r.capabilities, 'bookableOnline', r.bookable_online, 'shownInDaybook', r.shown_in_daybook, 'mayEditOwnHours', r.may_edit_own_hours,
  'credentials', coalesce(p.credentials, ''), 'specialty', coalesce(p.specialty, ''), 'npi', p.npi, 'licenses', coalesce(p.licenses, '[]'),
  'languages', coalesce(p.languages, '{en}'), 'acceptsNew', coalesce(p.accepts_new, true), 'bioEn', coalesce(p.bio_en, ''), 'bioEs', coalesce(p.bio_es, ''),
  'sortOrder', r.sort_order
)`;

export function readPeople(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<PersonDoc>[]> {
  const some = ids && JSON.stringify(ids);
  return em.execute(
    `select r.id, r.active, ${DOC} as doc from resource r left join provider p on p.resource_id = r.id
     where r.kind in ('provider','staff') and (?::json is null or r.id in (select x::uuid from json_array_elements_text(?::json) x)) order by r.sort_order, r.name`,
    [some, some],
  );
}

export async function writePerson(em: SqlEntityManager, id: string, doc: PersonDoc): Promise<void> {
  await upsertRow(em, 'resource', 'id', {
    id,
    kind: doc.kind,
    name: doc.name,
    short_name: doc.shortName,
    color: doc.color,
    capabilities: doc.capabilities,
    bookable_online: doc.bookableOnline,
    shown_in_daybook: doc.shownInDaybook,
    may_edit_own_hours: doc.mayEditOwnHours,
    left_out_of_messages: false,
    single_device: false,
    active: true,
    places: 1,
    sort_order: doc.sortOrder,
  });
  await upsertRow(em, 'provider', 'resource_id', {
    resource_id: id,
    credentials: doc.credentials,
    specialty: doc.specialty,
    npi: doc.npi,
    licenses: doc.licenses,
    languages: doc.languages,
    accepts_new: doc.acceptsNew,
    bio_en: doc.bioEn,
    bio_es: doc.bioEs,
  });
  await replaceRows(
    em,
    'resource_site',
    { column: 'resource_id', id },
    doc.siteIds.map((site_id) => ({ site_id })),
  );
}

export async function setResourcesActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.execute(
    'update resource set active = ? where id in (select x::uuid from json_array_elements_text(?::json) x)',
    [active, JSON.stringify(ids)],
  );
}

/** Visits still to come that take a resource, at one site or all, and the first of them. */
export async function upcomingOf(
  em: SqlEntityManager,
  resourceId: string,
  siteId: string | null,
  now: Date,
): Promise<{ visits: number; first: string | null }> {
  const [row] = await em.execute<{ visits: number; first: string | null }[]>(
    `select count(distinct a.id)::int as visits, min(a.starts_at) as first from occupancy o join appointment a on a.id = o.appointment_id
     where o.resource_id = ? and upper(o.during) > ? and (?::uuid is null or a.site_id = ?::uuid)`,
    [resourceId, now, siteId, siteId],
  );
  return row;
}

/** Sites at which a person has recurring hours that still hold. */
export async function sitesWithHours(em: SqlEntityManager, resourceId: string, today: string): Promise<string[]> {
  const rows = await em.execute<{ site_id: string }[]>(
    'select distinct site_id from working_hours where resource_id = ? and (effective_until is null or effective_until >= ?)',
    [resourceId, today],
  );
  return rows.map(({ site_id }) => site_id);
}

/** Whoever else has this NPI. */
export async function npiHolder(em: SqlEntityManager, npi: string, otherThan: string): Promise<string | null> {
  const [row] = await em.execute<{ name: string }[]>(
    'select r.name from provider p join resource r on r.id = p.resource_id where p.npi = ? and p.resource_id <> ?',
    [npi, otherThan],
  );
  return row?.name ?? null;
}

/** Kind and sites of a resource, if there is one. */
export async function resourceBrief(
  em: SqlEntityManager,
  id: string,
): Promise<{ kind: string; name: string; siteIds: string[] } | null> {
  const [row] = await em.execute<{ kind: string; name: string; siteIds: string[] }[]>(
    `select kind, name, coalesce((select json_agg(site_id) from resource_site where resource_id = r.id), '[]') as "siteIds" from resource r where id = ?`,
    [id],
  );
  return row ?? null;
}
