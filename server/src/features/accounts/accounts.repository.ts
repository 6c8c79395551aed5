import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { READ } from '../../platform/db/read.ts';
import { type Account, AccountEntity, AccountSiteEntity } from '../../schema/index.ts';

export function findActiveByEmail(em: SqlEntityManager, email: string): Promise<Account | null> {
  return em.findOne(AccountEntity, { email: email.toLowerCase(), active: true }, READ);
}

export function demoAccountsOf(em: SqlEntityManager): Promise<Account[]> {
  return em.find(AccountEntity, { demo: true, active: true }, { ...READ, orderBy: { createdAt: 'asc' } });
}

/** The sites an account is bound to; `null` when it is bound to none and may see all. */
export async function sitesOf(em: SqlEntityManager, accountId: string): Promise<string[] | null> {
  const rows = await em.find(AccountSiteEntity, { accountId }, READ);
  return rows.length ? rows.map(({ siteId }) => siteId) : null;
}
