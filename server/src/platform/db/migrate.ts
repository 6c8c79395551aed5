import { Migrator } from '@mikro-orm/migrations';
import { MIGRATIONS } from '../../migrations/index.ts';
import { openOrm, type Orm } from './orm.ts';

/** Opens the database as a program that changes its schema does; a serving process needs none of it. */
export function openForMigration(url: string): Promise<Orm> {
  return openOrm({
    url,
    connections: 4,
    entities: [],
    also: {
      extensions: [Migrator],
      migrations: { migrationsList: MIGRATIONS, snapshot: false, silent: true, tableName: 'schema_migration' },
    },
  });
}

/** Brings the schema up to date and makes this month's partitions and the next one's. */
export async function migrate(orm: Orm): Promise<void> {
  await orm.migrator.up();
  await orm.em
    .getConnection()
    .execute("select ensure_month(current_date), ensure_month((current_date + interval '1 month')::date)");
}
