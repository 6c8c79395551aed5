import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRows } from '../../platform/db/read.ts';
import { HoldEntity } from '../../schema/index.ts';

/** What a booking at the desk holds itself, if this account is at it. */
export async function heldIds(em: SqlEntityManager, flowId: string, accountId: string): Promise<string[]> {
  const rows = await findRows(em, HoldEntity, { flowId, accountId }, { fields: ['id'], orderBy: { id: 'asc' } });
  return rows.map(({ id }) => id);
}
