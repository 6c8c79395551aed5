import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { PlaceDoc, PoolDoc } from '@zaguan/contracts/setup';
import { findRows } from '../../platform/db/read.ts';
import { insertIfNew, putRows, replaceRows } from '../../platform/db/write.ts';
import { PoolEntity, PoolMemberEntity, ResourceEntity, ResourceSiteEntity } from '../../schema/index.ts';
import type { Stored } from './saving.ts';

export async function writePlace(
  em: SqlEntityManager,
  id: string,
  doc: PlaceDoc,
  before: Stored<PlaceDoc> | null,
): Promise<void> {
  const { siteId, poolId, ...resource } = doc;
  await putRows(em, ResourceEntity, [
    {
      ...{ ...resource, id, homeSiteId: siteId },
      ...{ capabilities: [], bookableOnline: true, mayEditOwnHours: false, active: true },
    },
  ]);
  await replaceRows(em, ResourceSiteEntity, { resourceId: id }, [{ resourceId: id, siteId }]);
  const left = before?.doc.poolId ?? null;
  if (left === poolId) return;
  if (left) await em.nativeDelete(PoolMemberEntity, { poolId: left, resourceId: id });
  if (!poolId) return;
  const [last] = await findRows(em, PoolMemberEntity, { poolId }, { orderBy: { number: 'desc' }, limit: 1 });
  await insertIfNew(em, PoolMemberEntity, { poolId, resourceId: id, number: (last?.number ?? 0) + 1 });
}

export async function writePool(em: SqlEntityManager, id: string, doc: PoolDoc): Promise<void> {
  const { memberIds, ...pool } = doc;
  await putRows(em, PoolEntity, [{ ...pool, id, active: true }]);
  await replaceRows(
    em,
    PoolMemberEntity,
    { poolId: id },
    memberIds.map((resourceId, i) => ({ poolId: id, resourceId, number: i + 1 })),
  );
}

export async function setPoolsActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(PoolEntity, { id: { $in: [...ids] } }, { active });
}

/** Another pool of that kind at that site. */
export async function poolLike(
  em: SqlEntityManager,
  siteId: string,
  kind: string,
  otherThan: string,
): Promise<boolean> {
  return (await em.count(PoolEntity, { siteId, kind, id: { $ne: otherThan } })) > 0;
}
