import { type Configuration, type LoggingOptions, Utils } from '@mikro-orm/core';
import { AbstractSqlDriver, type Knex, PostgreSqlConnection, PostgreSqlPlatform } from '@mikro-orm/postgresql';

type Execute = PostgreSqlConnection['execute'];

/** Under which name a connection keeps the statement planned. */
export interface Prepared extends LoggingOptions {
  readonly preparedAs?: string;
}

/** A list that goes to the database as one array, not as a place for each of its values. */
export class BoundArray {
  readonly values: readonly unknown[];

  constructor(values: readonly unknown[]) {
    this.values = values;
  }
}

/**
 * MikroORM 6 writes every value into the text of the statement. PostgreSQL logs the text of a statement that fails, so
 * what a patient answered would stand in its log. Here values are bound: the text has only their places.
 */
class BoundConnection extends PostgreSqlConnection {
  override execute: Execute = async (queryOrKnex, params = [], method = 'all', ctx, loggerContext) => {
    await this.ensureConnection();
    let sql = queryOrKnex;
    let values: readonly unknown[] = params;
    let transaction = ctx;
    if (typeof sql !== 'string') {
      const builder = sql as { client?: { transacting?: boolean } };
      transaction ??= builder.client?.transacting ? (sql as unknown as typeof transaction) : undefined;
      const query = (sql as Knex.QueryBuilder).toSQL();
      sql = query.sql;
      values = query.bindings ?? [];
    }
    const bound = bind(this.platform, sql, values);
    return this.executeQuery(
      sql,
      async () => {
        // Without values a question mark is a question mark.
        const query = bound.values.length
          ? this.getKnex().raw(bound.sql, bound.values as never)
          : this.getKnex().raw(bound.sql);
        const name = (loggerContext as Prepared | undefined)?.preparedAs;
        if (name) query.options({ name });
        if (transaction) query.transacting(transaction);
        const result = await query;
        return this.transformRawResult(result, method);
      },
      { query: sql, params: [], ...loggerContext },
    );
  };
}

type Platform = BoundConnection['platform'];

/** The places of a statement with what goes into each. Fragments of SQL and names of columns stay text, lists get a place for each. */
function bind(platform: Platform, sql: string, values: readonly unknown[]): { sql: string; values: unknown[] } {
  if (values.length === 0) return { sql, values: [] };
  const bound: unknown[] = [];
  let at = 0;
  const place = (value: unknown): string => {
    if (Utils.isRawSql(value)) return platform.formatQuery(value.sql, value.params ?? []).replaceAll('?', '\\?');
    if (Array.isArray(value)) return value.map(place).join(', ');
    bound.push(toBound(value));
    return '?';
  };
  const text = sql.replace(/\\\?|\?\??/g, (mark) => {
    if (mark === '\\?') return mark;
    const value = values[at++];
    return mark === '??' ? platform.quoteIdentifier(String(value)).replaceAll('?', '\\?') : place(value);
  });
  return { sql: text, values: bound };
}

function toBound(value: unknown): unknown {
  if (value === undefined) return null;
  if (value instanceof Date) return value.toISOString();
  if (value instanceof BoundArray) return value.values.map(toBound);
  if (Utils.isPlainObject(value)) return JSON.stringify(value);
  return value;
}

/** PostgreSQL with bound values. */
export class BoundDriver extends AbstractSqlDriver<BoundConnection, PostgreSqlPlatform> {
  constructor(config: Configuration) {
    super(config, new PostgreSqlPlatform(), BoundConnection, ['knex', 'pg']);
  }
}
