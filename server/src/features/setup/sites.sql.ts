import type { SiteDoc } from '@zaguan/contracts/setup';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Occupancy, Site } from '../../schema/index.ts';
import type { Stored } from './saving.ts';

const SITES = statement<{ ids: readonly string[] | null }, Stored<SiteDoc>>(
  'one document of a site and all that belongs to it',
  `select s.id, s.active, json_build_object(
     'name', s.name, 'publicName', s.public_name, 'code', s.code, 'addressLine', s.address_line, 'city', s.city, 'region', s.region,
     'postalCode', s.postal_code, 'phone', s.phone, 'morePhones', s.more_phones, 'email', s.email, 'timeZone', s.time_zone,
     'latitude', s.latitude, 'longitude', s.longitude, 'directionsEn', s.directions_en, 'directionsEs', s.directions_es,
     'bookableOnline', s.bookable_online, 'access', s.access, 'sortOrder', s.sort_order,
     'hours', coalesce((select json_agg(json_build_object('fromMinute', h.from_minute, 'toMinute', h.to_minute, 'weekdays', h.weekdays, 'everyWeeks', h.every_weeks,
       'effectiveFrom', h.effective_from, 'effectiveUntil', h.effective_until) order by h.effective_from, h.weekdays, h.from_minute) from site_hours h where h.site_id = s.id), '[]'),
     'closures', coalesce((select json_agg(json_build_object('startDate', c.start_date, 'startMinute', c.start_minute, 'endDate', c.end_date, 'endMinute', c.end_minute,
       'reason', c.reason, 'uid', c.uid) order by c.start_date, c.start_minute, c.end_date) from closure c where c.site_id = s.id), '[]'),
     'travel', coalesce((select json_agg(json_build_object('siteId', t.to_site_id, 'minutes', t.minutes) order by t.to_site_id) from site_travel t where t.from_site_id = s.id), '[]')
   ) as doc from site s where :ids::uuid[] is null or s.id = any(:ids::uuid[]) order by s.sort_order, s.name`,
);

export function readSites(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<SiteDoc>[]> {
  return rowsOf(em, SITES, { ids });
}

const NAMED = statement<{ code: string; name: string }, Pick<Site, 'id' | 'code'>>(
  'a name in any letters',
  'select id, code from site where code = :code or lower(name) = lower(:name)',
);

/** Sites with these codes or names, to tell that one is taken. */
export function sitesNamed(em: SqlEntityManager, code: string, name: string): Promise<Pick<Site, 'id' | 'code'>[]> {
  return rowsOf(em, NAMED, { code, name });
}

/** Visits to come that hang on something, and when the first of them starts. */
export interface Upcoming {
  readonly visits: number;
  readonly first: string | null;
}

const UPCOMING = statement<{ siteId: string; now: Date }, Upcoming>(
  'a count and the first of them',
  `select count(*)::int as visits, min(starts_at) as first from appointment where site_id = :siteId and starts_at > :now and status not in ('cancelled','entered-in-error','fulfilled','noshow')`,
);

/** Visits at a site that are still to come. */
export async function upcomingAtSite(em: SqlEntityManager, siteId: string, now: Date): Promise<Upcoming> {
  return (await rowOf(em, UPCOMING, { siteId, now })) ?? { visits: 0, first: null };
}

type VisitFrom = Pick<Appointment, 'id'> & { readonly upcoming: boolean };

const VISITS_FROM = statement<{ siteId: string; date: string; now: Date }, VisitFrom>(
  'says of each whether it is still to come',
  `select id, starts_at > :now and status not in ('fulfilled','noshow') as upcoming from appointment
   where site_id = :siteId and site_date >= :date and status not in ('cancelled','entered-in-error') order by starts_at, id`,
);

/**
 * Visits of a site from this date on, the earliest first, and which of them are still to come. Today's are all among
 * them: those that are over stand in the way of those to come, unless they move with them.
 */
export function visitsFrom(em: SqlEntityManager, siteId: string, date: string, now: Date): Promise<VisitFrom[]> {
  return rowsOf(em, VISITS_FROM, { siteId, date, now });
}

type ZoneChange = { ids: readonly string[]; from: string; to: string };

const MOVE = statement<ZoneChange, never>(
  'wall-clock times are reckoned by the database, for all visits at once',
  `update appointment set starts_at = starts_at at time zone :from at time zone :to, ends_at = ends_at at time zone :from at time zone :to,
     provider_starts_at = provider_starts_at at time zone :from at time zone :to, provider_ends_at = provider_ends_at at time zone :from at time zone :to,
     ical_sequence = ical_sequence + 1, version = version + 1
   where id = any(:ids::uuid[])`,
);

type Taken = Pick<
  Occupancy,
  'resourceId' | 'place' | 'places' | 'appointmentId' | 'part' | 'needKey' | 'singleDevice' | 'overrideId'
> & { readonly a: string; readonly b: string };

const TAKE_AWAY = statement<{ ids: readonly string[] }, Taken>(
  'takes away and reads in one trip',
  `delete from occupancy where appointment_id = any(:ids::uuid[])
   returning resource_id as "resourceId", place, places, lower(during) as a, upper(during) as b, appointment_id as "appointmentId", part, need_key as "needKey", single_device as "singleDevice", override_id as "overrideId"`,
);

const PUT_BACK = statement<{ rows: string; from: string; to: string }, never>(
  'wall-clock times are reckoned by the database',
  `insert into occupancy (resource_id, place, places, during, appointment_id, part, need_key, single_device, override_id)
   select r."resourceId", r.place, r.places, tstzrange(r.a at time zone :from at time zone :to, r.b at time zone :from at time zone :to), r."appointmentId", r.part, r."needKey", r."singleDevice", r."overrideId"
   from json_to_recordset(:rows::json) as r("resourceId" uuid, place smallint, places smallint, a timestamptz, b timestamptz, "appointmentId" uuid, part smallint, "needKey" text, "singleDevice" boolean, "overrideId" uuid)`,
);

/**
 * Coming visits keep what the clock on the wall shows when the site's zone changes: their instants move. Everything a
 * visit takes moves with it; a clash with another site's visit of the same person is the constraint's to refuse.
 */
export async function keepWallClock(
  em: SqlEntityManager,
  ids: readonly string[],
  { from, to }: { from: string; to: string },
): Promise<void> {
  await rowsOf(em, MOVE, { ids, from, to });
  // All rows of the visits are taken away before any is put back, so that they don't clash with each other.
  const rows = await rowsOf(em, TAKE_AWAY, { ids });
  await rowsOf(em, PUT_BACK, { rows: JSON.stringify(rows), from, to });
}

const KEEP_INSTANTS = statement<{ ids: readonly string[]; zone: string }, never>(
  'dates are reckoned by the database, for all visits at once',
  'update appointment set site_date = (starts_at at time zone :zone)::date, version = version + 1 where id = any(:ids::uuid[])',
);

/** Coming visits keep their moment; the date they have at the site is reckoned anew. */
export async function keepInstants(em: SqlEntityManager, ids: readonly string[], zone: string): Promise<void> {
  await rowsOf(em, KEEP_INSTANTS, { ids, zone });
}
