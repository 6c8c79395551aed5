import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import { findRow, findRows } from '../../platform/db/read.ts';
import { putRows } from '../../platform/db/write.ts';
import { ResourceEntity, SiteEntity, VisitTypeEntity, InvitationTemplateEntity } from '../../schema/index.ts';
import type { Stored } from '../setup/index.ts';

const byIds = (ids: readonly string[] | null) => (ids === null ? {} : { id: { $in: [...ids] } });

export async function readTemplates(
  em: SqlEntityManager,
  ids: readonly string[] | null,
): Promise<Stored<InvitationTemplateDoc>[]> {
  const rows = await findRows(em, InvitationTemplateEntity, byIds(ids), {
    orderBy: { sortOrder: 'asc', name: 'asc', id: 'asc' },
  });
  return rows.map(({ id, active, rules, ...doc }) => ({
    id,
    active,
    // What it holds was checked when it was saved.
    doc: {
      name: doc.name,
      ...rules,
      reason: doc.reason,
      words: doc.words,
      sortOrder: doc.sortOrder,
    } as InvitationTemplateDoc,
  }));
}

export async function writeTemplate(
  em: SqlEntityManager,
  id: string,
  { name, reason, words, sortOrder, ...rules }: InvitationTemplateDoc,
  before: Stored<InvitationTemplateDoc> | null,
): Promise<void> {
  await putRows(em, InvitationTemplateEntity, [
    { id, name, rules, reason, words, sortOrder, active: before?.active ?? true },
  ]);
}

export async function setTemplatesActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(InvitationTemplateEntity, { id: { $in: [...ids] } }, { active });
}

export const templateRow = (em: SqlEntityManager, id: string) => findRow(em, InvitationTemplateEntity, { id });

export const templatesInUse = (em: SqlEntityManager) => findRows(em, InvitationTemplateEntity, { active: true });

/** Which of these stand: a type and a site by whether they are archived, a provider by being one. */
export async function standing(
  em: SqlEntityManager,
  kind: 'type' | 'site' | 'provider',
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  const where = { id: { $in: [...ids] }, active: true };
  const rows =
    kind === 'type'
      ? await findRows(em, VisitTypeEntity, where, { fields: ['id'] })
      : kind === 'site'
        ? await findRows(em, SiteEntity, where, { fields: ['id'] })
        : await findRows(em, ResourceEntity, { ...where, kind: 'provider' }, { fields: ['id'] });
  return new Set(rows.map(({ id }) => id));
}
