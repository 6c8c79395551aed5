import { defineEntity, p } from '@mikro-orm/core';
import type { Access, ResourceKind } from '@zaguan/core/availability';
import type { Row } from './rows.ts';

/** The clinic itself. One row. */
export const ClinicEntity = defineEntity({
  name: 'Clinic',
  tableName: 'clinic',
  properties: {
    onlyRow: p.boolean().primary().default(true),
    name: p.text(),
    phone: p.text(),
    baseUnitMin: p.smallint().default(5),
    density: p.text().$type<'roomy' | 'dense'>().default('roomy'),
    asksPayerOnline: p.boolean().default(false),
    urgentAtNight: p.text().$type<'send' | 'call'>().default('send'),
    textCountries: p.array<string>().columnType('text[]').defaultRaw(`'{US}'::text[]`),
    codesPerDay: p.integer().default(500),
    lateAfterMin: p.smallint().default(15).nullable(),
    lateRule: p.text().default(''),
  },
});
export type Clinic = Row<typeof ClinicEntity>;

/** One physical clinic with its address and time zone (FHIR Location). */
export const SiteEntity = defineEntity({
  name: 'Site',
  tableName: 'site',
  properties: {
    id: p.uuid().primary(),
    code: p.text().unique(),
    name: p.text(),
    publicName: p.text(),
    addressLine: p.text(),
    city: p.text(),
    region: p.text(),
    postalCode: p.text(),
    phone: p.text(),
    morePhones: p.json<{ label: string; phone: string }[]>().defaultRaw(`'[]'::jsonb`),
    email: p.text().nullable(),
    timeZone: p.text(),
    latitude: p.double().$type<number>().nullable(),
    longitude: p.double().$type<number>().nullable(),
    directionsEn: p.text().default(''),
    directionsEs: p.text().default(''),
    access: p.array<Access>().columnType('text[]').defaultRaw(`'{}'::text[]`),
    bookableOnline: p.boolean().default(true),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
  },
});
export type Site = Row<typeof SiteEntity>;

/** When a site is open, as weekly rules on its own clock. */
export const SiteHoursEntity = defineEntity({
  name: 'SiteHours',
  tableName: 'site_hours',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    weekdays: p.array<number>(Number).columnType('smallint[]'),
    everyWeeks: p.smallint().default(1),
    anchorDate: p.date(),
    effectiveFrom: p.date(),
    effectiveUntil: p.date().nullable(),
    fromMinute: p.smallint(),
    toMinute: p.smallint(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type SiteHours = Row<typeof SiteHoursEntity>;

/** A site is shut from a minute of one date to a minute of another. */
export const ClosureEntity = defineEntity({
  name: 'Closure',
  tableName: 'closure',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    startDate: p.date(),
    startMinute: p.smallint().default(0),
    endDate: p.date(),
    endMinute: p.smallint().default(1440),
    reason: p.text().default(''),
    uid: p.text().nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type Closure = Row<typeof ClosureEntity>;

/** Minutes from one site to another. */
export const SiteTravelEntity = defineEntity({
  name: 'SiteTravel',
  tableName: 'site_travel',
  properties: {
    fromSiteId: p.uuid().primary(),
    toSiteId: p.uuid().primary(),
    minutes: p.smallint(),
    fromSite: () => p.manyToOne(SiteEntity).joinColumn('from_site_id').persist(false).nullable(),
    toSite: () => p.manyToOne(SiteEntity).joinColumn('to_site_id').persist(false).nullable(),
  },
});
export type SiteTravel = Row<typeof SiteTravelEntity>;

/** Anything that a visit occupies: a provider, a staff member, a room, a piece of equipment. */
export const ResourceEntity = defineEntity({
  name: 'Resource',
  tableName: 'resource',
  properties: {
    id: p.uuid().primary(),
    kind: p.text().$type<ResourceKind>(),
    name: p.text(),
    shortName: p.text(),
    homeSiteId: p.uuid().nullable(),
    color: p.text().nullable(),
    capabilities: p.array<string>().columnType('text[]').defaultRaw(`'{}'::text[]`),
    access: p.array<Access>().columnType('text[]').defaultRaw(`'{}'::text[]`),
    places: p.smallint().default(1),
    bookableOnline: p.boolean().default(true),
    shownInDaybook: p.boolean().default(true),
    leftOutOfMessages: p.boolean().default(false),
    singleDevice: p.boolean().default(false),
    mayEditOwnHours: p.boolean().default(true),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
    homeSite: () => p.manyToOne(SiteEntity).joinColumn('home_site_id').persist(false).nullable(),
  },
});
export type Resource = Row<typeof ResourceEntity>;

/** What only providers have (FHIR Practitioner), beside their resource. */
export const ProviderEntity = defineEntity({
  name: 'Provider',
  tableName: 'provider',
  properties: {
    resourceId: p.uuid().primary(),
    credentials: p.text(),
    specialty: p.text().default(''),
    npi: p.text().nullable(),
    licenses: p.json<{ region: string; number: string }[]>().defaultRaw(`'[]'::jsonb`),
    languages: p.array<string>().columnType('text[]').defaultRaw(`'{en}'::text[]`),
    acceptsNew: p.boolean().default(true),
    bioEn: p.text().default(''),
    bioEs: p.text().default(''),
    /** Empty where patients read the same name in Spanish. */
    publicNameEs: p.text().default(''),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
  },
});
export type Provider = Row<typeof ProviderEntity>;

/** At which sites a resource has a lane. */
export const ResourceSiteEntity = defineEntity({
  name: 'ResourceSite',
  tableName: 'resource_site',
  properties: {
    resourceId: p.uuid().primary(),
    siteId: p.uuid().primary(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type ResourceSite = Row<typeof ResourceSiteEntity>;

/** Like resources of a site of which a visit needs one. */
export const PoolEntity = defineEntity({
  name: 'Pool',
  tableName: 'pool',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    kind: p.text(),
    name: p.text(),
    shownInDaybook: p.boolean().default(true),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['siteId', 'kind'] }],
});
export type Pool = Row<typeof PoolEntity>;

/** A resource in a pool; `number` is the order in which members are taken. */
export const PoolMemberEntity = defineEntity({
  name: 'PoolMember',
  tableName: 'pool_member',
  properties: {
    poolId: p.uuid().primary(),
    resourceId: p.uuid().primary(),
    number: p.smallint().default(1),
    pool: () => p.manyToOne(PoolEntity).joinColumn('pool_id').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
  },
});
export type PoolMember = Row<typeof PoolMemberEntity>;

/** An insurer or program that pays for visits. */
export const PayerEntity = defineEntity({
  name: 'Payer',
  tableName: 'payer',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
  },
});
export type Payer = Row<typeof PayerEntity>;

/** A field or question of the clinic’s own. */
export const CustomFieldEntity = defineEntity({
  name: 'CustomField',
  tableName: 'custom_field',
  properties: {
    id: p.uuid().primary(),
    of: p.text().$type<'patient' | 'booking'>(),
    kind: p.text().$type<'text' | 'choice' | 'date' | 'number' | 'yes-no'>(),
    labelEn: p.text(),
    labelEs: p.text(),
    required: p.boolean().default(false),
    choices: p.json<{ en: string; es: string }[]>().defaultRaw(`'[]'::jsonb`),
    visitTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    active: p.boolean().default(true),
    sortOrder: p.smallint().default(0),
  },
});
export type CustomField = Row<typeof CustomFieldEntity>;
