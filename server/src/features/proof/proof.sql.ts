import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const CLEAR = statement<{ now: Date }, never>(
  'skips what another call is clearing: two must never wait for each other here',
  'delete from spent_proof where signature in (select signature from spent_proof where expires_at < :now limit 50 for update skip locked)',
);

/** Forgets some of the used puzzles that have run out. */
export async function clearSpentProofs(em: SqlEntityManager, now: Date): Promise<void> {
  await rowsOf(em, CLEAR, { now });
}
