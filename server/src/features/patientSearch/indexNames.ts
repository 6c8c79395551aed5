import { nameWords } from '@zaguan/core/patientSearch';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { type NamesRow, notFindable, putWords } from './patientSearch.repository.ts';

/** Written in one statement at most. */
const BATCH = 500;

/** Makes a patient findable whose name is new or changed: for whoever writes a name, in the same transaction. */
export async function indexNamesOf(em: SqlEntityManager, patientId: string): Promise<void> {
  await write(em, await notFindable(em, 1, patientId));
}

/**
 * Makes patients findable whose words somebody did not write, and those from before there was a search.
 *
 * @param most so many at most, for a transaction that may not grow without end
 * @returns how many were written
 */
export async function indexNames(em: SqlEntityManager, most = Number.POSITIVE_INFINITY): Promise<number> {
  let done = 0;
  while (done < most) {
    const rows = await notFindable(em, Math.min(BATCH, most - done));
    await write(em, rows);
    done += rows.length;
    if (rows.length < BATCH) break;
  }
  return done;
}

async function write(em: SqlEntityManager, rows: readonly NamesRow[]): Promise<void> {
  if (!rows.length) return;
  const words = rows.flatMap((row) =>
    [...new Set(nameWords(row).map(({ word }) => word))].map((word) => ({ word, patientId: row.id })),
  );
  const ids = rows.map(({ id }) => id);
  await putWords(em, ids, words);
}
