import { defineEntity, p } from '@mikro-orm/core';
import type { Urgency } from '@zaguan/core/booking';
import type { Part } from '@zaguan/core/visits';
import type { Weekday } from '@zaguan/core/time';
import { AccountEntity } from './accounts.ts';
import { AppointmentEntity } from './booking.ts';
import { ResourceEntity, SiteEntity } from './clinic.ts';
import { PatientEntity } from './patients.ts';
import type { Row } from './rows.ts';
import { VisitTypeEntity } from './visitTypes.ts';

/** Somebody asks that a patient be booked (FHIR ServiceRequest). */
export const BookingRequestEntity = defineEntity({
  name: 'BookingRequest',
  tableName: 'booking_request',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    visitTypeId: p.uuid(),
    siteId: p.uuid().nullable(),
    providerId: p.uuid().nullable(),
    fromDate: p.date(),
    dueDate: p.date(),
    reason: p.text().default(''),
    urgency: p.text().$type<Urgency>(),
    state: p.text().$type<'open' | 'booked' | 'completed' | 'withdrawn'>(),
    appointmentId: p.uuid().nullable(),
    askedBy: p.uuid(),
    askedAt: p.datetime(),
    endedAt: p.datetime().nullable(),
    withdrawnBecause: p.text().nullable(),
    version: p.integer().default(1),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    askedByAccount: () => p.manyToOne(AccountEntity).joinColumn('asked_by').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type BookingRequest = Row<typeof BookingRequestEntity>;

/** What one press of "Book" came to, so that the same call again books nothing more. */
export const DeskBookingEntity = defineEntity({
  name: 'DeskBooking',
  tableName: 'desk_booking',
  properties: {
    key: p.uuid().primary(),
    accountId: p.uuid(),
    contentHash: p.blob().$type<Buffer>(),
    appointmentIds: p.array<string>().columnType('uuid[]'),
    undoId: p.uuid(),
    at: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
  },
});
export type DeskBooking = Row<typeof DeskBookingEntity>;

/** A visit without a time, or one that waits to be moved and keeps its time until then: what lies on the Bench. */
export const UnplacedVisitEntity = defineEntity({
  name: 'UnplacedVisit',
  tableName: 'unplaced_visit',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    visitTypeId: p.uuid(),
    appointmentId: p.uuid().nullable(),
    parts: p.json<readonly Part[]>().nullable(),
    siteId: p.uuid().nullable(),
    providerId: p.uuid().nullable(),
    groupId: p.uuid().nullable(),
    requestId: p.uuid().nullable(),
    ownerId: p.uuid().nullable(),
    reasonText: p.text().default(''),
    note: p.text().default(''),
    since: p.datetime(),
    addedBy: p.uuid(),
    endedAt: p.datetime().nullable(),
    endedHow: p.text().$type<'booked' | 'withdrawn'>().nullable(),
    version: p.integer().default(1),
    addedByAccount: () => p.manyToOne(AccountEntity).joinColumn('added_by').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    owner: () => p.manyToOne(AccountEntity).joinColumn('owner_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    request: () => p.manyToOne(BookingRequestEntity).joinColumn('request_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type UnplacedVisit = Row<typeof UnplacedVisitEntity>;

/** Somebody would come sooner than they are booked, or as soon as they can. */
export const WaitlistWishEntity = defineEntity({
  name: 'WaitlistWish',
  tableName: 'waitlist_wish',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    appointmentId: p.uuid().nullable(),
    visitTypeId: p.uuid(),
    weekdays: p
      .array<Weekday>(Number as never)
      .columnType('smallint[]')
      .nullable(),
    fromMinute: p.smallint().default(0),
    toMinute: p.smallint().default(1440),
    siteIds: p.array<string>().columnType('uuid[]').nullable(),
    providerIds: p.array<string>().columnType('uuid[]').nullable(),
    fromDate: p.date().nullable(),
    untilDate: p.date().nullable(),
    noticeMin: p.integer().default(0),
    createdBy: p.uuid(),
    createdAt: p.datetime(),
    endedAt: p.datetime().nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type WaitlistWish = Row<typeof WaitlistWishEntity>;
