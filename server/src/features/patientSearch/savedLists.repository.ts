import { findRow, findRows } from '../../platform/db/read.ts';
import { insertRow } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type PatientList, PatientListEntity } from '../../schema/index.ts';

/** The lists that an account has saved, by name. */
export function savedListRows(em: SqlEntityManager, accountId: string): Promise<PatientList[]> {
  return findRows(em, PatientListEntity, { accountId }, { orderBy: { name: 'asc' } });
}

/** Saves a list; one of the same name is written over. Gives its id. */
export async function putSavedList(em: SqlEntityManager, list: PatientList): Promise<string> {
  const { accountId, name, query } = list;
  const there = await findRow(em, PatientListEntity, { accountId, name }, { fields: ['id'] });
  if (!there) {
    await insertRow(em, PatientListEntity, list);
    return list.id;
  }
  await em.nativeUpdate(PatientListEntity, { id: there.id }, { query });
  return there.id;
}

/** Deletes a list of an account; whether there was one. */
export async function deleteSavedList(em: SqlEntityManager, accountId: string, id: string): Promise<boolean> {
  return (await em.nativeDelete(PatientListEntity, { id, accountId })) > 0;
}
