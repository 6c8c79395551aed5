import { defineEntity, p } from '@mikro-orm/core';
import type { Role } from '@zaguan/contracts';
import type { ViewScope, ViewSettings } from '@zaguan/contracts/daybook';
import { AccountEntity } from './accounts.ts';
import { AppointmentEntity } from './booking.ts';
import { ResourceEntity, SiteEntity } from './clinic.ts';
import type { Row } from './rows.ts';

/** What somebody of the staff wrote on a day: of a site, of a lane, or of a stretch of either. */
export const DayNoteEntity = defineEntity({
  name: 'DayNote',
  tableName: 'day_note',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    resourceId: p.uuid().nullable(),
    siteDate: p.date(),
    fromMinute: p.smallint().nullable(),
    toMinute: p.smallint().nullable(),
    text: p.text(),
    writtenBy: p.uuid(),
    writtenAt: p.datetime(),
    removedAt: p.datetime().nullable(),
    version: p.integer().default(1),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
    writtenByAccount: () => p.manyToOne(AccountEntity).joinColumn('written_by').persist(false).nullable(),
  },
});
export type DayNote = Row<typeof DayNoteEntity>;

/** How far behind a provider was said to be, and from when to when that held: each word of it a row of its own. */
export const ProviderDelayEntity = defineEntity({
  name: 'ProviderDelay',
  tableName: 'provider_delay',
  properties: {
    id: p.uuid().primary(),
    siteId: p.uuid(),
    resourceId: p.uuid(),
    siteDate: p.date(),
    minutes: p.smallint(),
    since: p.datetime(),
    saidBy: p.uuid(),
    endedAt: p.datetime().nullable(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
    saidByAccount: () => p.manyToOne(AccountEntity).joinColumn('said_by').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type ProviderDelay = Row<typeof ProviderDelayEntity>;

/** Who of the staff had a visit open last, and when, by the database's own clock. */
export const VisitLookingEntity = defineEntity({
  name: 'VisitLooking',
  tableName: 'visit_looking',
  properties: {
    appointmentId: p.uuid().primary(),
    accountId: p.uuid().primary(),
    seenAt: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    appointment: () => p.manyToOne(AppointmentEntity).joinColumn('appointment_id').persist(false).nullable(),
  },
});

/** A way of drawing the Daybook. */
export const DaybookViewEntity = defineEntity({
  name: 'DaybookView',
  tableName: 'daybook_view',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    scope: p.text().$type<ViewScope>(),
    accountId: p.uuid().nullable(),
    siteId: p.uuid().nullable(),
    hotkey: p.smallint().nullable(),
    settings: p.json().$type<ViewSettings>(),
    position: p.integer(),
    removedAt: p.datetime().nullable(),
    version: p.integer().default(1),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type DaybookView = Row<typeof DaybookViewEntity>;

/** With which one a role begins. */
export const DaybookViewDefaultEntity = defineEntity({
  name: 'DaybookViewDefault',
  tableName: 'daybook_view_default',
  properties: {
    role: p.text().$type<Role>().primary(),
    viewId: p.uuid(),
    view: () => p.manyToOne(DaybookViewEntity).joinColumn('view_id').persist(false).nullable(),
  },
});
