import { defineEntity, p } from '@mikro-orm/core';
import type { Answer } from '@zaguan/core/setup';
import type { Code } from '@zaguan/core/openings';
import type { AppointmentStatus, CancelReason, GroupKind, Origin, Part } from '@zaguan/core/visits';
import type { PatientKind } from '@zaguan/core/availability';
import { AccountEntity } from './accounts.ts';
import { PatientEntity } from './patients.ts';
import { PayerEntity, ResourceEntity, SiteEntity } from './clinic.ts';
import { VisitReasonEntity, VisitTypeEntity } from './visitTypes.ts';
import type { Row } from './rows.ts';

/** A booked visit (FHIR Appointment). `version` guards against a lost update. */
export const AppointmentEntity = defineEntity({
  name: 'Appointment',
  tableName: 'appointment',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    visitTypeId: p.uuid(),
    providerId: p.uuid().nullable(),
    patientId: p.uuid().nullable(),
    patientKind: p.text().$type<PatientKind>(),
    status: p.text().$type<AppointmentStatus>(),
    identity: p.text().$type<'sure' | 'unknown'>(),
    approval: p.text().$type<'not-needed' | 'waiting' | 'approved' | 'declined'>().default('not-needed'),
    origin: p.text().$type<Origin>(),
    startsAt: p.datetime(),
    endsAt: p.datetime(),
    providerStartsAt: p.datetime(),
    providerEndsAt: p.datetime(),
    beforeMin: p.smallint(),
    afterMin: p.smallint(),
    siteDate: p.date(),
    reasonId: p.uuid().nullable(),
    reasonText: p.text().default(''),
    staffNote: p.text().default(''),
    confirmedAt: p.datetime().nullable(),
    arrivedAt: p.datetime().nullable(),
    checkedInAt: p.datetime().nullable(),
    fulfilledAt: p.datetime().nullable(),
    noshowAt: p.datetime().nullable(),
    cancelledAt: p.datetime().nullable(),
    cancelReason: p.text().$type<CancelReason>().nullable(),
    cancelNote: p.text().nullable(),
    /** Its own parts, where they are not the type's. */
    parts: p.json<readonly Part[]>().nullable(),
    /** The rules it was booked against. */
    rulesWaived: p.array<Code>().columnType('text[]').nullable(),
    groupId: p.uuid().nullable(),
    groupKind: p.text().$type<GroupKind>().nullable(),
    groupPosition: p.smallint().nullable(),
    icalSequence: p.integer().default(0),
    version: p.integer().default(1),
    /** When it got this version. */
    changedAt: p.datetime(),
    createdAt: p.datetime(),
    createdBy: p.uuid().nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    reason: () => p.manyToOne(VisitReasonEntity).joinColumn('reason_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type Appointment = Row<typeof AppointmentEntity>;

/** What a patient typed when booking for themselves. */
export const SelfBookingEntity = defineEntity({
  name: 'SelfBooking',
  tableName: 'self_booking',
  properties: {
    appointmentId: p.uuid().primary(),
    givenName: p.text().default(''),
    familyName: p.text().default(''),
    birthDate: p.date(),
    phone: p.text().nullable(),
    email: p.text().nullable(),
    language: p.text().$type<'en' | 'es'>(),
    kindClaimed: p.text().$type<PatientKind>(),
    answers: p.json<Record<string, Answer>>().defaultRaw(`'{}'::jsonb`),
    holdId: p.uuid().unique(),
    browserHash: p.blob().$type<Buffer>(),
    contentHash: p.blob().$type<Buffer>(),
    addressHash: p.blob().$type<Buffer>().nullable(),
    bookedAt: p.datetime(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
  },
});
export type SelfBooking = Row<typeof SelfBookingEntity>;

/** A start time kept for some minutes for one browser, or for an account that books at the desk. */
export const HoldEntity = defineEntity({
  name: 'Hold',
  tableName: 'hold',
  properties: {
    id: p.uuid().primary(),
    browserHash: p.blob().$type<Buffer>().unique().nullable(),
    /** Who books at the desk; a flow is one booking of theirs. */
    accountId: p.uuid().nullable(),
    flowId: p.uuid().nullable(),
    patientId: p.uuid().nullable(),
    parts: p.json<readonly Part[]>().nullable(),
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
    addressHash: p.blob().$type<Buffer>().nullable(),
    prefixHash: p.blob().$type<Buffer>().nullable(),
    provedAt: p.datetime().nullable(),
    expiresAt: p.datetime(),
    extensions: p.smallint().default(0),
    createdAt: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type Hold = Row<typeof HoldEntity>;

/** Somebody booked against a rule, and why. */
export const BookingOverrideEntity = defineEntity({
  name: 'BookingOverride',
  tableName: 'booking_override',
  properties: {
    id: p.uuid().primary(),
    appointmentId: p.uuid(),
    accountId: p.uuid(),
    reason: p.text(),
    rules: p.array<Code>().columnType('text[]'),
    at: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
  },
});
export type BookingOverride = Row<typeof BookingOverrideEntity>;

/** A time range in which a visit, a hold or an imported busy time takes one place of a resource. */
export const OccupancyEntity = defineEntity({
  name: 'Occupancy',
  tableName: 'occupancy',
  properties: {
    id: p.bigint('number').autoincrement().primary(),
    resourceId: p.uuid(),
    place: p.smallint(),
    places: p.smallint(),
    during: p.text().columnType('tstzrange'),
    appointmentId: p.uuid().nullable(),
    holdId: p.uuid().nullable(),
    importId: p.uuid().nullable(),
    part: p.smallint().default(0),
    needKey: p.text().default(''),
    singleDevice: p.boolean().default(false),
    overrideId: p.uuid().nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    hold: () => p.manyToOne(HoldEntity).joinColumn('hold_id').persist(false).nullable().deleteRule('cascade'),
    override: () => p.manyToOne(BookingOverrideEntity).joinColumn('override_id').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
  },
});
export type Occupancy = Row<typeof OccupancyEntity>;

/** What was said about paying when a visit was booked, until somebody has looked. */
export const VisitCoverageEntity = defineEntity({
  name: 'VisitCoverage',
  tableName: 'visit_coverage',
  properties: {
    appointmentId: p.uuid().primary(),
    payerId: p.uuid().nullable(),
    selfPay: p.boolean().default(false),
    referralSaid: p.boolean().nullable(),
    state: p.text().$type<'to-verify' | 'verified' | 'not-covered'>().default('to-verify'),
    saidAt: p.datetime(),
    settledAt: p.datetime().nullable(),
    settledBy: p.uuid().nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
    payer: () => p.manyToOne(PayerEntity).joinColumn('payer_id').persist(false).nullable(),
    settledByAccount: () => p.manyToOne(AccountEntity).joinColumn('settled_by').persist(false).nullable(),
  },
});
export type VisitCoverage = Row<typeof VisitCoverageEntity>;

/** A booked visit that no longer fits the schedule; `kept…` when somebody leaves it where it is. */
export const VisitToMoveEntity = defineEntity({
  name: 'VisitToMove',
  tableName: 'visit_to_move',
  properties: {
    appointmentId: p.uuid().primary(),
    since: p.datetime(),
    foundBy: p.uuid().nullable(),
    keptAt: p.datetime().nullable(),
    keptBy: p.uuid().nullable(),
    keptReason: p.text().nullable(),
    callOutcome: p.text().$type<'no-answer' | 'left-message' | 'spoke'>().nullable(),
    calledAt: p.datetime().nullable(),
    calledBy: p.uuid().nullable(),
    appointment: () =>
      p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable().deleteRule('cascade'),
    calledByAccount: () => p.manyToOne(AccountEntity).joinColumn('called_by').persist(false).nullable(),
    foundByAccount: () => p.manyToOne(AccountEntity).joinColumn('found_by').persist(false).nullable(),
    keptByAccount: () => p.manyToOne(AccountEntity).joinColumn('kept_by').persist(false).nullable(),
  },
});
export type VisitToMove = Row<typeof VisitToMoveEntity>;
