import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface VerificationRow {
  id: string;
  sends: number;
  wrong_tries: number;
  sent_at: string | null;
  verified_at: string | null;
  locked_until: string | null;
}

/** The row of this browser and number, made if it is new and kept from a second call at the same time. */
export async function verificationFor(
  em: SqlEntityManager,
  newId: string,
  browserHash: Buffer,
  contact: string,
): Promise<VerificationRow> {
  await em.execute(
    'insert into contact_verification (id, browser_hash, contact) values (?, ?, ?) on conflict do nothing',
    [newId, browserHash, contact],
  );
  const [row] = await em.execute<VerificationRow[]>(
    'select id, sends, wrong_tries, sent_at, verified_at, locked_until from contact_verification where browser_hash = ? and contact = ? for update',
    [browserHash, contact],
  );
  return row;
}

export async function saveVerification(
  em: SqlEntityManager,
  row: {
    id: string;
    sends: number;
    wrongTries: number;
    sentAt: Date | null;
    verifiedAt: Date | null;
    lockedUntil: Date | null;
  },
): Promise<void> {
  await em.execute(
    'update contact_verification set sends = ?, wrong_tries = ?, sent_at = ?, verified_at = ?, locked_until = ? where id = ?',
    [row.sends, row.wrongTries, row.sentAt, row.verifiedAt, row.lockedUntil, row.id],
  );
}

/** How many browsers had a code sent to this number since an instant. */
export async function sentToNumberSince(em: SqlEntityManager, contact: string, since: Date): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    'select count(*)::int as n from contact_verification where contact = ? and sent_at > ?',
    [contact, since],
  );
  return row.n;
}

export async function verifiedSince(
  em: SqlEntityManager,
  browserHash: Buffer,
  contact: string,
  since: Date,
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'select 1 from contact_verification where browser_hash = ? and contact = ? and verified_at > ?',
    [browserHash, contact, since],
  );
  return rows.length > 0;
}
