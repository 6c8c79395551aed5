import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { insertIfNew } from '../../platform/db/write.ts';
import { HoldEntity, SpentProofEntity } from '../../schema/index.ts';
import { clearSpentProofs } from './proof.sql.ts';

/** Notes that a puzzle was used; says whether it was not before. Those that have run out are forgotten. */
export async function spend(
  em: SqlEntityManager,
  { signature, expiresAt, now }: { signature: string; expiresAt: Date; now: Date },
): Promise<boolean> {
  await clearSpentProofs(em, now);
  return insertIfNew(em, SpentProofEntity, { signature, expiresAt });
}

/** Times that are kept for other browsers at one address: a browser's own next choice gives its last one back. */
export function liveHoldsOfAddress(em: SqlEntityManager, address: Buffer, browser: Buffer, now: Date): Promise<number> {
  return em.count(HoldEntity, { addressHash: address, browserHash: { $ne: browser }, expiresAt: { $gt: now } });
}
