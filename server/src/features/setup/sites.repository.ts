import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { SiteDoc } from '@zaguan/contracts/setup';
import { replaceRows, upsertRow } from '../../platform/db/rows.ts';
import type { Stored } from './saving.ts';

const DOC = `json_build_object(
  'name', s.name, 'publicName', s.public_name, 'code', s.code, 'addressLine', s.address_line, 'city', s.city, 'region', s.region,
  'postalCode', s.postal_code, 'phone', s.phone, 'morePhones', s.more_phones, 'email', s.email, 'timeZone', s.time_zone,
  'latitude', s.latitude, 'longitude', s.longitude, 'directionsEn', s.directions_en, 'directionsEs', s.directions_es,
  'bookableOnline', s.bookable_online, 'access', s.access, 'sortOrder', s.sort_order,
  'hours', coalesce((select json_agg(json_build_object('fromMinute', h.from_minute, 'toMinute', h.to_minute, 'weekdays', h.weekdays, 'everyWeeks', h.every_weeks,
    'effectiveFrom', h.effective_from, 'effectiveUntil', h.effective_until) order by h.effective_from, h.weekdays, h.from_minute) from site_hours h where h.site_id = s.id), '[]'),
  'closures', coalesce((select json_agg(json_build_object('startDate', c.start_date, 'startMinute', c.start_minute, 'endDate', c.end_date, 'endMinute', c.end_minute,
    'reason', c.reason, 'uid', c.uid) order by c.start_date, c.start_minute, c.end_date) from closure c where c.site_id = s.id), '[]'),
  'travel', coalesce((select json_agg(json_build_object('siteId', t.to_site_id, 'minutes', t.minutes) order by t.to_site_id) from site_travel t where t.from_site_id = s.id), '[]')
)`;

export function readSites(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<SiteDoc>[]> {
  return em.execute(
    `select s.id, s.active, ${DOC} as doc from site s where (?::json is null or s.id in (select x::uuid from json_array_elements_text(?::json) x)) order by s.sort_order, s.name`,
    [ids && JSON.stringify(ids), ids && JSON.stringify(ids)],
  );
}

export async function writeSite(em: SqlEntityManager, id: string, doc: SiteDoc): Promise<void> {
  await upsertRow(em, 'site', 'id', {
    id,
    code: doc.code,
    name: doc.name,
    public_name: doc.publicName,
    address_line: doc.addressLine,
    city: doc.city,
    region: doc.region,
    postal_code: doc.postalCode,
    phone: doc.phone,
    more_phones: doc.morePhones,
    email: doc.email,
    time_zone: doc.timeZone,
    latitude: doc.latitude,
    longitude: doc.longitude,
    directions_en: doc.directionsEn,
    directions_es: doc.directionsEs,
    bookable_online: doc.bookableOnline,
    access: doc.access,
    sort_order: doc.sortOrder,
  });
  await replaceRows(
    em,
    'site_hours',
    { column: 'site_id', id },
    doc.hours.map((row) => ({
      id: randomUUID(),
      weekdays: row.weekdays,
      every_weeks: row.everyWeeks,
      // The week in which they begin is one in which they hold.
      anchor_date: row.effectiveFrom,
      effective_from: row.effectiveFrom,
      effective_until: row.effectiveUntil,
      from_minute: row.fromMinute,
      to_minute: row.toMinute,
    })),
  );
  await replaceRows(
    em,
    'closure',
    { column: 'site_id', id },
    doc.closures.map((row) => ({
      id: randomUUID(),
      start_date: row.startDate,
      start_minute: row.startMinute,
      end_date: row.endDate,
      end_minute: row.endMinute,
      reason: row.reason,
      uid: row.uid,
    })),
  );
  // The way back takes as long.
  await em.execute('delete from site_travel where from_site_id = ? or to_site_id = ?', [id, id]);
  for (const { siteId, minutes } of doc.travel)
    await em.execute('insert into site_travel (from_site_id, to_site_id, minutes) values (?, ?, ?), (?, ?, ?)', [
      id,
      siteId,
      minutes,
      siteId,
      id,
      minutes,
    ]);
}

/** Sites with these codes or names, to tell that one is taken. */
export async function sitesNamed(
  em: SqlEntityManager,
  code: string,
  name: string,
): Promise<{ id: string; code: string }[]> {
  return em.execute('select id, code from site where code = ? or lower(name) = lower(?)', [code, name]);
}

export async function siteIds(em: SqlEntityManager): Promise<Set<string>> {
  const rows = await em.execute<{ id: string }[]>('select id from site');
  return new Set(rows.map(({ id }) => id));
}

/** Visits at a site that are still to come, and the first of them. */
export async function upcomingAtSite(
  em: SqlEntityManager,
  siteId: string,
  now: Date,
): Promise<{ visits: number; first: string | null }> {
  const [row] = await em.execute<{ visits: number; first: string | null }[]>(
    `select count(*)::int as visits, min(starts_at) as first from appointment where site_id = ? and starts_at > ? and status not in ('cancelled','entered-in-error','fulfilled','noshow')`,
    [siteId, now],
  );
  return row;
}

/**
 * Visits of a site from this date on, the earliest first, and which of them are still to come. Today's are all among
 * them: those that are over stand in the way of those to come, unless they move with them.
 */
export async function visitsFrom(
  em: SqlEntityManager,
  siteId: string,
  date: string,
  now: Date,
): Promise<{ id: string; upcoming: boolean }[]> {
  return em.execute(
    `select id, starts_at > ? and status not in ('fulfilled','noshow') as upcoming from appointment
     where site_id = ? and site_date >= ? and status not in ('cancelled','entered-in-error') order by starts_at, id`,
    [now, siteId, date],
  );
}

/**
 * Coming visits keep what the clock on the wall shows when the site's zone changes: their instants move. Everything a
 * visit takes moves with it; a clash with another site's visit of the same person is the constraint's to refuse.
 */
export async function keepWallClock(
  em: SqlEntityManager,
  ids: readonly string[],
  { from, to }: { from: string; to: string },
): Promise<void> {
  const list = JSON.stringify(ids);
  const moved = (column: string) => `${column} at time zone ? at time zone ?`;
  const zones = [from, to];
  await em.execute(
    `update appointment set starts_at = ${moved('starts_at')}, ends_at = ${moved('ends_at')}, provider_starts_at = ${moved('provider_starts_at')},
       provider_ends_at = ${moved('provider_ends_at')}, ical_sequence = ical_sequence + 1, version = version + 1
     where id in (select x::uuid from json_array_elements_text(?::json) x)`,
    [...zones, ...zones, ...zones, ...zones, list],
  );
  // All rows of the visits are taken away and put back in one statement's reach, so that they don't clash with each other.
  const rows = await em.execute<Record<string, unknown>[]>(
    `delete from occupancy where appointment_id in (select x::uuid from json_array_elements_text(?::json) x)
     returning resource_id, place, places, lower(during) as a, upper(during) as b, appointment_id, part, need_key, single_device, override_id`,
    [list],
  );
  await em.execute(
    `insert into occupancy (resource_id, place, places, during, appointment_id, part, need_key, single_device, override_id)
     select r.resource_id, r.place, r.places, tstzrange(${moved('r.a')}, ${moved('r.b')}), r.appointment_id, r.part, r.need_key, r.single_device, r.override_id
     from json_to_recordset(?::json) as r(resource_id uuid, place smallint, places smallint, a timestamptz, b timestamptz, appointment_id uuid, part smallint, need_key text, single_device boolean, override_id uuid)`,
    [...zones, ...zones, JSON.stringify(rows)],
  );
}

/** Coming visits keep their moment; the date they have at the site is reckoned anew. */
export async function keepInstants(em: SqlEntityManager, ids: readonly string[], zone: string): Promise<void> {
  await em.execute(
    `update appointment set site_date = (starts_at at time zone ?)::date, version = version + 1 where id in (select x::uuid from json_array_elements_text(?::json) x)`,
    [zone, JSON.stringify(ids)],
  );
}
