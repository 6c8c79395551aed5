import { type EntitySchema, MikroORM, type Options } from '@mikro-orm/postgresql';

export type Orm = MikroORM;

export interface DatabaseOptions {
  readonly url: string;
  readonly connections: number;
  readonly entities: readonly EntitySchema[];
  /** What only some programs need, such as the migrator. */
  readonly also?: Partial<Options>;
}

/** Opens the connection pool. The schema is only ever made by migrations. */
export function openOrm({ url, connections, entities, also }: DatabaseOptions): Promise<Orm> {
  return MikroORM.init({
    clientUrl: url,
    entities: [...entities],
    metadataCache: { enabled: false },
    forceUtcTimezone: true,
    discovery: { warnWhenNoEntities: false },
    pool: { min: 0, max: connections, acquireTimeoutMillis: 60_000 },
    loadStrategy: 'select-in',
    ...also,
  });
}
