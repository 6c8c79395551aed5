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

/** Codes sent since an instant (real time), to all numbers and addresses together. */
export async function codesSentSince(em: SqlEntityManager, since: Date): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    'select coalesce(sum(sends), 0)::int as n from contact_verification where sent_at > ?',
    [since],
  );
  return row.n;
}

/** Other numbers and addresses that a browser had codes sent to since an instant. */
export async function numbersOfBrowser(
  em: SqlEntityManager,
  browserHash: Buffer,
  since: Date,
  otherThan: string,
): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    'select count(*)::int as n from contact_verification where browser_hash = ? and sent_at > ? and contact <> ?',
    [browserHash, since, otherThan],
  );
  return row.n;
}

export async function textSettings(em: SqlEntityManager): Promise<{ countries: string[]; budget: number }> {
  const [row] = await em.execute<{ countries: string[]; budget: number }[]>(
    'select to_json(text_countries) as countries, codes_per_day as budget from clinic',
  );
  return row;
}

/** @param contact any of them where `null` */
export async function verifiedSince(
  em: SqlEntityManager,
  browserHash: Buffer,
  contact: string | null,
  since: Date,
): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'select 1 from contact_verification where browser_hash = ? and contact = coalesce(?, contact) and verified_at > ?',
    [browserHash, contact, since],
  );
  return rows.length > 0;
}
