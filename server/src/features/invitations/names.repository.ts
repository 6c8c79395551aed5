import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { PatientEntity, ProviderEntity, ResourceEntity, SiteEntity, VisitTypeEntity } from '../../schema/index.ts';

type Language = 'en' | 'es';
interface Named {
  readonly id: string;
  readonly name: string;
}

export const patientRow = (em: SqlEntityManager, id: string) => findRow(em, PatientEntity, { id });

/** Visit types as patients know them; archived ones are none. */
export async function typeNames(em: SqlEntityManager, ids: readonly string[], language: Language): Promise<Named[]> {
  const rows = await findRows(
    em,
    VisitTypeEntity,
    { id: { $in: [...ids] }, active: true },
    { orderBy: { publicNameEn: 'asc' } },
  );
  return rows.map(({ id, publicNameEn, publicNameEs }) => ({
    id,
    name: language === 'es' ? publicNameEs : publicNameEn,
  }));
}

export async function siteNames(
  em: SqlEntityManager,
  ids: readonly string[] | null,
): Promise<(Named & { address: string; timeZone: string })[]> {
  const where = ids === null ? { active: true } : { id: { $in: [...ids] }, active: true };
  const rows = await findRows(em, SiteEntity, where, { orderBy: { sortOrder: 'asc', name: 'asc' } });
  return rows.map(({ id, publicName, addressLine, city, timeZone }) => ({
    ...{ id, name: publicName, timeZone },
    address: `${addressLine}, ${city}`,
  }));
}

/** Providers as patients know them in their language. */
export async function providerNames(
  em: SqlEntityManager,
  ids: readonly string[],
  language: Language,
): Promise<Named[]> {
  const rows = await findRows(em, ResourceEntity, { id: { $in: [...ids] } }, { orderBy: { name: 'asc' } });
  const spanish = new Map(
    language === 'es'
      ? (await findRows(em, ProviderEntity, { resourceId: { $in: [...ids] } })).map((each) => [
          each.resourceId,
          each.publicNameEs,
        ])
      : [],
  );
  return rows.map(({ id, name }) => ({ id, name: spanish.get(id) || name }));
}
