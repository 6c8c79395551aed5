import { defineEntity, p } from '@mikro-orm/core';
import type { PatientKind } from '@zaguan/core/availability';
import { PayerEntity, ResourceEntity, SiteEntity } from './clinic.ts';
import type { Row } from './rows.ts';

/** What can be booked (FHIR HealthcareService). */
export const VisitTypeEntity = defineEntity({
  name: 'VisitType',
  tableName: 'visit_type',
  properties: {
    id: p.uuid().primary(),
    code: p.text().unique(),
    name: p.text(),
    publicNameEn: p.text(),
    publicNameEs: p.text(),
    descriptionEn: p.text().default(''),
    descriptionEs: p.text().default(''),
    preparationEn: p.text().default(''),
    preparationEs: p.text().default(''),
    priceNoteEn: p.text().default(''),
    priceNoteEs: p.text().default(''),
    color: p.text().default('clay'),
    mode: p.text().$type<'in-person' | 'video' | 'phone'>().default('in-person'),
    beforeMin: p.smallint().default(0),
    afterMin: p.smallint().default(0),
    cancelUntilHours: p.smallint().default(24),
    asksToConfirm: p.boolean().default(true),
    /** What such a visit is expected to bring in, in whole US dollars. */
    expectedFeeUsd: p.integer().nullable(),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
  },
});
export type VisitType = Row<typeof VisitTypeEntity>;

/** A part of a visit type with its own length. */
export const VisitTypePartEntity = defineEntity({
  name: 'VisitTypePart',
  tableName: 'visit_type_part',
  properties: {
    id: p.uuid().primary(),
    visitTypeId: p.uuid(),
    position: p.smallint(),
    name: p.text().default(''),
    lengthMin: p.smallint(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['visitTypeId', 'position'] }],
});
export type VisitTypePart = Row<typeof VisitTypePartEntity>;

/** What a part needs: the provider, a fixed resource, a pool member, or someone present. */
export const VisitTypeNeedEntity = defineEntity({
  name: 'VisitTypeNeed',
  tableName: 'visit_type_need',
  properties: {
    id: p.uuid().primary(),
    visitTypeId: p.uuid(),
    partId: p.uuid(),
    key: p.text(),
    what: p.text().$type<'provider' | 'resource' | 'pool' | 'present'>(),
    resourceId: p.uuid().nullable(),
    poolKind: p.text().nullable(),
    capability: p.text().nullable(),
    sameAs: p.text().nullable(),
    differentFrom: p.text().nullable(),
    turnaroundMin: p.smallint().default(0),
    part: () => p.manyToOne(VisitTypePartEntity).joinColumn('part_id').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['visitTypeId', 'key'] }],
});
export type VisitTypeNeed = Row<typeof VisitTypeNeedEntity>;

/** Who performs a visit type. Without any row: every provider. */
export const VisitTypeProviderEntity = defineEntity({
  name: 'VisitTypeProvider',
  tableName: 'visit_type_provider',
  properties: {
    visitTypeId: p.uuid().primary(),
    providerId: p.uuid().primary(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type VisitTypeProvider = Row<typeof VisitTypeProviderEntity>;

/** Where a visit type is performed. Without any row: at every site. */
export const VisitTypeSiteEntity = defineEntity({
  name: 'VisitTypeSite',
  tableName: 'visit_type_site',
  properties: {
    visitTypeId: p.uuid().primary(),
    siteId: p.uuid().primary(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type VisitTypeSite = Row<typeof VisitTypeSiteEntity>;

/** How many days must, or may, lie between two visit types. */
export const VisitTypeSpacingEntity = defineEntity({
  name: 'VisitTypeSpacing',
  tableName: 'visit_type_spacing',
  properties: {
    visitTypeId: p.uuid().primary(),
    otherTypeId: p.uuid().primary(),
    minDays: p.smallint().nullable(),
    maxDays: p.smallint().nullable(),
    otherType: () => p.manyToOne(VisitTypeEntity).joinColumn('other_type_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type VisitTypeSpacing = Row<typeof VisitTypeSpacingEntity>;

/** The visits that follow one of this type, at fixed offsets. */
export const VisitTypeLinkEntity = defineEntity({
  name: 'VisitTypeLink',
  tableName: 'visit_type_link',
  properties: {
    visitTypeId: p.uuid().primary(),
    followTypeId: p.uuid(),
    offsetMin: p.integer().primary(),
    followType: () => p.manyToOne(VisitTypeEntity).joinColumn('follow_type_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type VisitTypeLink = Row<typeof VisitTypeLinkEntity>;

/** A usual reason for a visit, to pick instead of typing. */
export const VisitReasonEntity = defineEntity({
  name: 'VisitReason',
  tableName: 'visit_reason',
  properties: {
    id: p.uuid().primary(),
    visitTypeId: p.uuid().nullable(),
    labelEn: p.text(),
    labelEs: p.text(),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type VisitReason = Row<typeof VisitReasonEntity>;

/** What patients can book, by type, and narrower by site and provider. `null`: what the wider row says. */
export const OnlinePolicyEntity = defineEntity({
  name: 'OnlinePolicy',
  tableName: 'online_policy',
  properties: {
    id: p.uuid().primary(),
    visitTypeId: p.uuid(),
    siteId: p.uuid().nullable(),
    providerId: p.uuid().nullable(),
    offered: p.boolean().nullable(),
    kinds: p.array<PatientKind>().columnType('text[]').nullable(),
    leadMin: p.integer().nullable(),
    leadWorkingDays: p.smallint().nullable(),
    leadByMinute: p.smallint().nullable(),
    windowDays: p.smallint().nullable(),
    gridMin: p.smallint().nullable(),
    approval: p.text().$type<'none' | 'new' | 'all'>().nullable(),
    showLength: p.boolean().nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['visitTypeId', 'siteId', 'providerId'] }],
});
export type OnlinePolicy = Row<typeof OnlinePolicyEntity>;

/** The most bookings a day. */
export const BookingCapEntity = defineEntity({
  name: 'BookingCap',
  tableName: 'booking_cap',
  properties: {
    id: p.uuid().primary(),
    bucket: p.text().$type<'provider-day' | 'provider-type-day' | 'site-type-day' | 'provider-self-day'>(),
    providerId: p.uuid().nullable(),
    siteId: p.uuid().nullable(),
    visitTypeId: p.uuid().nullable(),
    max: p.smallint(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
});
export type BookingCap = Row<typeof BookingCapEntity>;

/** What a payer accepts. The narrowest row that says something decides: payer, then type, then site, then provider. */
export const PayerRuleEntity = defineEntity({
  name: 'PayerRule',
  tableName: 'payer_rule',
  properties: {
    id: p.uuid().primary(),
    payerId: p.uuid(),
    visitTypeId: p.uuid().nullable(),
    siteId: p.uuid().nullable(),
    providerId: p.uuid().nullable(),
    accepted: p.boolean().nullable(),
    needsReferral: p.boolean().nullable(),
    needsAuthorization: p.boolean().nullable(),
    payer: () => p.manyToOne(PayerEntity).joinColumn('payer_id').persist(false).nullable(),
    provider: () => p.manyToOne(ResourceEntity).joinColumn('provider_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    visitType: () => p.manyToOne(VisitTypeEntity).joinColumn('visit_type_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['payerId', 'visitTypeId', 'siteId', 'providerId'] }],
});
export type PayerRule = Row<typeof PayerRuleEntity>;
