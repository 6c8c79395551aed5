import { randomUUID } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { SiteDoc } from '@zaguan/contracts/setup';
import { findRows } from '../../platform/db/read.ts';
import { insertRows, putRows, replaceRows } from '../../platform/db/write.ts';
import { ClosureEntity, SiteEntity, SiteHoursEntity, SiteTravelEntity } from '../../schema/index.ts';

export async function writeSite(em: SqlEntityManager, id: string, doc: SiteDoc): Promise<void> {
  const { hours, closures, travel, ...site } = doc;
  await putRows(em, SiteEntity, [{ ...site, id }]);
  await replaceRows(
    em,
    SiteHoursEntity,
    { siteId: id },
    // The week in which they begin is one in which they hold.
    hours.map((row) => ({ ...row, id: randomUUID(), siteId: id, anchorDate: row.effectiveFrom })),
  );
  await replaceRows(
    em,
    ClosureEntity,
    { siteId: id },
    closures.map((row) => ({ ...row, id: randomUUID(), siteId: id })),
  );
  await em.nativeDelete(SiteTravelEntity, { $or: [{ fromSiteId: id }, { toSiteId: id }] });
  await insertRows(
    em,
    SiteTravelEntity,
    // The way back takes as long.
    travel.flatMap(({ siteId, minutes }) => [
      { fromSiteId: id, toSiteId: siteId, minutes },
      { fromSiteId: siteId, toSiteId: id, minutes },
    ]),
  );
}

/** Ids of all sites, archived ones too. */
export async function siteIds(em: SqlEntityManager): Promise<Set<string>> {
  return new Set((await findRows(em, SiteEntity, {}, { fields: ['id'] })).map(({ id }) => id));
}
