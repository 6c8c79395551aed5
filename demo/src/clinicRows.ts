import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from './random.ts';

/** A row as its table's columns. */
export type Row = Record<string, unknown>;

/** Inserts rows as they stand; every demo table is filled in bulk. */
export async function insertRows(orm: Orm, table: string, rows: readonly Row[]): Promise<void> {
  if (!rows.length) return;
  const columns = Object.keys(rows[0]);
  const BATCH = 500;
  for (let i = 0; i < rows.length; i += BATCH) {
    await orm.em
      .getConnection()
      .execute(
        `insert into ${table} (${columns.join(', ')}) select ${columns.join(', ')} from json_populate_recordset(null::${table}, ?::json)`,
        [JSON.stringify(rows.slice(i, i + BATCH))],
      );
  }
}

export const SITES = { canal: idOf('Canal Row'), mesa: idOf('Mesa Court') };
export const PROVIDERS = { amaya: idOf('Amaya'), lund: idOf('Lund'), dray: idOf('Dray') };
export const TYPES = { consult: idOf('new consult'), follow: idOf('follow-up'), skin: idOf('skin test') };
export const ROOMS = [idOf('skin room 1'), idOf('skin room 2')];

export const WEEKDAYS = [1, 2, 3, 4, 5];
