import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { OccupancyRow, UnprovedHold } from '@zaguan/core/booking';
import { TIME_FREEING } from '@zaguan/core/visits';
import { insertRow } from '../../platform/db/write.ts';
import {
  type Appointment,
  AppointmentEntity,
  type Hold,
  HoldEntity,
  type New,
  SelfBookingEntity,
} from '../../schema/index.ts';

/** Namespace of the booking's advisory locks, so that nothing else can share a key by chance. */
const LOCK_CLASS = 'zaguan.booking:';

/**
 * Takes the transaction's advisory locks, all in one statement and in ascending order: with the exclusion constraint
 * alone, many bookings of one time run into deadlocks that take a minute to resolve.
 */
export async function lockAll(em: SqlEntityManager, names: readonly string[]): Promise<void> {
  // Bookings go on beside each other, but not beside a change of the schedule: what it judges must stand still.
  await em.execute("select pg_advisory_xact_lock_shared(hashtextextended('zaguan.schedule', 0))");
  await em.execute(
    `select pg_advisory_xact_lock(key) from (select distinct hashtextextended(name, 0) as key from unnest(?::text[]) as name order by 1) as keys`,
    [`{${names.map((name) => JSON.stringify(LOCK_CLASS + name)).join(',')}}`],
  );
}

export function holdOfBrowser(em: SqlEntityManager, browserHash: Buffer): Promise<Hold | null> {
  return em.findOne(HoldEntity, { browserHash });
}

/** Reads a hold and keeps it from being changed until the transaction ends. */
export function holdForUpdate(em: SqlEntityManager, id: string): Promise<Hold | null> {
  return em.findOne(HoldEntity, { id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
}

/** Deletes what has run out on a site's day; the database deletes its occupancy with it. */
export async function deleteExpiredHolds(em: SqlEntityManager, siteId: string, date: string, now: Date): Promise<void> {
  // Ordered, so that two that clear the same rows wait for each other and never in a circle.
  await em.execute(
    'delete from hold where id in (select id from hold where expires_at <= ? and site_id = ? and site_date = ? order by id for update)',
    [now, siteId, date],
  );
}

export async function deleteHold(em: SqlEntityManager, id: string): Promise<void> {
  await em.execute('delete from hold where id = ?', [id]);
}

/** How many live holds come from an address, and from its network. */
export async function liveHoldsOf(
  em: SqlEntityManager,
  caller: { address: Buffer; prefix: Buffer },
  now: Date,
): Promise<{ address: number; prefix: number }> {
  const [row] = await em.execute<{ address: number; prefix: number }[]>(
    'select (count(*) filter (where address_hash = ?))::int as address, count(*)::int as prefix from hold where prefix_hash = ? and expires_at > ?',
    [caller.address, caller.prefix, now],
  );
  return row;
}

/** Live holds on a site's day of browsers that have proved no number or address. */
export async function unprovedHolds(
  em: SqlEntityManager,
  siteId: string,
  date: string,
  now: Date,
): Promise<UnprovedHold[]> {
  const rows = await em.execute<{ id: string; caller: string | null; minutes: number; since: string }[]>(
    `select id, encode(prefix_hash, 'hex') as caller, (extract(epoch from provider_ends_at - provider_starts_at) / 60)::int as minutes, created_at as since
     from hold where site_id = ? and site_date = ? and proved_at is null and expires_at > ?`,
    [siteId, date, now],
  );
  return rows.map(({ id, caller, minutes, since }) => ({
    id,
    caller: caller ?? '',
    minutes,
    since: Date.parse(since),
  }));
}

/** Minutes of a site's day that visits already take of their providers. */
export async function bookedMinutes(em: SqlEntityManager, siteId: string, date: string): Promise<number> {
  const [row] = await em.execute<{ minutes: number }[]>(
    `select coalesce(sum(extract(epoch from provider_ends_at - provider_starts_at) / 60), 0)::int as minutes from appointment
     where site_id = ? and site_date = ? and provider_id is not null and status not in (${TIME_FREEING.map(() => '?').join(',')})`,
    [siteId, date, ...TIME_FREEING],
  );
  return row.minutes;
}

export async function prolongHold(
  em: SqlEntityManager,
  id: string,
  to: { extensions: number; expiresAt: Date },
): Promise<void> {
  await em.nativeUpdate(HoldEntity, { id }, to);
}

export async function insertHold(em: SqlEntityManager, hold: New<typeof HoldEntity>): Promise<void> {
  await insertRow(em, HoldEntity, hold);
}

/** Holds that have run out stand in nobody's way, though nobody has cleared them yet; the caller has the resources' locks. */
async function clearLapsedHolds(em: SqlEntityManager, rows: readonly OccupancyRow[], now: Date): Promise<void> {
  const requested = rows.map(({ resourceId, start, end }) => ({
    id: resourceId,
    start: new Date(start * 60_000),
    end: new Date(end * 60_000),
  }));
  await em.execute(
    `delete from hold where id in (select h.id from hold h where h.expires_at <= ? and exists (
       select 1 from occupancy o join json_to_recordset(?::json) as w(id uuid, start timestamptz, "end" timestamptz) on w.id = o.resource_id and o.during && tstzrange(w.start, w."end")
       where o.hold_id = h.id) order by h.id for update)`,
    [now, JSON.stringify(requested)],
  );
}

/** Writes what a visit or a hold takes. A double booking is refused by the database (23P01). */
export async function insertOccupancy(
  em: SqlEntityManager,
  owner: { appointmentId: string } | { holdId: string },
  rows: readonly OccupancyRow[],
  now: Date,
): Promise<void> {
  await clearLapsedHolds(em, rows, now);
  const appointmentId = 'appointmentId' in owner ? owner.appointmentId : null;
  const holdId = 'holdId' in owner ? owner.holdId : null;
  for (const row of rows) {
    await em.execute(
      `insert into occupancy (resource_id, place, places, during, appointment_id, hold_id, part, need_key, single_device)
       select ?::uuid, ?::smallint, greatest(?::smallint + 1, 1), tstzrange(?, ?), ?::uuid, ?::uuid, ?::smallint, ?, r.single_device from resource r where r.id = ?`,
      [
        row.resourceId,
        row.place,
        row.place,
        new Date(row.start * 60_000),
        new Date(row.end * 60_000),
        appointmentId,
        holdId,
        row.part,
        row.needKey,
        row.resourceId,
      ],
    );
  }
}

/** Turns a hold's time into a visit's, without letting go of it in between. */
export async function handOver(em: SqlEntityManager, holdId: string, appointmentId: string): Promise<void> {
  await em.execute('update occupancy set appointment_id = ?, hold_id = null where hold_id = ?', [
    appointmentId,
    holdId,
  ]);
  await deleteHold(em, holdId);
}

export async function freeTime(em: SqlEntityManager, appointmentId: string): Promise<void> {
  await em.execute('delete from occupancy where appointment_id = ?', [appointmentId]);
}

export function appointmentForUpdate(em: SqlEntityManager, id: string): Promise<Appointment | null> {
  return em.findOne(AppointmentEntity, { id }, { lockMode: LockMode.PESSIMISTIC_WRITE });
}

/** Several, locked in the order of their ids. */
export function appointmentsForUpdate(em: SqlEntityManager, ids: readonly string[]): Promise<Appointment[]> {
  return em.find(
    AppointmentEntity,
    { id: { $in: [...ids] } },
    { lockMode: LockMode.PESSIMISTIC_WRITE, orderBy: { id: 'asc' } },
  );
}

export async function insertAppointment(
  em: SqlEntityManager,
  appointment: New<typeof AppointmentEntity>,
): Promise<void> {
  await insertRow(em, AppointmentEntity, appointment);
}

export async function updateAppointment(
  em: SqlEntityManager,
  appointment: Appointment,
  changes: Partial<Appointment>,
): Promise<Appointment> {
  Object.assign(appointment, changes, { version: appointment.version + 1 });
  await em.flush();
  return appointment;
}

export async function insertSelfBooking(em: SqlEntityManager, row: New<typeof SelfBookingEntity>): Promise<void> {
  await insertRow(em, SelfBookingEntity, row);
}

/** The visit that came of a hold, if it was booked already. */
export async function bookedFromHold(
  em: SqlEntityManager,
  holdId: string,
): Promise<{ appointment: Appointment; browserHash: Buffer; contentHash: Buffer } | null> {
  const self = await em.findOne(SelfBookingEntity, { holdId });
  const appointment = self && (await em.findOne(AppointmentEntity, { id: self.appointmentId }));
  return self && appointment
    ? { appointment, browserHash: Buffer.from(self.browserHash), contentHash: Buffer.from(self.contentHash) }
    : null;
}

/** A self-booked visit, only for the browser that booked it. */
export async function visitOfBrowser(
  em: SqlEntityManager,
  id: string,
  browserHash: Buffer,
): Promise<Appointment | null> {
  const self = await em.findOne(SelfBookingEntity, { appointmentId: id, browserHash });
  return self ? em.findOne(AppointmentEntity, { id }) : null;
}

export interface CalendarFacts {
  clinic: string;
  phone: string;
  place: string;
  directions_en: string;
  directions_es: string;
}

/** What a calendar entry says of where the visit is. */
export async function calendarFacts(em: SqlEntityManager, siteId: string): Promise<CalendarFacts> {
  const [row] = await em.execute<CalendarFacts[]>(
    `select c.name as clinic, s.phone, s.public_name || ', ' || s.address_line || ', ' || s.city || ', ' || s.region || ' ' || s.postal_code as place, s.directions_en, s.directions_es
     from site s cross join clinic c where s.id = ?`,
    [siteId],
  );
  return row;
}

/** Visits to come that were booked online for a person as typed, and with a number or address. */
export async function openSelfBookings(
  em: SqlEntityManager,
  typed: { givenName: string; familyName: string; birthDate: string; contact: string },
  now: Date,
): Promise<{ person: number; contact: number }> {
  const [row] = await em.execute<{ person: number; contact: number }[]>(
    `select (count(*) filter (where b.birth_date = t.born and lower(b.given_name) = lower(t.given) and lower(b.family_name) = lower(t.family)))::int as person,
       (count(*) filter (where coalesce(b.phone, b.email) = t.contact))::int as contact
     from (select ?::date as born, ?::text as given, ?::text as family, ?::text as contact) t
     join self_booking b on (b.birth_date = t.born and lower(b.family_name) = lower(t.family) and lower(b.given_name) = lower(t.given)) or b.phone = t.contact or b.email = t.contact
     join appointment a on a.id = b.appointment_id and a.status in ('pending','booked') and a.starts_at > ?`,
    [typed.birthDate, typed.givenName, typed.familyName, typed.contact, now],
  );
  return row;
}

/** Where and when a visit is booked, or nothing. */
export async function whereVisitIs(
  em: SqlEntityManager,
  id: string,
): Promise<{ siteId: string; start: string; providerId: string | null } | null> {
  const [row] = await em.execute<{ site_id: string; starts_at: string; provider_id: string | null }[]>(
    'select site_id, starts_at, provider_id from appointment where id = ?',
    [id],
  );
  return row
    ? { siteId: row.site_id, start: new Date(row.starts_at).toISOString(), providerId: row.provider_id }
    : null;
}
