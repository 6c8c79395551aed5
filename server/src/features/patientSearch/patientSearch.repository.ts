import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRows } from '../../platform/db/read.ts';
import { insertRows } from '../../platform/db/write.ts';
import { FormerNameEntity, PatientEntity, type PatientWord, PatientWordEntity } from '../../schema/index.ts';

export interface NamesRow {
  readonly id: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly preferredName: string | null;
  readonly formerNames: readonly { readonly givenName: string; readonly familyName: string }[];
}

/** Patients whose names' words are still to be written, so many at most; not those whom somebody else is at. */
export async function notFindable(em: SqlEntityManager, most: number, id?: string): Promise<NamesRow[]> {
  const rows = await findRows(
    em,
    PatientEntity,
    { isFindable: false, ...(id && { id }) },
    {
      fields: ['id', 'givenName', 'familyName', 'preferredName'],
      orderBy: { id: 'asc' },
      limit: most,
      lockMode: LockMode.PESSIMISTIC_PARTIAL_WRITE,
    },
  );
  if (!rows.length) return [];
  const former = await findRows(em, FormerNameEntity, { patientId: { $in: rows.map(({ id }) => id) } });
  return rows.map((row) => ({ ...row, formerNames: former.filter(({ patientId }) => patientId === row.id) }));
}

/** Writes the words of some patients' names in the place of those that stood there. */
export async function putWords(
  em: SqlEntityManager,
  patientIds: readonly string[],
  words: readonly PatientWord[],
): Promise<void> {
  const ids = [...patientIds];
  await em.nativeDelete(PatientWordEntity, { patientId: { $in: ids } });
  await insertRows(em, PatientWordEntity, words);
  await em.nativeUpdate(PatientEntity, { id: { $in: ids } }, { isFindable: true });
}
