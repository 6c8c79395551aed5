import { MikroORM, type Options, type PostgreSqlDriver } from '@mikro-orm/postgresql';
import { ENTITIES } from '../../schema/entities.ts';
import { BoundDriver } from './boundDriver.ts';

export type Orm = MikroORM;

/** What every connection is told: compiling a statement takes longer than any of ours runs. */
export const SESSION = '-c jit=off';

export interface DatabaseOptions {
  readonly url: string;
  readonly connections: number;
  /** How long somebody waits, in milliseconds; without them for ever, as loading a clinic may. */
  readonly timeouts?: { readonly connectMs: number; readonly lockMs: number; readonly statementMs: number };
  /** What only some programs need, such as the migrator. */
  readonly also?: Partial<Options>;
}

/** Opens the connection pool. The schema is only ever made by migrations. */
export function openOrm({ url, connections, timeouts, also }: DatabaseOptions): Promise<Orm> {
  return MikroORM.init({
    // Values are bound, never written into the statement's text.
    driver: BoundDriver as unknown as typeof PostgreSqlDriver,
    clientUrl: url,
    entities: [...ENTITIES],
    metadataCache: { enabled: false },
    forceUtcTimezone: true,
    pool: { min: 0, max: connections, acquireTimeoutMillis: 60_000 },
    loadStrategy: 'select-in',
    driverOptions: {
      connection: {
        options: SESSION,
        ...(timeouts && {
          connectionTimeoutMillis: timeouts.connectMs,
          statement_timeout: timeouts.statementMs,
          lock_timeout: timeouts.lockMs,
          // A transaction that nobody goes on with gives its locks back.
          idle_in_transaction_session_timeout: timeouts.statementMs,
        }),
      },
    },
    ...also,
  });
}
