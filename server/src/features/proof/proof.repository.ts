import type { SqlEntityManager } from '@mikro-orm/postgresql';

/** Notes that a puzzle was used; says whether it was not before. Those that have run out are forgotten. */
export async function spend(
  em: SqlEntityManager,
  proof: { signature: string; expiresAt: Date; now: Date },
): Promise<boolean> {
  // Those that another call is clearing are left to it: two must never wait for each other here.
  await em.execute(
    'delete from spent_proof where signature in (select signature from spent_proof where expires_at < ? limit 50 for update skip locked)',
    [proof.now],
  );
  const rows = await em.execute<unknown[]>(
    'insert into spent_proof (signature, expires_at) values (?, ?) on conflict do nothing returning 1',
    [proof.signature, proof.expiresAt],
  );
  return rows.length > 0;
}

/** Times that are kept for other browsers at one address: a browser's own next choice gives its last one back. */
export async function liveHoldsOfAddress(
  em: SqlEntityManager,
  address: Buffer,
  browser: Buffer,
  now: Date,
): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    'select count(*)::int as n from hold where address_hash = ? and browser_hash <> ? and expires_at > ?',
    [address, browser, now],
  );
  return row.n;
}
