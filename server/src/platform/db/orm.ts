import { Migrator } from '@mikro-orm/migrations';
import { type EntitySchema, MikroORM } from '@mikro-orm/postgresql';
import { MIGRATIONS } from '../../migrations/index.ts';

export type Orm = MikroORM;

export interface DatabaseOptions {
  readonly url: string;
  readonly connections: number;
  readonly entities: readonly EntitySchema[];
}

/** Opens the connection pool. The schema is only ever made by migrations. */
export function openOrm({ url, connections, entities }: DatabaseOptions): Promise<Orm> {
  return MikroORM.init({
    clientUrl: url,
    entities: [...entities],
    extensions: [Migrator],
    metadataCache: { enabled: false },
    forceUtcTimezone: true,
    discovery: { warnWhenNoEntities: false },
    pool: { min: 0, max: connections, acquireTimeoutMillis: 60_000 },
    migrations: { migrationsList: MIGRATIONS, snapshot: false, silent: true, tableName: 'schema_migration' },
    loadStrategy: 'select-in',
  });
}

/** Brings the schema up to date and makes this month's partitions and the next one's. */
export async function migrate(orm: Orm): Promise<void> {
  await orm.migrator.up();
  await orm.em
    .getConnection()
    .execute("select ensure_month(current_date), ensure_month((current_date + interval '1 month')::date)");
}
