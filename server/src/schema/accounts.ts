import { defineEntity, p } from '@mikro-orm/core';
import type { Role } from '@zaguan/contracts';
import { ResourceEntity, SiteEntity } from './clinic.ts';
import type { Row } from './rows.ts';

/** Someone who signs in. Without a password until they accept their invitation. */
export const AccountEntity = defineEntity({
  name: 'Account',
  tableName: 'account',
  properties: {
    id: p.uuid().primary(),
    email: p.text().unique(),
    name: p.text(),
    role: p.text().$type<Role>(),
    passwordHash: p.text().nullable(),
    resourceId: p.uuid().nullable(),
    demo: p.boolean().default(false),
    active: p.boolean().default(true),
    inviteHash: p.blob().$type<Buffer>().nullable().unique(),
    inviteUntil: p.datetime().nullable(),
    createdAt: p.datetime(),
    resource: () => p.manyToOne(ResourceEntity).joinColumn('resource_id').persist(false).nullable(),
  },
});
export type Account = Row<typeof AccountEntity>;

/** The sites an account is bound to; without any row: all sites. */
export const AccountSiteEntity = defineEntity({
  name: 'AccountSite',
  tableName: 'account_site',
  properties: {
    accountId: p.uuid().primary(),
    siteId: p.uuid().primary(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    site: () => p.manyToOne(SiteEntity).joinColumn('site_id').persist(false).nullable(),
  },
});
export type AccountSite = Row<typeof AccountSiteEntity>;

/** A device from which an account was signed in before. Only the hash of its cookie is kept. */
export const KnownDeviceEntity = defineEntity({
  name: 'KnownDevice',
  tableName: 'known_device',
  properties: {
    tokenHash: p.blob().$type<Buffer>().primary(),
    accountId: p.uuid(),
    since: p.datetime(),
    lastUsedAt: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable().deleteRule('cascade'),
  },
});
export type KnownDevice = Row<typeof KnownDeviceEntity>;

/** The inverse of something that was done, for a day. */
export const UndoEntryEntity = defineEntity({
  name: 'UndoEntry',
  tableName: 'undo_entry',
  properties: {
    id: p.uuid().primary(),
    accountId: p.uuid(),
    command: p.text(),
    input: p.json<Record<string, unknown>>(),
    label: p.json<Record<string, string>>(),
    createdAt: p.datetime(),
    expiresAt: p.datetime(),
    undoneAt: p.datetime().nullable(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
  },
});
export type UndoEntry = Row<typeof UndoEntryEntity>;

/** The version of a record of set-up. Without a row: as it was loaded. */
export const SetupRecordEntity = defineEntity({
  name: 'SetupRecord',
  tableName: 'setup_record',
  properties: {
    id: p.uuid().primary(),
    kind: p.text(),
    version: p.integer(),
    changedAt: p.datetime(),
    changedBy: p.uuid().nullable(),
    changedByAccount: () => p.manyToOne(AccountEntity).joinColumn('changed_by').persist(false).nullable(),
  },
});
export type SetupRecord = Row<typeof SetupRecordEntity>;
