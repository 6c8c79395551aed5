import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { GUARDS } from '../fixtures/guards.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const QUERIES: Record<keyof typeof GUARDS, string> = {
  checks: `select conrelid::regclass || ': ' || conname as name from pg_constraint where contype = 'c' and connamespace = 'public'::regnamespace and coninhcount = 0 and conrelid <> 0`,
  exclusions: `select conrelid::regclass || ': ' || conname as name from pg_constraint where contype = 'x' and connamespace = 'public'::regnamespace`,
  partialIndexes: `select indrelid::regclass || ': ' || c.relname as name from pg_index i join pg_class c on c.oid = i.indexrelid where i.indpred is not null and c.relnamespace = 'public'::regnamespace and not c.relispartition`,
  triggers: `select tgrelid::regclass || ': ' || tgname as name from pg_trigger t join pg_class c on c.oid = t.tgrelid where not tgisinternal and c.relnamespace = 'public'::regnamespace and not c.relispartition`,
};

describe('what stands in migrations only', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld('guards');
  });
  afterAll(() => world.close());

  it.each(Object.keys(GUARDS) as (keyof typeof GUARDS)[])('has these %s and no others', async (kind) => {
    const { rows } = await world.sql.query<{ name: string }>(QUERIES[kind]);
    const written = Object.entries<readonly string[]>(GUARDS[kind]).flatMap(([table, names]) =>
      names.map((name) => `${table}: ${name}`),
    );
    expect(written.length).toBeGreaterThan(0);
    expect(rows.map(({ name }) => name).sort()).toEqual(written.sort());
  });
});
