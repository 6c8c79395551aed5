import { createHash, createHmac } from 'node:crypto';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

/** Links in messages live until the visit's end + 24 h. */
const AFTER_END_MS = 24 * 3_600_000;

/** The token of a link, made again from its id whenever a message needs it: it is stored nowhere. */
export function tokenOf(linkId: string, secret: string): string {
  return createHmac('sha256', secret).update(`visit-link:${linkId}`).digest('base64url');
}

/** The n-th six-figure code of a verification, made again from its id like a link's token: it is stored nowhere. */
export function codeOf(verificationId: string, n: number, secret: string): string {
  const digest = createHmac('sha256', secret).update(`code:${verificationId}:${n}`).digest();
  return String(digest.readUInt32BE(0) % 1_000_000).padStart(6, '0');
}

export function hashOfToken(token: string): Buffer {
  return createHash('sha256').update(token).digest();
}

/** The visit's link, made with the visit; its token's hash is all that is kept. */
export async function ensureLink(
  em: SqlEntityManager,
  visit: { id: string; endsAt: Date },
  newId: string,
  secret: string,
): Promise<string> {
  const expires = new Date(visit.endsAt.getTime() + AFTER_END_MS);
  const rows = await em.execute<{ id: string }[]>(
    `insert into visit_link (id, appointment_id, token_hash, expires_at) values (?, ?, ?, ?)
     on conflict (appointment_id) do update set expires_at = excluded.expires_at returning id`,
    [newId, visit.id, hashOfToken(tokenOf(newId, secret)), expires],
  );
  return rows[0].id;
}
