import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface SiteRow {
  id: string;
  name: string;
  public_name: string;
  address_line: string;
  city: string;
  region: string;
  postal_code: string;
  phone: string;
  time_zone: string;
  directions_en: string;
  directions_es: string;
  bookable_online: boolean;
}
export interface PersonRow {
  id: string;
  name: string;
  short_name: string;
  kind: 'provider' | 'staff';
  credentials: string | null;
  color: string | null;
  bio_en: string | null;
  bio_es: string | null;
  languages: string[] | null;
  site_ids: string[];
}
export interface VisitTypeRow {
  id: string;
  name: string;
  public_name_en: string;
  public_name_es: string;
  description_en: string;
  description_es: string;
  color: string;
  preparation_en: string;
  preparation_es: string;
  price_note_en: string;
  price_note_es: string;
  mode: string;
  length_min: number;
  needs_provider: boolean;
  reasons: { en: string; es: string }[];
}

export interface ClinicRow {
  name: string;
  phone: string;
  base_unit_min: number;
  density: 'roomy' | 'dense';
  languages: string[];
}

export async function clinicRow(em: SqlEntityManager): Promise<ClinicRow> {
  const [row] = await em.execute<ClinicRow[]>(
    "select name, phone, base_unit_min, density, (select coalesce(json_agg(distinct l), '[]') from provider p join resource r on r.id = p.resource_id and r.active, unnest(p.languages) l) as languages from clinic",
  );
  return row;
}

export function siteRows(em: SqlEntityManager): Promise<SiteRow[]> {
  return em.execute('select * from site where active order by sort_order, name');
}

/** Providers and staff, with the sites at which they work. */
export function personRows(em: SqlEntityManager): Promise<PersonRow[]> {
  return em.execute(`select r.id, r.name, r.short_name, r.kind, r.color, p.credentials, p.bio_en, p.bio_es, p.languages,
      coalesce((select json_agg(s.site_id) from resource_site s where s.resource_id = r.id), '[]') as site_ids
    from resource r left join provider p on p.resource_id = r.id
    where r.kind in ('provider','staff') and r.active order by r.sort_order, r.name`);
}

export function visitTypeRows(em: SqlEntityManager): Promise<VisitTypeRow[]> {
  return em.execute(`select t.*, (select sum(length_min)::int from visit_type_part p where p.visit_type_id = t.id) as length_min,
      exists (select 1 from visit_type_need n where n.visit_type_id = t.id and n.what = 'provider') as needs_provider,
      coalesce((select json_agg(json_build_object('en', v.label_en, 'es', v.label_es) order by v.sort_order, v.id) from visit_reason v where v.visit_type_id = t.id and v.active), '[]') as reasons
    from visit_type t where t.active order by t.sort_order, t.name`);
}

/** A site's IANA zone; throws if there is no such site (the caller has just read it from a visit). */
export async function timeZoneOf(em: SqlEntityManager, siteId: string): Promise<string | null> {
  const [row] = await em.execute<{ time_zone: string }[]>('select time_zone from site where id = ?', [siteId]);
  return row?.time_zone ?? null;
}
