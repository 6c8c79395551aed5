import { rowOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const SENT = statement<{ since: Date }, { n: number }>(
  'a sum',
  'select coalesce(sum(sends), 0)::int as n from contact_verification where sent_at > :since',
);

/** Codes sent since an instant (real time), to all numbers and addresses together. */
export async function codesSentSince(em: SqlEntityManager, since: Date): Promise<number> {
  return (await rowOf(em, SENT, { since }))?.n ?? 0;
}
