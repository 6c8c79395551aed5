import { LockMode, raw, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { ScheduleEdit } from '@zaguan/core/schedule';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import { type ScheduleDraft, ScheduleDraftEntity } from '../../schema/index.ts';

export type DraftRow = Pick<ScheduleDraft, 'id' | 'name' | 'edits' | 'version' | 'createdAt'> & {
  /** The name of who began it. */
  readonly createdBy: string;
};

const OPEN = { publishedAt: null };

export async function openDrafts(em: SqlEntityManager, where: { id?: string } = {}): Promise<DraftRow[]> {
  const rows = await findRows(
    em,
    ScheduleDraftEntity,
    { ...OPEN, ...where },
    { populate: ['createdByAccount'], orderBy: { createdAt: 'asc' } },
  );
  return rows.map((row) => ({ ...row, createdBy: row.createdByAccount.name }));
}

export async function draftById(em: SqlEntityManager, id: string, forUpdate = false): Promise<DraftRow | null> {
  if (forUpdate)
    await findRow(em, ScheduleDraftEntity, { ...OPEN, id }, { fields: ['id'], lockMode: LockMode.PESSIMISTIC_WRITE });
  const [row] = await openDrafts(em, { id });
  return row ?? null;
}

export function insertDraft(
  em: SqlEntityManager,
  draft: { id: string; name: string; edits: readonly ScheduleEdit[]; at: Date; accountId: string },
): Promise<void> {
  const { id, name, edits, at, accountId } = draft;
  return insertRow(em, ScheduleDraftEntity, { id, name, edits: [...edits], createdAt: at, createdBy: accountId });
}

/** The next version of a row that its transaction has locked. */
const NEXT_VERSION = () => raw('version + 1');

export async function writeDraft(em: SqlEntityManager, id: string, edits: readonly ScheduleEdit[]): Promise<void> {
  await em.nativeUpdate(ScheduleDraftEntity, { id }, { edits: [...edits], version: NEXT_VERSION() });
}

export async function deleteDraft(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(ScheduleDraftEntity, { id });
}

/** Marks a draft as in force. */
export async function setPublished(
  em: SqlEntityManager,
  id: string,
  by: { at: Date; accountId: string },
): Promise<void> {
  await em.nativeUpdate(
    ScheduleDraftEntity,
    { id },
    { publishedAt: by.at, publishedBy: by.accountId, version: NEXT_VERSION() },
  );
}
