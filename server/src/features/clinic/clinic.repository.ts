import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { type Clinic, ClinicEntity, type Site, SiteEntity } from '../../schema/index.ts';

export async function clinicRow(em: SqlEntityManager): Promise<Clinic> {
  const row = await findRow(em, ClinicEntity, {});
  if (!row) throw new Error('This database holds no clinic.');
  return row;
}

export function siteRows(em: SqlEntityManager): Promise<Site[]> {
  return findRows(em, SiteEntity, { active: true }, { orderBy: { sortOrder: 'asc', name: 'asc' } });
}

/** A site's IANA zone; `null` if there is no such site. */
export async function timeZoneOf(em: SqlEntityManager, siteId: string): Promise<string | null> {
  return (await findRow(em, SiteEntity, { id: siteId }, { fields: ['timeZone'] }))?.timeZone ?? null;
}

/** One site. @throws Error if there is none: whoever asks has checked */
export async function siteOf(em: SqlEntityManager, id: string): Promise<Site> {
  const site = await findRow(em, SiteEntity, { id });
  if (!site) throw new Error('A site that is not there.');
  return site;
}
