import type { EntityProperty } from '@mikro-orm/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openOrm, type Orm } from '../../../server/src/platform/db/orm.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** Tables that no entity maps: other programs' own. */
const UNMAPPED = ['schema_migration', 'web_session'];

/** What MikroORM calls a column type, as PostgreSQL's `format_type` writes it. */
const TYPES: Record<string, string> = {
  int: 'integer',
  int2: 'smallint',
  timestamptz: 'timestamp with time zone',
  bigserial: 'bigint',
};
const typeName = (type: string) => {
  const bare = type.replace(/\(\d+\)$/, '');
  return TYPES[bare] ?? bare;
};

interface Table {
  columns: Record<string, string>;
  primaryKey: string[];
  foreignKeys: string[];
  uniques: string[];
}

describe('the entities', () => {
  let world: World;
  let orm: Orm;
  beforeAll(async () => {
    world = await makeWorld('schema');
    orm = await openOrm({ url: world.url, connections: 1 });
  });
  afterAll(async () => {
    await orm.close(true);
    await world.close();
  });

  const tables = async (): Promise<Record<string, Table>> => {
    const found: Record<string, Table> = {};
    const columns = await world.sql.query<{ table: string; column: string; type: string; required: boolean }>(
      `select c.relname as table, a.attname as column, format_type(a.atttypid, null) as type, a.attnotnull as required
       from pg_attribute a join pg_class c on c.oid = a.attrelid
       where c.relnamespace = 'public'::regnamespace and c.relkind in ('r','p') and not c.relispartition and a.attnum > 0 and not a.attisdropped`,
    );
    for (const { table, column, type, required } of columns.rows) {
      found[table] ??= { columns: {}, primaryKey: [], foreignKeys: [], uniques: [] };
      found[table].columns[column] = `${type}${required ? '' : ' null'}`;
    }
    const keys = await world.sql.query<{
      table: string;
      kind: string;
      columns: string[];
      target: string;
      rule: string;
    }>(
      `select conrelid::regclass::text as table, contype as kind, confrelid::regclass::text as target, confdeltype as rule,
         (select array_agg(a.attname::text order by k.n) from unnest(conkey) with ordinality as k (attnum, n) join pg_attribute a on a.attrelid = conrelid and a.attnum = k.attnum) as columns
       from pg_constraint where connamespace = 'public'::regnamespace and contype in ('p','f','u') and conparentid = 0`,
    );
    for (const { table, kind, columns: names, target, rule } of keys.rows) {
      const into = found[table];
      if (!into) continue;
      if (kind === 'p') into.primaryKey = names;
      if (kind === 'u') into.uniques.push(names.join(', '));
      // Keys of several columns are within one table: no relation.
      if (kind === 'f' && names.length === 1)
        into.foreignKeys.push(`${names[0]} to ${target}${rule === 'c' ? ' cascade' : ''}`);
    }
    for (const name of UNMAPPED) delete found[name];
    for (const table of Object.values(found)) {
      table.foreignKeys.sort();
      table.uniques.sort();
    }
    return found;
  };

  const mapped = (): Record<string, Table> => {
    const found: Record<string, Table> = {};
    for (const meta of Object.values(orm.getMetadata().getAll())) {
      const props: EntityProperty[] = meta.props;
      const columns = props.filter((prop) => prop.persist !== false);
      const relations = props.filter((prop) => prop.kind === 'm:1');
      const names = new Map<string, string>(columns.map((prop) => [prop.name, prop.fieldNames[0]]));
      const columnsOf = (properties: unknown) =>
        (Array.isArray(properties) ? properties : [properties]).map((each) => names.get(String(each))).join(', ');
      found[meta.tableName] = {
        columns: Object.fromEntries(
          columns.map((prop) => [
            prop.fieldNames[0],
            `${typeName(prop.columnTypes[0])}${prop.nullable ? ' null' : ''}`,
          ]),
        ),
        primaryKey: meta.primaryKeys.map((name: string) => names.get(name) ?? ''),
        foreignKeys: relations
          .map(
            (prop) =>
              `${prop.joinColumns[0]} to ${prop.targetMeta?.tableName}${prop.deleteRule === 'cascade' ? ' cascade' : ''}`,
          )
          .sort(),
        uniques: [
          ...columns.filter((prop) => prop.unique).map((prop) => prop.fieldNames[0]),
          ...meta.uniques.map(({ properties }) => columnsOf(properties)),
        ].sort(),
      };
    }
    return found;
  };

  it('map every table, column, type, key and foreign key as it is in the database', async () => {
    const [inDatabase, inCode] = [await tables(), mapped()];
    expect(Object.keys(inCode).length).toBeGreaterThan(60);
    expect(inCode).toEqual(inDatabase);
  });
});
