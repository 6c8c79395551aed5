import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { PersonDoc } from '@zaguan/contracts/setup';
import { findRow, findRows } from '../../platform/db/read.ts';
import { putRows, replaceRows } from '../../platform/db/write.ts';
import { ProviderEntity, ResourceEntity, ResourceSiteEntity } from '../../schema/index.ts';

export async function writePerson(em: SqlEntityManager, id: string, doc: PersonDoc): Promise<void> {
  const { kind, name, shortName, color, capabilities, bookableOnline, shownInDaybook, mayEditOwnHours, sortOrder } =
    doc;
  const { credentials, specialty, npi, licenses, languages, acceptsNew, bioEn, bioEs, publicNameEs } = doc;
  await putRows(em, ResourceEntity, [
    {
      ...{ id, kind, name, shortName, color, capabilities, bookableOnline, shownInDaybook, mayEditOwnHours, sortOrder },
      ...{ leftOutOfMessages: false, singleDevice: false, places: 1, active: true },
    },
  ]);
  await putRows(em, ProviderEntity, [
    { resourceId: id, credentials, specialty, npi, licenses, languages, acceptsNew, bioEn, bioEs, publicNameEs },
  ]);
  await replaceRows(
    em,
    ResourceSiteEntity,
    { resourceId: id },
    doc.siteIds.map((siteId) => ({ resourceId: id, siteId })),
  );
}

export async function setResourcesActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(ResourceEntity, { id: { $in: [...ids] } }, { active });
}

/** Whoever else has this NPI. */
export async function npiHolder(em: SqlEntityManager, npi: string, otherThan: string): Promise<string | null> {
  const row = await findRow(em, ProviderEntity, { npi, resourceId: { $ne: otherThan } }, { populate: ['resource'] });
  return row?.resource?.name ?? null;
}

/** Kind and sites of a resource, if there is one. */
export async function resourceBrief(
  em: SqlEntityManager,
  id: string,
): Promise<{ kind: string; name: string; siteIds: string[] } | null> {
  const resource = await findRow(em, ResourceEntity, { id }, { fields: ['kind', 'name'] });
  if (!resource) return null;
  const sites = await findRows(em, ResourceSiteEntity, { resourceId: id });
  return { kind: resource.kind, name: resource.name, siteIds: sites.map(({ siteId }) => siteId) };
}
