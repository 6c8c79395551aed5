import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { Role } from '@zaguan/contracts';
import { isTwice } from '../../platform/db/failures.ts';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew, putRows } from '../../platform/db/write.ts';
import { type DaybookView, DaybookViewDefaultEntity, DaybookViewEntity } from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

/** Whose list one stands in. */
export type Whose = Pick<DaybookView, 'scope' | 'accountId' | 'siteId'>;

/** Those that stand, of everyone, of all sites, and of one account, in the order of each list. */
export function viewRows(em: SqlEntityManager, accountId: string): Promise<DaybookView[]> {
  return findRows(
    em,
    DaybookViewEntity,
    { removedAt: null, $or: [{ accountId: null }, { accountId }] },
    { orderBy: [{ position: 'asc' }, { name: 'asc' }, { id: 'asc' }] },
  );
}

export function viewsOf(em: SqlEntityManager, { scope, accountId, siteId }: Whose): Promise<DaybookView[]> {
  return findRows(em, DaybookViewEntity, { scope, accountId, siteId, removedAt: null });
}

/** The rows in the order of their ids, locked. */
export function viewsForUpdate(em: SqlEntityManager, ids: readonly string[]): Promise<DaybookView[]> {
  return findRows(
    em,
    DaybookViewEntity,
    { id: { $in: [...ids] }, removedAt: null },
    { ...FOR_UPDATE, orderBy: { id: 'asc' } },
  );
}

export function viewForUpdate(em: SqlEntityManager, id: string): Promise<DaybookView | null> {
  return findRow(em, DaybookViewEntity, { id }, FOR_UPDATE);
}

/** @returns `false` where its key is taken in its list */
export function insertView(em: SqlEntityManager, row: Omit<DaybookView, 'version' | 'removedAt'>): Promise<boolean> {
  return insertIfNew(em, DaybookViewEntity, row);
}

/** @returns the version that it has now; or that another one of its list has its key, at this very moment */
export async function updateView(
  em: SqlEntityManager,
  { id, version }: Pick<DaybookView, 'id' | 'version'>,
  to: Partial<Omit<DaybookView, 'id' | 'version'>>,
): Promise<number | 'hotkey-taken'> {
  try {
    await em.nativeUpdate(DaybookViewEntity, { id }, { ...to, version: version + 1 });
    return version + 1;
  } catch (error) {
    if (isTwice(error)) return 'hotkey-taken';
    throw error;
  }
}

export async function putInOrder(em: SqlEntityManager, ids: readonly string[]): Promise<void> {
  for (const [position, id] of ids.entries()) await em.nativeUpdate(DaybookViewEntity, { id }, { position });
}

export function defaultRows(em: SqlEntityManager) {
  return findRows(em, DaybookViewDefaultEntity, {}, { orderBy: { role: 'asc' } });
}

export async function putDefault(em: SqlEntityManager, role: Role, viewId: string | null): Promise<void> {
  if (viewId === null) await em.nativeDelete(DaybookViewDefaultEntity, { role });
  else await putRows(em, DaybookViewDefaultEntity, [{ role, viewId }]);
}
