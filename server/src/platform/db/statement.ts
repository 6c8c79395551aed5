import { createHash } from 'node:crypto';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type pg from 'pg';
import { BoundArray, type Prepared } from './boundDriver.ts';

/** What a statement may be given: a list is bound as one PostgreSQL array (`= any(:ids)`). */
export type Parameter = string | number | boolean | Date | Buffer | null | readonly string[] | readonly number[];

/** One SQL statement that the ORM can't express. */
export interface Statement<Params, Row> {
  /** Why it is not written through entities. */
  readonly reason: string;
  /** With `?` at each place. */
  readonly text: string;
  /** The parameter at each place. */
  readonly names: readonly string[];
  /** Under which each connection keeps it planned; `null`: it is planned for each run. */
  readonly preparedAs: string | null;
  /** Never set; they carry the types. */
  readonly '~params'?: Params;
  readonly '~row'?: Row;
}

/** `:name`, but not the second colon of a cast. */
const PLACE = /(?<![:\w]):([a-z]\w*)/g;

/** Every statement of the modules loaded so far: a test prepares each against the migrated database. */
export const STATEMENTS: Statement<never, unknown>[] = [];

/**
 * Declares a statement. Its text is fixed and its values are bound, so that a renamed column fails a test. The rows'
 * properties are named as the entities' are: `site_id` is read as `siteId`.
 *
 * @param reason why it is not written through entities
 * @param text SQL with `:name` for each parameter
 * @param isPrepared planned once a connection: where planning takes longer than running, and every run has one best plan
 */
export function statement<Params extends Readonly<Record<string, Parameter>>, Row>(
  reason: string,
  text: string,
  { isPrepared = false }: { readonly isPrepared?: boolean } = {},
): Statement<Params, Row> {
  const declared: Statement<Params, Row> = {
    reason,
    text: text.replace(PLACE, '?'),
    names: [...text.matchAll(PLACE)].map(([, name]) => name),
    preparedAs: isPrepared ? createHash('sha256').update(text).digest('hex').slice(0, 24) : null,
  };
  STATEMENTS.push(declared as Statement<never, unknown>);
  return declared;
}

/** Runs a statement in the entity manager's transaction. */
export function rowsOf<Params extends Readonly<Record<string, Parameter>>, Row>(
  em: SqlEntityManager,
  { text, names, preparedAs }: Statement<Params, Row>,
  params: Params,
): Promise<Row[]> {
  const values = names.map((name) => {
    const value = params[name];
    return Array.isArray(value) ? new BoundArray(value) : value;
  });
  const context: Prepared = preparedAs ? { preparedAs } : {};
  return em.execute<object[]>(text, values, 'all', context).then((rows) => rows.map((row) => named<Row>(row)));
}

const propertyNames = new Map<string, string>();

/** The property of a column: `site_id` is `siteId`, as the entities have it. */
function propertyOf(column: string): string {
  const known = propertyNames.get(column);
  if (known) return known;
  const property = column.replace(/_([a-z0-9])/g, (_, letter: string) => letter.toUpperCase());
  propertyNames.set(column, property);
  return property;
}

function named<Row>(row: object): Row {
  return Object.fromEntries(Object.entries(row).map(([column, value]) => [propertyOf(column), value])) as Row;
}

/** Where a statement runs: within a use case's transaction, or on a connection of its own. */
export type Run = <Params extends Readonly<Record<string, Parameter>>, Row>(
  declared: Statement<Params, Row>,
  params: Params,
) => Promise<Row[]>;

export const inside =
  (em: SqlEntityManager): Run =>
  (declared, params) =>
    rowsOf(em, declared, params);

/** On a connection without an entity manager. */
export const on =
  (client: pg.ClientBase | pg.Pool): Run =>
  async <Params extends Readonly<Record<string, Parameter>>, Row>(
    { text, names }: Statement<Params, Row>,
    params: Params,
  ) => {
    let n = 0;
    const numbered = text.replace(/\?/g, () => `$${++n}`);
    const { rows } = await client.query<object>(
      numbered,
      names.map((name) => params[name]),
    );
    return rows.map((row) => named<Row>(row));
  };

/** The first row, or `null`. */
export async function rowOf<Params extends Readonly<Record<string, Parameter>>, Row>(
  em: SqlEntityManager,
  declared: Statement<Params, Row>,
  params: Params,
): Promise<Row | null> {
  const [row] = await rowsOf(em, declared, params);
  return row ?? null;
}

/** An instant comes out of a statement as PostgreSQL writes it; `new Date(…)` reads it. */
type Raw<T> = T extends undefined ? never : T extends Date ? string : T;

/** An entity's properties with the types they have in a statement's rows. */
export type ColumnsOf<Entity> = { readonly [K in keyof Entity & string]-?: Raw<Entity[K]> };
