import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STATEMENTS } from '../../../server/src/platform/db/statement.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const SERVER = fileURLToPath(new URL('../../../server/src/', import.meta.url));
const files = readdirSync(SERVER, { recursive: true, encoding: 'utf8' }).filter((name) => name.endsWith('.sql.ts'));

/** Reads and writes of one table that entities can express. */
const PLAIN =
  /^(?!.* union )(select [\w\s,."*]+ from \w+( where [\w\s.=:]+)?( order by [\w\s,.]+)?|delete from \w+ where \w+ = :?\?|update \w+ set [\w\s,=?]+ where \w+ = \?|insert into \w+ \([\w\s,]+\) values \([?,\s]+\))$/i;

describe('statements in SQL', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld('statements');
    // Loading a module declares its statements.
    for (const name of files) await import(join(SERVER, name));
  });
  afterAll(() => world.close());

  it('are found in every file of theirs', () => {
    expect(files.length).toBeGreaterThan(10);
    expect(STATEMENTS.length).toBeGreaterThan(files.length);
  });

  it('fit the database as it is migrated', async () => {
    const client = await world.sql.connect();
    const refused: string[] = [];
    for (const { text } of STATEMENTS) {
      let n = 0;
      const numbered = text.replace(/\?/g, () => `$${++n}`);
      await client.query(`prepare tried as ${numbered}`).then(
        () => client.query('deallocate tried'),
        (error: Error) => refused.push(`${error.message}: ${text}`),
      );
    }
    client.release();
    expect(refused).toEqual([]);
  });

  it('say why they are not written through entities, and are none that could be', () => {
    expect(STATEMENTS.filter(({ reason }) => reason.length < 5)).toEqual([]);
    expect(STATEMENTS.map(({ text }) => text.replace(/\s+/g, ' ').trim()).filter((text) => PLAIN.test(text))).toEqual(
      [],
    );
  });
});
