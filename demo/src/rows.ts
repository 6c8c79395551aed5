import type pg from 'pg';
import type { Orm } from '@zaguan/server/platform/db/orm';

/** A row as its table's columns. */
export type Row = Record<string, unknown>;

const BATCH = 4000;

/**
 * Inserts rows as they stand; every demo table is filled in bulk. All rows have the columns of the first.
 *
 * @param types the columns with their types, where the table has generated ones
 */
export async function insertRows(orm: Orm, table: string, rows: readonly Row[], types?: string): Promise<void> {
  if (!rows.length) return;
  const columns = Object.keys(rows[0]).join(', ');
  const from = types
    ? `json_to_recordset($1::json) as r(${types})`
    : `json_populate_recordset(null::${table}, $1::json)`;
  // On the driver's own connection: the query builder would write megabytes of JSON into the statement's text.
  const { client } = orm.em.getKnex();
  const connection: pg.ClientBase = await client.acquireConnection();
  try {
    for (let i = 0; i < rows.length; i += BATCH)
      await connection.query(`insert into ${table} (${columns}) select ${columns} from ${from}`, [
        JSON.stringify(rows.slice(i, i + BATCH)),
      ]);
  } finally {
    client.releaseConnection(connection);
  }
}
