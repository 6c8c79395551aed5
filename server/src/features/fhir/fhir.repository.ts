import { findRows } from '../../platform/db/read.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { HoldEntity } from '../../schema/index.ts';

/** What is only held. */
export async function holdIds(em: SqlEntityManager, now: Date): Promise<Set<string>> {
  const rows = await findRows(em, HoldEntity, { expiresAt: { $gt: now } }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
}
