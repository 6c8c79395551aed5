import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { ScheduleEdit } from '@zaguan/core/schedule';

export interface DraftRow {
  readonly id: string;
  readonly name: string;
  readonly edits: ScheduleEdit[];
  readonly version: number;
  readonly created_at: string;
  readonly created_by: string;
}

const DRAFT =
  'select d.id, d.name, d.edits, d.version, d.created_at, a.name as created_by from schedule_draft d join account a on a.id = d.created_by where d.published_at is null';

export function openDrafts(em: SqlEntityManager): Promise<DraftRow[]> {
  return em.execute(`${DRAFT} order by d.created_at`);
}

export async function draftById(em: SqlEntityManager, id: string, forUpdate = false): Promise<DraftRow | null> {
  const [row] = await em.execute<DraftRow[]>(`${DRAFT} and d.id = ? ${forUpdate ? 'for update of d' : ''}`, [id]);
  return row ?? null;
}

export async function insertDraft(
  em: SqlEntityManager,
  draft: { id: string; name: string; edits: readonly ScheduleEdit[]; at: Date; accountId: string },
): Promise<void> {
  await em.execute(
    'insert into schedule_draft (id, name, edits, created_at, created_by) values (?, ?, ?::jsonb, ?, ?)',
    [draft.id, draft.name, JSON.stringify(draft.edits), draft.at, draft.accountId],
  );
}

export async function writeDraft(em: SqlEntityManager, id: string, edits: readonly ScheduleEdit[]): Promise<void> {
  await em.execute('update schedule_draft set edits = ?::jsonb, version = version + 1 where id = ?', [
    JSON.stringify(edits),
    id,
  ]);
}

export async function deleteDraft(em: SqlEntityManager, id: string): Promise<void> {
  await em.execute('delete from schedule_draft where id = ?', [id]);
}

/** Marks a draft as in force, or open again. */
export async function setPublished(
  em: SqlEntityManager,
  id: string,
  by: { at: Date; accountId: string },
): Promise<void> {
  await em.execute('update schedule_draft set published_at = ?, published_by = ?, version = version + 1 where id = ?', [
    by.at,
    by.accountId,
    id,
  ]);
}
