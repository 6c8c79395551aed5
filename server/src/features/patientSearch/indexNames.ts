import { nameWords } from '@zaguan/core/patientSearch';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { notFindable, putWords } from './patientSearch.repository.ts';

/** Written in one statement at most. */
const BATCH = 500;

/**
 * Makes patients findable whose names are new or changed, all there are. Whoever writes a name calls it in the same
 * transaction; a sweep does it for those whom somebody forgot, and for records from before there was a search.
 */
export async function indexNames(em: SqlEntityManager): Promise<number> {
  let done = 0;
  for (;;) {
    const rows = await notFindable(em, BATCH);
    const words = rows.flatMap((row) =>
      [...new Set(nameWords(row).map(({ word }) => word))].map((word) => ({ word, patientId: row.id })),
    );
    if (rows.length)
      await putWords(
        em,
        rows.map(({ id }) => id),
        words,
      );
    done += rows.length;
    if (rows.length < BATCH) return done;
  }
}
