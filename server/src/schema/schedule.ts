import { defineEntity, p } from '@mikro-orm/core';
import type { HoursCap, PatientKind } from '@zaguan/core/availability';
import type { ScheduleEdit } from '@zaguan/core/schedule';
import { AccountEntity } from './accounts.ts';
import { PoolEntity, ResourceEntity, SiteEntity } from './clinic.ts';
import type { Row } from './rows.ts';

/** Recurring working hours of a resource or of all members of a pool (FHIR Schedule). */
export const WorkingHoursEntity = defineEntity({
  name: 'WorkingHours',
  tableName: 'working_hours',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid().nullable(),
    poolId: p.uuid().nullable(),
    siteId: p.uuid(),
    weekdays: p.array<number>(Number).columnType('smallint[]'),
    everyWeeks: p.smallint().default(1),
    anchorDate: p.date(),
    effectiveFrom: p.date(),
    effectiveUntil: p.date().nullable(),
    fromMinute: p.smallint(),
    toMinute: p.smallint(),
    acceptsTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    acceptsKinds: p.array<PatientKind>().columnType('text[]').nullable(),
    invitedOnly: p.boolean().default(false),
    online: p.boolean().default(false),
    places: p.smallint().default(1),
    followsSiteHours: p.boolean().default(false),
    preferredRoomIds: p.array<string>().columnType('uuid[]').defaultRaw(`'{}'::uuid[]`),
    releaseBeforeMin: p.integer().nullable(),
    releaseTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    releaseKinds: p.array<PatientKind>().columnType('text[]').nullable(),
    releaseInvitedOnly: p.boolean().default(false),
    releaseOnline: p.boolean().default(true),
    caps: p.json<HoursCap[]>().defaultRaw(`'[]'::jsonb`),
    version: p.integer().default(1),
    createdAt: p.datetime(),
    createdBy: p.uuid().nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
    pool: () => p.manyToOne(PoolEntity).joinColumn('pool_id').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type WorkingHours = Row<typeof WorkingHoursEntity>;

/** A single-date change, keyed by hours and original date. Without hours: extra hours. */
export const WorkingHoursChangeEntity = defineEntity({
  name: 'WorkingHoursChange',
  tableName: 'working_hours_change',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid().nullable(),
    poolId: p.uuid().nullable(),
    workingHoursId: p.uuid().nullable(),
    date: p.date(),
    cancelled: p.boolean().default(false),
    siteId: p.uuid().nullable(),
    fromMinute: p.smallint().nullable(),
    toMinute: p.smallint().nullable(),
    acceptsTypeIds: p.array<string>().columnType('uuid[]').nullable(),
    acceptsKinds: p.array<PatientKind>().columnType('text[]').nullable(),
    invitedOnly: p.boolean().default(false),
    online: p.boolean().default(false),
    places: p.smallint().default(1),
    pool: () => p.manyToOne(PoolEntity).joinColumn('pool_id').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    workingHours: () => p.manyToOne(WorkingHoursEntity).joinColumn('working_hours_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['workingHoursId', 'date'] }],
});
export type WorkingHoursChange = Row<typeof WorkingHoursChangeEntity>;

/** Someone is away, or has asked to be. */
export const TimeOffEntity = defineEntity({
  name: 'TimeOff',
  tableName: 'time_off',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid(),
    siteId: p.uuid().nullable(),
    startDate: p.date(),
    startMinute: p.smallint().default(0),
    endDate: p.date(),
    endMinute: p.smallint().default(1440),
    reason: p.text().default(''),
    status: p.text().$type<'requested' | 'approved' | 'declined'>().default('approved'),
    requestedAt: p.datetime().nullable(),
    requestedBy: p.uuid().nullable(),
    decidedAt: p.datetime().nullable(),
    decidedBy: p.uuid().nullable(),
    answer: p.text().default(''),
    coverId: p.uuid().nullable(),
    cover: () => p.manyToOne(ResourceEntity).joinColumn('cover_id').persist(false).nullable(),
    decidedByAccount: () => p.manyToOne(AccountEntity).joinColumn('decided_by').persist(false).nullable(),
    requestedByAccount: () => p.manyToOne(AccountEntity).joinColumn('requested_by').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type TimeOff = Row<typeof TimeOffEntity>;

/** A recurring time without visits. */
export const KeptFreeEntity = defineEntity({
  name: 'KeptFree',
  tableName: 'kept_free',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid(),
    siteId: p.uuid().nullable(),
    weekdays: p.array<number>(Number).columnType('smallint[]'),
    everyWeeks: p.smallint().default(1),
    anchorDate: p.date(),
    effectiveFrom: p.date(),
    effectiveUntil: p.date().nullable(),
    fromMinute: p.smallint(),
    toMinute: p.smallint(),
    note: p.text().default(''),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type KeptFree = Row<typeof KeptFreeEntity>;

/** A painted stretch: shown online, for the desk only, or by the rules again. The last one painted counts. */
export const BrushStrokeEntity = defineEntity({
  name: 'BrushStroke',
  tableName: 'brush_stroke',
  properties: {
    id: p.uuid().primary(),
    painted: p.bigint('number').autoincrement(),
    resourceId: p.uuid(),
    siteId: p.uuid(),
    date: p.date(),
    fromMinute: p.smallint(),
    toMinute: p.smallint(),
    value: p.text().$type<'shown' | 'desk-only' | 'by-rule'>(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type BrushStroke = Row<typeof BrushStrokeEntity>;

/** Edits of the schedule that are planned and not in force. */
export const ScheduleDraftEntity = defineEntity({
  name: 'ScheduleDraft',
  tableName: 'schedule_draft',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    edits: p.json<ScheduleEdit[]>().defaultRaw(`'[]'::jsonb`),
    version: p.integer().default(1),
    createdAt: p.datetime(),
    createdBy: p.uuid(),
    publishedAt: p.datetime().nullable(),
    publishedBy: p.uuid().nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
    publishedByAccount: () => p.manyToOne(AccountEntity).joinColumn('published_by').persist(false).nullable(),
  },
});
export type ScheduleDraft = Row<typeof ScheduleDraftEntity>;

/** A private address under which a calendar program follows a schedule. Only its token’s hash is kept. */
export const CalendarFeedEntity = defineEntity({
  name: 'CalendarFeed',
  tableName: 'calendar_feed',
  properties: {
    id: p.uuid().primary(),
    resourceId: p.uuid(),
    tokenHash: p.blob().$type<Buffer>().unique(),
    detailed: p.boolean(),
    createdAt: p.datetime(),
    createdBy: p.uuid(),
    lastReadAt: p.datetime().nullable(),
    revokedAt: p.datetime().nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
  },
});
export type CalendarFeed = Row<typeof CalendarFeedEntity>;
