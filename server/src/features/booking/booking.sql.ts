import type { OccupancyRow, UnprovedHold } from '@zaguan/core/booking';
import { TIME_FREEING } from '@zaguan/core/visits';
import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

/** Namespace of the booking's advisory locks, so that nothing else can share a key by chance. */
const LOCK_CLASS = 'zaguan.booking:';

const LOCKS = statement<{ names: readonly string[] }, never>(
  'advisory locks, all in one trip',
  `select pg_advisory_xact_lock_shared(hashtextextended('zaguan.schedule', 0))
   union all select pg_advisory_xact_lock(key) from (select distinct hashtextextended(name, 0) as key from unnest(:names::text[]) as name order by 1) as keys`,
);

/**
 * Takes the transaction's advisory locks, all in one statement and in ascending order: with the exclusion constraint
 * alone, many bookings of one time run into deadlocks that take a minute to resolve. Bookings go on beside each other,
 * but not beside a change of the schedule: what it judges must stand still.
 */
export async function lockAll(em: SqlEntityManager, names: readonly string[]): Promise<void> {
  await rowsOf(em, LOCKS, { names: names.map((name) => LOCK_CLASS + name) });
}

const EXPIRED = statement<{ now: Date; siteId: string; date: string }, never>(
  'deleted in the order of their ids, so that two that clear the same rows wait for each other and never in a circle',
  'delete from hold where id in (select id from hold where expires_at <= :now and site_id = :siteId and site_date = :date order by id for update)',
);

/** Deletes what has run out on a site's day; the database deletes its occupancy with it. */
export async function deleteExpiredHolds(em: SqlEntityManager, siteId: string, date: string, now: Date): Promise<void> {
  await rowsOf(em, EXPIRED, { now, siteId, date });
}

const LIVE = statement<{ address: Buffer; prefix: Buffer; now: Date }, { address: number; prefix: number }>(
  'two counts in one trip',
  'select (count(*) filter (where address_hash = :address))::int as address, count(*)::int as prefix from hold where prefix_hash = :prefix and expires_at > :now',
);

/** How many live holds come from an address, and from its network. */
export async function liveHoldsOf(
  em: SqlEntityManager,
  caller: { address: Buffer; prefix: Buffer },
  now: Date,
): Promise<{ address: number; prefix: number }> {
  return (await rowOf(em, LIVE, { ...caller, now })) ?? { address: 0, prefix: 0 };
}

const UNPROVED = statement<
  { siteId: string; date: string; now: Date },
  { id: string; caller: string | null; minutes: number; since: string }
>(
  'minutes are reckoned by the database',
  `select id, encode(prefix_hash, 'hex') as caller, (extract(epoch from provider_ends_at - provider_starts_at) / 60)::int as minutes, created_at as since
   from hold where site_id = :siteId and site_date = :date and proved_at is null and expires_at > :now`,
);

/** Live holds on a site's day of browsers that have proved no number or address. */
export async function unprovedHolds(
  em: SqlEntityManager,
  siteId: string,
  date: string,
  now: Date,
): Promise<UnprovedHold[]> {
  const rows = await rowsOf(em, UNPROVED, { siteId, date, now });
  return rows.map(({ id, caller, minutes, since }) => ({
    id,
    caller: caller ?? '',
    minutes,
    since: Date.parse(since),
  }));
}

const BOOKED_MINUTES = statement<{ siteId: string; date: string; freeing: readonly string[] }, { minutes: number }>(
  'a sum',
  `select coalesce(sum(extract(epoch from provider_ends_at - provider_starts_at) / 60), 0)::int as minutes from appointment
   where site_id = :siteId and site_date = :date and provider_id is not null and not status = any(:freeing::text[])`,
);

/** Minutes of a site's day that visits already take of their providers. */
export async function bookedMinutes(em: SqlEntityManager, siteId: string, date: string): Promise<number> {
  return (await rowOf(em, BOOKED_MINUTES, { siteId, date, freeing: TIME_FREEING }))?.minutes ?? 0;
}

/** What is to be taken, as one array for each column. */
type Wanted = { ids: readonly string[]; starts: readonly string[]; ends: readonly string[] };

const LAPSED = statement<Wanted & { now: Date }, never>(
  'an overlap of ranges, deleted in the order of their ids',
  `delete from hold where id in (select h.id from hold h where h.expires_at <= :now and exists (
     select 1 from occupancy o join unnest(:ids::uuid[], :starts::timestamptz[], :ends::timestamptz[]) as w (id, starts, ends) on w.id = o.resource_id and o.during && tstzrange(w.starts, w.ends)
     where o.hold_id = h.id) order by h.id for update)`,
);

const OCCUPY = statement<
  Wanted & {
    places: readonly number[];
    parts: readonly number[];
    keys: readonly string[];
    appointmentId: string | null;
    holdId: string | null;
  },
  never
>(
  'ranges are made by the database; whether a device is single is read with them',
  `insert into occupancy (resource_id, place, places, during, appointment_id, hold_id, part, need_key, single_device)
   select r.id, w.place, greatest(w.place + 1, 1), tstzrange(w.starts, w.ends), :appointmentId::uuid, :holdId::uuid, w.part, w.key, r.single_device
   from unnest(:ids::uuid[], :starts::timestamptz[], :ends::timestamptz[], :places::smallint[], :parts::smallint[], :keys::text[]) with ordinality as w (id, starts, ends, place, part, key, n)
   join resource r on r.id = w.id order by w.n`,
);

/**
 * Writes what a visit or a hold takes. A double booking is refused by the database (23P01). Holds that have run out
 * stand in nobody's way, though nobody has cleared them yet: the caller has the resources' locks.
 */
export async function insertOccupancy(
  em: SqlEntityManager,
  owner: { appointmentId: string } | { holdId: string },
  rows: readonly OccupancyRow[],
  now: Date,
): Promise<void> {
  const instant = (minute: number) => new Date(minute * 60_000).toISOString();
  const wanted: Wanted = {
    ids: rows.map(({ resourceId }) => resourceId),
    starts: rows.map(({ start }) => instant(start)),
    ends: rows.map(({ end }) => instant(end)),
  };
  await rowsOf(em, LAPSED, { ...wanted, now });
  await rowsOf(em, OCCUPY, {
    ...wanted,
    places: rows.map(({ place }) => place),
    parts: rows.map(({ part }) => part),
    keys: rows.map(({ needKey }) => needKey),
    appointmentId: 'appointmentId' in owner ? owner.appointmentId : null,
    holdId: 'holdId' in owner ? owner.holdId : null,
  });
}

const OPEN_SELF_BOOKINGS = statement<
  { born: string; given: string; family: string; contact: string; now: Date },
  { person: number; contact: number }
>(
  'two counts of one join',
  `select (count(*) filter (where b.birth_date = t.born and lower(b.given_name) = lower(t.given) and lower(b.family_name) = lower(t.family)))::int as person,
     (count(*) filter (where coalesce(b.phone, b.email) = t.contact))::int as contact
   from (select :born::date as born, :given::text as given, :family::text as family, :contact::text as contact) t
   join self_booking b on (b.birth_date = t.born and lower(b.family_name) = lower(t.family) and lower(b.given_name) = lower(t.given)) or b.phone = t.contact or b.email = t.contact
   join appointment a on a.id = b.appointment_id and a.status in ('pending','booked') and a.starts_at > :now`,
);

/** Visits to come that were booked online for a person as typed, and with a number or address. */
export async function openSelfBookings(
  em: SqlEntityManager,
  typed: { givenName: string; familyName: string; birthDate: string; contact: string },
  now: Date,
): Promise<{ person: number; contact: number }> {
  const { givenName: given, familyName: family, birthDate: born, contact } = typed;
  return (await rowOf(em, OPEN_SELF_BOOKINGS, { born, given, family, contact, now })) ?? { person: 0, contact: 0 };
}
