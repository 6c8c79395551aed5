import type { Hold } from '../../schema/index.ts';
import type { OccupancyRow, UnprovedHold } from '@zaguan/core/booking';
import { TIME_FREEING } from '@zaguan/core/visits';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { settlePlaces } from './settlePlaces.sql.ts';

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

/** What a browser keeps and has proved, and how many holds come from where it is. */
export interface HolderState {
  /** What it keeps now, or kept until it ran out. */
  readonly own: Pick<Hold, 'id' | 'siteId' | 'siteDate'> | null;
  readonly proved: boolean;
  /** Live holds of other browsers, from its address and from its network. */
  readonly live: { readonly address: number; readonly prefix: number };
}

interface Holder {
  readonly browser: Buffer;
  /** A number or address must have been proved since then. */
  readonly provedSince: Date;
  /** Who calls, as far as it is known. */
  readonly caller: { readonly address: Buffer; readonly prefix: Buffer } | null;
}

type HolderParams = { browser: Buffer; provedSince: Date; address: Buffer | null; prefix: Buffer | null; now: Date };
type HolderRow = { own: HolderState['own']; proved: boolean; address: number; prefix: number };

const HOLDER_COLUMNS = `(select json_build_object('id', h.id, 'siteId', h.site_id, 'siteDate', h.site_date) from hold h where h.browser_hash = :browser) as own,
     exists (select 1 from contact_verification v where v.browser_hash = :browser and v.verified_at > :provedSince) as proved, c.address, c.prefix`;
const HOLDS_NEARBY = `(select (count(*) filter (where address_hash = :address))::int as address, count(*)::int as prefix
     from hold where prefix_hash = :prefix and expires_at > :now and browser_hash <> :browser) c`;

const HOLDER = statement<HolderParams, HolderRow>(
  'all that decides which locks a hold needs, in one trip',
  `select ${HOLDER_COLUMNS} from ${HOLDS_NEARBY}`,
);

const paramsOf = ({ browser, provedSince, caller }: Holder, now: Date): HolderParams => ({
  ...{ browser, provedSince, now },
  address: caller?.address ?? null,
  prefix: caller?.prefix ?? null,
});

export async function holderState(em: SqlEntityManager, holder: Holder, now: Date): Promise<HolderState> {
  const [{ own, proved, address, prefix }] = await rowsOf(em, HOLDER, paramsOf(holder, now));
  return { own, proved, live: { address, prefix } };
}

type DayParams = { siteId: string; date: string; browser: Buffer; now: Date; freeing: readonly string[] };
type DayRow = {
  unproved: { id: string; caller: string | null; minutes: number; since: string }[];
  booked: number;
};

/** What is kept on a site's day by browsers that have proved no number or address, beside what is booked. */
export interface UnprovedOnDay {
  readonly holds: readonly UnprovedHold[];
  /** How many minutes visits already take of their providers. */
  readonly bookedMinutes: number;
}

const DAY_COLUMNS = `coalesce((select json_agg(json_build_object('id', id, 'caller', encode(prefix_hash, 'hex'), 'minutes', (extract(epoch from provider_ends_at - provider_starts_at) / 60)::int, 'since', created_at)) from hold
       where site_id = :siteId and site_date = :date and proved_at is null and expires_at > :now and browser_hash <> :browser), '[]') as unproved,
     (select coalesce(sum(extract(epoch from provider_ends_at - provider_starts_at) / 60), 0)::int from appointment
       where site_id = :siteId and site_date = :date and provider_id is not null and not status = any(:freeing::text[])) as booked`;

const toUnproved = ({ unproved, booked }: DayRow): UnprovedOnDay => ({
  bookedMinutes: booked,
  holds: unproved.map(({ id, caller, minutes, since }) => ({
    ...{ id, minutes },
    caller: caller ?? '',
    since: Date.parse(since),
  })),
});

const SITE_DAY = statement<DayParams, DayRow>(
  'holds and visits of a day, reckoned in minutes by the database',
  `select ${DAY_COLUMNS}`,
);

/** What other browsers than this one keep, unproved, on a site's day. */
export async function unprovedOnDay(
  em: SqlEntityManager,
  day: { siteId: string; date: string; browser: Buffer },
  now: Date,
): Promise<UnprovedOnDay> {
  const [row] = await rowsOf(em, SITE_DAY, { ...day, now, freeing: TIME_FREEING });
  return toUnproved(row);
}

const HOLDER_AND_DAY = statement<HolderParams & DayParams, HolderRow & DayRow>(
  'all that decides on a hold besides its time, in one trip',
  `select ${HOLDER_COLUMNS}, ${DAY_COLUMNS} from ${HOLDS_NEARBY}`,
);

/** Both at once, under the locks. */
export async function holderOnDay(
  em: SqlEntityManager,
  holder: Holder,
  day: { siteId: string; date: string },
  now: Date,
): Promise<HolderState & { unproved: UnprovedOnDay }> {
  const [row] = await rowsOf(em, HOLDER_AND_DAY, { ...paramsOf(holder, now), ...day, freeing: TIME_FREEING });
  const { own, proved, address, prefix } = row;
  return { own, proved, live: { address, prefix }, unproved: toUnproved(row) };
}

/** What is to be taken, as one array for each column. */
type Wanted = { ids: readonly string[]; starts: readonly string[]; ends: readonly string[] };
type Taken = Wanted & {
  given: readonly number[];
  places: readonly number[];
  parts: readonly number[];
  keys: readonly string[];
  now: Date;
  /** By which a place too many is taken; `null`: by none, and the database refuses it. */
  override: string | null;
};

/**
 * Holds that have run out are cleared where they stand in the way, in the order of their ids, so that two that clear the
 * same wait for each other and never in a circle. What they took goes with them here, and not by the foreign key: that
 * would come after the new rows, which must find the place free.
 */
const CLEARED = `lapsed as (delete from hold where id in (select h.id from hold h where h.expires_at <= :now::timestamptz and exists (
     select 1 from occupancy o join unnest(:ids::uuid[], :starts::timestamptz[], :ends::timestamptz[]) as w (id, starts, ends) on w.id = o.resource_id and o.during && tstzrange(w.starts, w.ends)
     where o.hold_id = h.id) order by h.id for update) returning id),
   cleared as (delete from occupancy where hold_id in (select id from lapsed) returning 1)`;
/** Waits for what is cleared, and makes the ranges. */
const occupy = (owner: string) =>
  `insert into occupancy (resource_id, place, places, during, ${owner}, part, need_key, single_device, override_id)
   select r.id, w.place, w.places, tstzrange(w.starts, w.ends), :owner::uuid, w.part, w.key, r.single_device, case when w.place >= w.places then :override::uuid end
   from (select count(*) from cleared) as first cross join unnest(:ids::uuid[], :starts::timestamptz[], :ends::timestamptz[], :given::smallint[], :places::smallint[], :parts::smallint[], :keys::text[]) with ordinality as w (id, starts, ends, place, places, part, key, n)
   join resource r on r.id = w.id order by w.n`;

const OCCUPY = statement<Taken & { owner: string }, never>(
  'clears and takes in one trip; ranges are made by the database',
  `with ${CLEARED} ${occupy('appointment_id')}`,
);

type NewHold = Omit<Hold, 'extensions'>;
const HOLD = statement<Taken & Omit<NewHold, 'parts'> & { ownParts: string | null; owner: string }, never>(
  'a hold and what it takes, in one trip',
  `with ${CLEARED}, kept as (insert into hold (id, browser_hash, account_id, flow_id, patient_id, parts, site_id, visit_type_id, provider_id, patient_kind, starts_at, ends_at, provider_starts_at, provider_ends_at, before_min, after_min, site_date, address_hash, prefix_hash, proved_at, expires_at, created_at)
     values (:id, :browserHash, :accountId, :flowId, :patientId, :ownParts::jsonb, :siteId, :visitTypeId, :providerId, :patientKind, :startsAt, :endsAt, :providerStartsAt, :providerEndsAt, :beforeMin, :afterMin, :siteDate, :addressHash, :prefixHash, :provedAt, :expiresAt, :createdAt))
   ${occupy('hold_id')}`,
);

function taken(
  rows: readonly OccupancyRow[],
  given: readonly number[],
  now: Date,
  override: string | null = null,
): Taken {
  const instant = (minute: number) => new Date(minute * 60_000).toISOString();
  return {
    ids: rows.map(({ resourceId }) => resourceId),
    starts: rows.map(({ start }) => instant(start)),
    ends: rows.map(({ end }) => instant(end)),
    given,
    places: rows.map(({ places }) => places),
    parts: rows.map(({ part }) => part),
    keys: rows.map(({ needKey }) => needKey),
    now,
    override,
  };
}

/**
 * Writes what a visit takes. One too many at once is refused by the database (23P01, 23514). Holds that have run out stand in
 * nobody's way, though nobody has cleared them yet: the caller has the resources' locks.
 *
 * @param override by which more at once are taken than there are places for; never of a single device
 */
export async function insertOccupancy(
  em: SqlEntityManager,
  appointmentId: string,
  rows: readonly OccupancyRow[],
  now: Date,
  override: string | null = null,
): Promise<void> {
  const given = await settlePlaces(em, rows, now, override !== null);
  await rowsOf(em, OCCUPY, { ...taken(rows, given, now, override), owner: appointmentId });
}

const TAKEN_BY = statement<{ appointmentId: string }, OccupancyRow>(
  'ends of ranges are read by the database, as minutes since 1970',
  `select resource_id, places::int, part::int, need_key,
     (extract(epoch from lower(during)) / 60)::int as start, (extract(epoch from upper(during)) / 60)::int as "end"
   from occupancy where appointment_id = :appointmentId order by id`,
);

/** What a visit takes, as it is planned with. */
export function occupancyOf(em: SqlEntityManager, appointmentId: string): Promise<OccupancyRow[]> {
  return rowsOf(em, TAKEN_BY, { appointmentId });
}

/** Writes a hold with what it takes, in the same way. */
export async function insertHold(
  em: SqlEntityManager,
  hold: NewHold,
  rows: readonly OccupancyRow[],
  now: Date,
): Promise<void> {
  const given = await settlePlaces(em, rows, now);
  const { parts, ...rest } = hold;
  await rowsOf(em, HOLD, {
    ...taken(rows, given, now),
    ...rest,
    ownParts: parts && JSON.stringify(parts),
    owner: hold.id,
  });
}

const PASS_ON = statement<{ holdId: string; appointmentId: string }, never>(
  'a hold’s time becomes a visit’s and the hold goes, in one trip',
  `with passed as (update occupancy set appointment_id = :appointmentId, hold_id = null where hold_id = :holdId returning 1)
   delete from hold where id = :holdId and (select count(*) from passed) >= 0`,
);

/** Turns a hold's time into a visit's, without letting go of it in between. A hold that takes nothing goes as well. */
export async function passTimeOn(em: SqlEntityManager, holdId: string, appointmentId: string): Promise<void> {
  await rowsOf(em, PASS_ON, { holdId, appointmentId });
}

const OPEN_SELF_BOOKINGS = statement<
  { born: string; given: string; family: string; contact: string; browser: Buffer; provedSince: Date; now: Date },
  { person: number; contact: number; proved: boolean }
>(
  'two counts of one join, and whether the number is proved, in one trip',
  `select exists (select 1 from contact_verification v where v.browser_hash = :browser and v.contact = :contact::text and v.verified_at > :provedSince) as proved,
     (count(*) filter (where b.birth_date = t.born and lower(b.given_name) = lower(t.given) and lower(b.family_name) = lower(t.family)))::int as person,
     (count(*) filter (where coalesce(b.phone, b.email) = t.contact))::int as contact
   from (select :born::date as born, :given::text as given, :family::text as family, :contact::text as contact) t
   join self_booking b on (b.birth_date = t.born and lower(b.family_name) = lower(t.family) and lower(b.given_name) = lower(t.given)) or b.phone = t.contact or b.email = t.contact
   join appointment a on a.id = b.appointment_id and a.status in ('pending','booked') and a.starts_at > :now`,
);

/**
 * Visits to come that were booked online for a person as typed, and with a number or address; and whether this browser
 * proved that it reads what is sent there.
 */
export async function openSelfBookings(
  em: SqlEntityManager,
  typed: { givenName: string; familyName: string; birthDate: string; contact: string },
  by: { browser: Buffer; provedSince: Date },
  now: Date,
): Promise<{ person: number; contact: number; proved: boolean }> {
  const { givenName: given, familyName: family, birthDate: born, contact } = typed;
  const [found] = await rowsOf(em, OPEN_SELF_BOOKINGS, { born, given, family, contact, ...by, now });
  return found;
}
