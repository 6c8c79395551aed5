import type { OccupancyRow } from '@zaguan/core/booking';
import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import {
  type Appointment,
  AppointmentEntity,
  BookingOverrideEntity,
  ClinicEntity,
  type Hold,
  HoldEntity,
  type New,
  OccupancyEntity,
  ResourceEntity,
  SelfBookingEntity,
  type Site,
  SiteEntity,
  VisitLookingEntity,
} from '../../schema/index.ts';
import { occupancyOf } from './booking.sql.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

/** Reads a hold and keeps it from being changed until the transaction ends. */
export function holdForUpdate(em: SqlEntityManager, id: string): Promise<Hold | null> {
  return findRow(em, HoldEntity, { id }, FOR_UPDATE);
}

/** Whether a hold is this browser's. */
export function isOfBrowser({ browserHash }: Pick<Hold, 'browserHash'>, browser: Buffer | null): boolean {
  return browser !== null && browserHash !== null && browser.equals(Buffer.from(browserHash));
}

/** The database deletes its occupancy with it. */
export async function deleteHold(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(HoldEntity, { id });
}

export async function prolongHold(
  em: SqlEntityManager,
  id: string,
  to: { extensions: number; expiresAt: Date },
): Promise<void> {
  await em.nativeUpdate(HoldEntity, { id }, to);
}

export async function freeTime(em: SqlEntityManager, appointmentId: string): Promise<void> {
  await em.nativeDelete(OccupancyEntity, { appointmentId });
}

export function appointmentForUpdate(em: SqlEntityManager, id: string): Promise<Appointment | null> {
  return findRow(em, AppointmentEntity, { id }, FOR_UPDATE);
}

export function appointmentRow(em: SqlEntityManager, id: string): Promise<Appointment | null> {
  return findRow(em, AppointmentEntity, { id });
}

/** What is still to come of visits that belong together, with what they name, as they were booked. */
export function comingOfGroup(em: SqlEntityManager, groupId: string, now: Date) {
  return findRows(
    em,
    AppointmentEntity,
    { groupId, status: { $in: ['booked', 'pending'] }, startsAt: { $gt: now } },
    { populate: ['patient', 'visitType', 'site'], orderBy: { groupPosition: 'asc', id: 'asc' } },
  );
}

/** Several, locked in the order of their ids. */
export function appointmentsForUpdate(em: SqlEntityManager, ids: readonly string[]): Promise<Appointment[]> {
  return findRows(em, AppointmentEntity, { id: { $in: [...ids] } }, { ...FOR_UPDATE, orderBy: { id: 'asc' } });
}

export function insertAppointment(em: SqlEntityManager, appointment: New<typeof AppointmentEntity>): Promise<void> {
  return insertRow(em, AppointmentEntity, appointment);
}

/**
 * Changes an appointment that its transaction has locked; gives it as it is then.
 *
 * @throws Error if it has another version: it was not locked
 */
export async function updateAppointment(
  em: SqlEntityManager,
  appointment: Appointment,
  changes: Partial<Appointment>,
  changedAt: Date,
): Promise<Appointment> {
  const { id, version } = appointment;
  const next = { ...changes, version: version + 1, changedAt };
  const changed = await em.nativeUpdate(AppointmentEntity, { id, version }, next);
  if (changed !== 1) throw new Error('An appointment was changed without being locked.');
  return { ...appointment, ...next };
}

/** The override that a visit booked against these rules stands by; `null` for one that keeps them all. */
export async function overrideOf(
  em: SqlEntityManager,
  { id, rulesWaived }: Pick<Appointment, 'id' | 'rulesWaived'>,
): Promise<string | null> {
  if (!rulesWaived) return null;
  const rows = await findRows(
    em,
    BookingOverrideEntity,
    { appointmentId: id },
    { fields: ['id', 'rules'], orderBy: { at: 'desc', id: 'desc' } },
  );
  const same = rows.find(
    ({ rules }) => rules.length === rulesWaived.length && rules.every((code) => rulesWaived.includes(code)),
  );
  return (same ?? rows[0])?.id ?? null;
}

/** Those of some resources of which there is one, whatever a clinic would like. */
export async function singleDevices(em: SqlEntityManager, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await findRows(em, ResourceEntity, { id: { $in: [...ids] }, singleDevice: true }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
}

export function insertOverride(em: SqlEntityManager, row: New<typeof BookingOverrideEntity>): Promise<void> {
  return insertRow(em, BookingOverrideEntity, row);
}

export function insertSelfBooking(em: SqlEntityManager, row: New<typeof SelfBookingEntity>): Promise<void> {
  return insertRow(em, SelfBookingEntity, row);
}

/** The visit that came of a hold, if it was booked already. */
export async function bookedFromHold(
  em: SqlEntityManager,
  holdId: string,
): Promise<{ appointment: Appointment; browserHash: Buffer; contentHash: Buffer } | null> {
  const self = await findRow(em, SelfBookingEntity, { holdId });
  const appointment = self && (await findRow(em, AppointmentEntity, { id: self.appointmentId }));
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
  const self = await findRow(em, SelfBookingEntity, { appointmentId: id, browserHash }, { fields: ['appointmentId'] });
  return self && findRow(em, AppointmentEntity, { id });
}

export type CalendarFacts = Pick<Site, 'phone' | 'directionsEn' | 'directionsEs'> & { clinic: string; place: string };

/** What a calendar entry says of where the visit is. The site is there: a visit was just read of it. */
export async function calendarFacts(em: SqlEntityManager, siteId: string): Promise<CalendarFacts> {
  const [clinic, site] = [await findRow(em, ClinicEntity, {}), await findRow(em, SiteEntity, { id: siteId })];
  if (!clinic || !site) throw new Error('A visit without its site.');
  const { publicName, addressLine, city, region, postalCode, phone, directionsEn, directionsEs } = site;
  const place = `${publicName}, ${addressLine}, ${city}, ${region} ${postalCode}`;
  return { clinic: clinic.name, phone, place, directionsEn, directionsEs };
}

/** Where and when a visit is booked, or nothing. */
export async function whereVisitIs(
  em: SqlEntityManager,
  id: string,
): Promise<{ siteId: string; start: string; providerId: string | null } | null> {
  const row = await findRow(em, AppointmentEntity, { id }, { fields: ['siteId', 'startsAt', 'providerId'] });
  return row && { siteId: row.siteId, start: row.startsAt.toISOString(), providerId: row.providerId };
}

/** When, where and with what a visit was booked, whole; instants as text, so that an undo can keep it. */
export interface BookedPlace {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly siteDate: string;
  readonly startsAt: string;
  readonly endsAt: string;
  readonly providerStartsAt: string;
  readonly providerEndsAt: string;
  readonly confirmedAt: string | null;
  readonly parts: Appointment['parts'];
  readonly rulesWaived: Appointment['rulesWaived'];
  readonly occupancy: readonly OccupancyRow[];
}

/** Where a visit stands now; `null` if there is none. */
export async function bookedPlaceOf(em: SqlEntityManager, id: string): Promise<BookedPlace | null> {
  const row = await findRow(em, AppointmentEntity, { id });
  if (!row) return null;
  const { siteId, providerId, siteDate } = row;
  return {
    siteId,
    providerId,
    siteDate,
    startsAt: row.startsAt.toISOString(),
    endsAt: row.endsAt.toISOString(),
    providerStartsAt: row.providerStartsAt.toISOString(),
    providerEndsAt: row.providerEndsAt.toISOString(),
    confirmedAt: row.confirmedAt?.toISOString() ?? null,
    parts: row.parts,
    rulesWaived: row.rulesWaived,
    occupancy: await occupancyOf(em, id),
  };
}

/** An account has closed a visit. */
export async function endLooking(em: SqlEntityManager, appointmentId: string, accountId: string): Promise<void> {
  await em.nativeDelete(VisitLookingEntity, { appointmentId, accountId });
}
