import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type Account, AccountEntity } from './accounts.entities.ts';

export function findActiveByEmail(em: SqlEntityManager, email: string): Promise<Account | null> {
  return em.findOne(AccountEntity, { email: email.toLowerCase(), active: true });
}

export function demoAccountsOf(em: SqlEntityManager): Promise<Account[]> {
  return em.find(AccountEntity, { demo: true, active: true }, { orderBy: { createdAt: 'asc' } });
}

/** The sites an account is bound to; `null` when it is bound to none and may see all. */
export async function sitesOf(em: SqlEntityManager, accountId: string): Promise<string[] | null> {
  const rows = await em.execute<{ site_id: string }[]>('select site_id from account_site where account_id = ?', [
    accountId,
  ]);
  return rows.length ? rows.map((row) => row.site_id) : null;
}

/** Whether an account was signed in from this device before. */
export async function isKnownDevice(em: SqlEntityManager, accountId: string, tokenHash: Buffer): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    'update known_device set last_used_at = clock_timestamp() where token_hash = ? and account_id = ? returning 1',
    [tokenHash, accountId],
  );
  return rows.length > 0;
}

export async function recordDevice(em: SqlEntityManager, accountId: string, tokenHash: Buffer): Promise<void> {
  await em.execute(
    'insert into known_device (token_hash, account_id, since, last_used_at) values (?, ?, clock_timestamp(), clock_timestamp()) on conflict do nothing',
    [tokenHash, accountId],
  );
}
