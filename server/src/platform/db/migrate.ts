import { Migrator } from '@mikro-orm/migrations';
import { MIGRATIONS } from '../../migrations/index.ts';
import { openOrm, type Orm } from './orm.ts';

/** Opens the database as a program that changes its schema does; a serving process needs none of it. */
export function openForMigration(url: string): Promise<Orm> {
  return openOrm({
    url,
    connections: 4,
    also: {
      extensions: [Migrator],
      migrations: { migrationsList: MIGRATIONS, snapshot: false, silent: true, tableName: 'schema_migration' },
    },
  });
}

/** The database was migrated by a version of the program whose migrations this one does not have. */
export class OtherVersion extends Error {
  constructor() {
    super(
      'This database was made by another version of Zaguan, which this one can’t bring up to date. Nothing was changed.',
    );
  }
}

/**
 * Brings the schema up to date and makes this month's partitions and the next one's.
 *
 * @throws OtherVersion before anything is changed, if migrations ran here that this program does not have
 */
export async function migrate(orm: Orm): Promise<void> {
  const known = new Set(MIGRATIONS.map(({ name }) => name));
  const executed = await orm.migrator.getExecutedMigrations();
  if (executed.some(({ name }) => !known.has(name))) throw new OtherVersion();
  await orm.migrator.up();
  await orm.em
    .getConnection()
    .execute("select ensure_month(current_date), ensure_month((current_date + interval '1 month')::date)");
}
