import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { type Account, AccountEntity, AccountSiteEntity } from '../../schema/index.ts';

export function findActiveByEmail(em: SqlEntityManager, email: string): Promise<Account | null> {
  return findRow(em, AccountEntity, { email: email.toLowerCase(), active: true });
}

export function demoAccountsOf(em: SqlEntityManager): Promise<Account[]> {
  return findRows(em, AccountEntity, { demo: true, active: true }, { orderBy: { createdAt: 'asc' } });
}

/** The sites an account is bound to; `null` when it is bound to none and may see all. */
export async function sitesOf(em: SqlEntityManager, accountId: string): Promise<string[] | null> {
  const rows = await findRows(em, AccountSiteEntity, { accountId });
  return rows.length ? rows.map(({ siteId }) => siteId) : null;
}
