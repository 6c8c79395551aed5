import { defineEntity, type InferEntity, p } from '@mikro-orm/core';
import type { AppointmentStatus, Origin } from '@zaguan/core/visits';
import type { PatientKind } from '@zaguan/core/availability';

const times = {
  siteId: p.uuid(),
  visitTypeId: p.uuid(),
  providerId: p.uuid().nullable(),
  patientKind: p.text().$type<PatientKind>(),
  startsAt: p.datetime(),
  endsAt: p.datetime(),
  providerStartsAt: p.datetime(),
  providerEndsAt: p.datetime(),
  beforeMin: p.smallint(),
  afterMin: p.smallint(),
  siteDate: p.date(),
};

/** A booked visit (FHIR Appointment). `version` guards against a lost update. */
export const AppointmentEntity = defineEntity({
  name: 'Appointment',
  tableName: 'appointment',
  properties: {
    id: p.uuid().primary(),
    ...times,
    patientId: p.uuid().nullable(),
    status: p.text().$type<AppointmentStatus>(),
    identity: p.text().$type<'sure' | 'unknown'>(),
    approval: p.text().$type<'not-needed' | 'waiting' | 'approved' | 'declined'>(),
    origin: p.text().$type<Origin>(),
    reasonText: p.text(),
    confirmedAt: p.datetime().nullable(),
    arrivedAt: p.datetime().nullable(),
    checkedInAt: p.datetime().nullable(),
    fulfilledAt: p.datetime().nullable(),
    noshowAt: p.datetime().nullable(),
    cancelledAt: p.datetime().nullable(),
    cancelReason: p.text().nullable(),
    cancelNote: p.text().nullable(),
    icalSequence: p.integer(),
    version: p.integer(),
    createdAt: p.datetime(),
    createdBy: p.uuid().nullable(),
  },
});
export type Appointment = InferEntity<typeof AppointmentEntity>;

/** A start time kept for ten minutes for one browser. */
export const HoldEntity = defineEntity({
  name: 'Hold',
  tableName: 'hold',
  properties: {
    id: p.uuid().primary(),
    browserHash: p.blob(),
    ...times,
    addressHash: p.blob().nullable(),
    prefixHash: p.blob().nullable(),
    /** When this browser's number or address was proved. */
    provedAt: p.datetime().nullable(),
    expiresAt: p.datetime(),
    extensions: p.smallint(),
    createdAt: p.datetime(),
  },
});
export type Hold = InferEntity<typeof HoldEntity>;

/** What a patient typed when booking for themselves. */
export const SelfBookingEntity = defineEntity({
  name: 'SelfBooking',
  tableName: 'self_booking',
  properties: {
    appointmentId: p.uuid().primary(),
    givenName: p.text(),
    familyName: p.text(),
    birthDate: p.date(),
    phone: p.text().nullable(),
    email: p.text().nullable(),
    language: p.text().$type<'en' | 'es'>(),
    kindClaimed: p.text(),
    holdId: p.uuid(),
    browserHash: p.blob(),
    contentHash: p.blob(),
    addressHash: p.blob().nullable(),
    bookedAt: p.datetime(),
  },
});
export type SelfBooking = InferEntity<typeof SelfBookingEntity>;
