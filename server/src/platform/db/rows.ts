import type { SqlEntityManager } from '@mikro-orm/postgresql';

type Row = Readonly<Record<string, unknown>>;

/** Tables and columns come from the code, never from a caller. */
function columnsOf(row: Row): string[] {
  return Object.keys(row);
}

/**
 * Inserts a row, or writes it over the one with the same key; values go as one JSON parameter, so that arrays,
 * dates and documents become what the table's columns are.
 */
export async function upsertRow(em: SqlEntityManager, table: string, key: string, row: Row): Promise<void> {
  const columns = columnsOf(row);
  const changes = columns.filter((column) => column !== key).map((column) => `${column} = excluded.${column}`);
  await em.execute(
    `insert into ${table} (${columns.join(', ')}) select ${columns.join(', ')} from json_populate_record(null::${table}, ?::json)
     on conflict (${key}) do ${changes.length ? `update set ${changes.join(', ')}` : 'nothing'}`,
    [JSON.stringify(row)],
  );
}

/** Rows as they stand; all have the columns of the first. */
export async function insertAll(em: SqlEntityManager, table: string, rows: readonly Row[]): Promise<void> {
  if (!rows.length) return;
  const columns = columnsOf(rows[0]).join(', ');
  await em.execute(
    `insert into ${table} (${columns}) select ${columns} from json_populate_recordset(null::${table}, ?::json)`,
    [JSON.stringify(rows)],
  );
}

/** What belongs to one owner, as it is to be from now on. */
export async function replaceRows(
  em: SqlEntityManager,
  table: string,
  owner: { readonly column: string; readonly id: string },
  rows: readonly Row[],
): Promise<void> {
  await em.execute(`delete from ${table} where ${owner.column} = ?`, [owner.id]);
  await insertAll(
    em,
    table,
    rows.map((row) => ({ ...row, [owner.column]: owner.id })),
  );
}
