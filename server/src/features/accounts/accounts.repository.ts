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

/** Counts a wrong password at once, also when two come together. Returns the count. */
export async function countFailure(em: SqlEntityManager, accountId: string): Promise<number> {
  const rows = await em.execute<{ failed_sign_ins: number }[]>(
    'update account set failed_sign_ins = failed_sign_ins + 1 where id = ? returning failed_sign_ins',
    [accountId],
  );
  return rows[0].failed_sign_ins;
}

export async function setLock(em: SqlEntityManager, accountId: string, until: Date | null): Promise<void> {
  await em.execute('update account set failed_sign_ins = 0, locked_until = ? where id = ?', [until, accountId]);
}
