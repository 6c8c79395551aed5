import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** Whether a browser keeps a time now. */
export async function hasLiveHold(em: SqlEntityManager, browserHash: Buffer, now: Date): Promise<boolean> {
  const rows = await em.execute<unknown[]>('select 1 from hold where browser_hash = ? and expires_at > ?', [
    browserHash,
    now,
  ]);
  return rows.length > 0;
}

/** The browser has shown that it reads what is sent to a number or address: its hold counts as somebody's from now on. */
export async function proveHold(em: SqlEntityManager, browserHash: Buffer, at: Date): Promise<void> {
  await em.execute('update hold set proved_at = ? where browser_hash = ?', [at, browserHash]);
}
