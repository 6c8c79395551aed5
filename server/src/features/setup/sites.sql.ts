import { epochToWall, wallToEpoch } from '@zaguan/core/time';
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

const MOVE = statement<{ ids: readonly string[]; byMin: readonly number[]; now: Date }, never>(
  'each visit by its own minutes, all at once',
  `update appointment a set starts_at = starts_at + m.by, ends_at = ends_at + m.by, provider_starts_at = provider_starts_at + m.by, provider_ends_at = provider_ends_at + m.by,
     ical_sequence = ical_sequence + 1, version = version + 1, changed_at = :now
   from (select id, make_interval(mins => minutes) as by from unnest(:ids::uuid[], :byMin::int[]) as u (id, minutes)) m where a.id = m.id`,
);

type Taken = Pick<
  Occupancy,
  'resourceId' | 'place' | 'places' | 'appointmentId' | 'part' | 'needKey' | 'singleDevice' | 'overrideId'
> & { readonly a: string; readonly b: string };

const TAKE_AWAY = statement<{ ids: readonly string[] }, Taken>(
  'takes away and reads in one trip',
  `delete from occupancy where appointment_id = any(:ids::uuid[])
   returning resource_id, place, places, lower(during) as a, upper(during) as b, appointment_id, part, need_key, single_device, override_id`,
);

const PUT_BACK = statement<{ rows: string; ids: readonly string[]; byMin: readonly number[] }, never>(
  'each visit by its own minutes, all at once',
  `insert into occupancy (resource_id, place, places, during, appointment_id, part, need_key, single_device, override_id)
   select r."resourceId", r.place, r.places, tstzrange(r.a + m.by, r.b + m.by), r."appointmentId", r.part, r."needKey", r."singleDevice", r."overrideId"
   from json_to_recordset(:rows::json) as r("resourceId" uuid, place smallint, places smallint, a timestamptz, b timestamptz, "appointmentId" uuid, part smallint, "needKey" text, "singleDevice" boolean, "overrideId" uuid)
   join (select id, make_interval(mins => minutes) as by from unnest(:ids::uuid[], :byMin::int[]) as u (id, minutes)) m on m.id = r."appointmentId"`,
);

const STARTS = statement<{ ids: readonly string[] }, { id: string; minute: number }>(
  'instants as minutes, in the order of the ids',
  `select id, (extract(epoch from starts_at) / 60)::int as minute from appointment where id = any(:ids::uuid[]) order by id`,
);

/**
 * Coming visits keep what the clock on the wall shows when the site's zone changes: each moves by what its start moves,
 * and stays as long as it is. Core reckons it: the database reads a wall time that comes twice as the later one.
 * Everything a visit takes moves with it; a clash with another site's visit of the same person is the constraint's to
 * refuse.
 */
export async function keepWallClock(
  em: SqlEntityManager,
  visitIds: readonly string[],
  { from, to }: { from: string; to: string },
  now: Date,
): Promise<void> {
  const starts = await rowsOf(em, STARTS, { ids: visitIds });
  const ids = starts.map(({ id }) => id);
  const byMin = starts.map(({ minute }) => {
    const wall = epochToWall(from, minute);
    return wallToEpoch(to, wall.date, wall.minute) - minute;
  });
  await rowsOf(em, MOVE, { ids, byMin, now });
  // All rows of the visits are taken away before any is put back, so that they don't clash with each other.
  const rows = await rowsOf(em, TAKE_AWAY, { ids });
  await rowsOf(em, PUT_BACK, { rows: JSON.stringify(rows), ids, byMin });
}

const DATES = statement<{ ids: readonly string[]; dates: readonly string[]; now: Date }, never>(
  'each visit its own date, all at once',
  `update appointment a set site_date = d.date, version = version + 1, changed_at = :now from unnest(:ids::uuid[], :dates::date[]) as d (id, date) where a.id = d.id`,
);

/** Coming visits keep their moment; the date they have at the site is reckoned anew. */
export async function keepInstants(
  em: SqlEntityManager,
  visitIds: readonly string[],
  zone: string,
  now: Date,
): Promise<void> {
  const starts = await rowsOf(em, STARTS, { ids: visitIds });
  await rowsOf(em, DATES, {
    now,
    ids: starts.map(({ id }) => id),
    dates: starts.map(({ minute }) => epochToWall(zone, minute).date),
  });
}
