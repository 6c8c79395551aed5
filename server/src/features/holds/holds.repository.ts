import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { HoldEntity } from '../../schema/index.ts';

/** Whether a browser keeps a time now. */
export async function hasLiveHold(em: SqlEntityManager, browserHash: Buffer, now: Date): Promise<boolean> {
  return (await em.count(HoldEntity, { browserHash, expiresAt: { $gt: now } })) > 0;
}

/** The browser has shown that it reads what is sent to a number or address: its hold counts as somebody's from now on. */
export async function proveHold(em: SqlEntityManager, browserHash: Buffer, at: Date): Promise<void> {
  await em.nativeUpdate(HoldEntity, { browserHash }, { provedAt: at });
}
