import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { PoolEntity, ResourceEntity } from '../../schema/index.ts';

/** Whether a person may change their own hours: the manager says so in set-up. */
export async function mayEditOwnHours(em: SqlEntityManager, resourceId: string): Promise<boolean> {
  const row = await findRow(em, ResourceEntity, { id: resourceId }, { fields: ['mayEditOwnHours'] });
  return row?.mayEditOwnHours ?? false;
}

/** Names of everyone and everything, pools too, by id. */
export async function namesOf(em: SqlEntityManager): Promise<Map<string, string>> {
  const resources = await findRows(em, ResourceEntity, {}, { fields: ['id', 'name'] });
  const pools = await findRows(em, PoolEntity, {}, { fields: ['id', 'kind'] });
  return new Map([
    ...resources.map(({ id, name }): [string, string] => [id, name]),
    ...pools.map(({ id, kind }): [string, string] => [id, kind]),
  ]);
}
