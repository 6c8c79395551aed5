import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import {
  type CalendarFeed,
  CalendarFeedEntity,
  ResourceEntity,
  ResourceSiteEntity,
  type Site,
  TimeOffEntity,
} from '../../schema/index.ts';

export type FeedRow = Pick<CalendarFeed, 'id' | 'resourceId' | 'detailed' | 'createdAt' | 'lastReadAt'> & {
  /** Of who made it. */
  readonly name: string;
};

export async function resourceName(em: SqlEntityManager, id: string): Promise<string | null> {
  return (await findRow(em, ResourceEntity, { id, active: true }, { fields: ['name'] }))?.name ?? null;
}

async function feeds(em: SqlEntityManager, where: { id?: string; resourceId?: string; revokedAt?: null }) {
  const rows = await findRows(em, CalendarFeedEntity, where, {
    populate: ['createdByAccount'],
    orderBy: { createdAt: 'asc' },
  });
  return rows.map((row): FeedRow => ({ ...row, name: row.createdByAccount.name }));
}

export function feedsOf(em: SqlEntityManager, resourceId: string): Promise<FeedRow[]> {
  return feeds(em, { resourceId, revokedAt: null });
}

export async function feedById(em: SqlEntityManager, id: string): Promise<FeedRow | null> {
  const [row] = await feeds(em, { id });
  return row ?? null;
}

export function insertFeed(
  em: SqlEntityManager,
  feed: { id: string; resourceId: string; tokenHash: Buffer; detailed: boolean; at: Date; accountId: string },
): Promise<void> {
  const { at, accountId, ...row } = feed;
  return insertRow(em, CalendarFeedEntity, { ...row, createdAt: at, createdBy: accountId });
}

/** Ends a feed, or opens it again. Says whether that changed anything. */
export async function setRevoked(em: SqlEntityManager, id: string, at: Date | null): Promise<boolean> {
  const changed = await em.nativeUpdate(
    CalendarFeedEntity,
    { id, revokedAt: at ? null : { $ne: null } },
    { revokedAt: at },
  );
  return changed > 0;
}

/** The feed of a token's hash, noted as read. */
export async function feedRead(em: SqlEntityManager, tokenHash: Buffer, at: Date): Promise<FeedRow | null> {
  const feed = await findRow(
    em,
    CalendarFeedEntity,
    { tokenHash, revokedAt: null, resource: { active: true } },
    { fields: ['id'] },
  );
  if (!feed) return null;
  await em.nativeUpdate(CalendarFeedEntity, { id: feed.id }, { lastReadAt: at });
  return feedById(em, feed.id);
}

/** Sites a resource is at, with their zones. */
export async function sitesOf(em: SqlEntityManager, resourceId: string): Promise<Pick<Site, 'id' | 'timeZone'>[]> {
  const rows = await findRows(
    em,
    ResourceSiteEntity,
    { resourceId, site: { active: true } },
    { populate: ['site'], orderBy: { site: { sortOrder: 'asc' } } },
  );
  return rows.flatMap(({ site }) => (site ? [{ id: site.id, timeZone: site.timeZone }] : []));
}

/** Time off that stands, as texts to compare with. */
export async function knownTimeOff(em: SqlEntityManager, resourceId: string): Promise<Set<string>> {
  const rows = await findRows(em, TimeOffEntity, { resourceId, status: 'approved' });
  return new Set(
    rows.map((row) => [row.siteId ?? '', row.startDate, row.startMinute, row.endDate, row.endMinute].join(' ')),
  );
}
