import { migrate, openForMigration } from './platform/db/migrate.ts';
import type { Orm } from './platform/db/orm.ts';

/** Brings the database of DATABASE_URL up to date. */
export async function prepareDatabase(url: string): Promise<Orm> {
  const orm = await openForMigration(url);
  await migrate(orm);
  return orm;
}
