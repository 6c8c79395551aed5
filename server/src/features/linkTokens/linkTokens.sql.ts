import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { hashOfToken, tokenOf } from './tokens.ts';

/** Links in messages live until the visit's end + 24 h. */
const AFTER_END_MS = 24 * 3_600_000;

const ENSURE = statement<{ id: string; visitId: string; hash: Buffer; expires: Date }, { id: string }>(
  'inserted unless it is there, and its id either way, in one trip',
  `insert into link_token (id, kind, subject_id, token_hash, expires_at) values (:id, 'visit', :visitId, :hash, :expires)
   on conflict (kind, subject_id) do update set expires_at = excluded.expires_at returning id`,
);

/** The visit's link, made with the visit; its token's hash is all that is kept. */
export async function ensureLink(
  em: SqlEntityManager,
  visit: { id: string; endsAt: Date },
  newId: string,
  secret: string,
): Promise<string> {
  const [{ id }] = await rowsOf(em, ENSURE, {
    id: newId,
    visitId: visit.id,
    hash: hashOfToken(tokenOf(newId, secret)),
    expires: new Date(visit.endsAt.getTime() + AFTER_END_MS),
  });
  return id;
}
