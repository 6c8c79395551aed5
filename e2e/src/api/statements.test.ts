import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STATEMENTS } from '../../../server/src/platform/db/statement.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const SERVER = fileURLToPath(new URL('../../../server/src/', import.meta.url));
const files = readdirSync(SERVER, { recursive: true, encoding: 'utf8' }).filter((name) => name.endsWith('.sql.ts'));

/** Conditions that entities can express: columns beside values, joined by and, in or not null. */
const WHERE = String.raw`( where (?!.*\b(exists|any|for update|interval|clock_timestamp)\b)[\w\s.=<>?',()]+?)?`;
/** Reads and writes of one table that entities can express. */
const PLAIN = [
  String.raw`select [\w\s,."*]+ from \w+( \w)?${WHERE}( order by [\w\s,.]+)?( limit \d+)?`,
  `delete from \\w+${WHERE}`,
  `update \\w+ set [\\w\\s,=?']+${WHERE}`,
  String.raw`insert into \w+ \([\w\s,]+\) values \([?,\s]+\)`,
].map((text) => new RegExp(`^${text}$`, 'i'));
const isPlain = (text: string) =>
  !/ (distinct|union|returning|for update|on conflict|join|group by) |\blower\(/i.test(text) &&
  PLAIN.some((plain) => plain.test(text));

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

  it('are told from those that entities could do', () => {
    for (const text of [
      'select id, name from site',
      'select id from hold where expires_at > ?',
      "select a.id from appointment a where a.site_id = ? and a.status in ('booked','pending') order by a.starts_at limit 5",
      'delete from work_item where kind = ? and subject_id = ?',
      'update message set status = ?, settled_at = ? where id = ?',
      'insert into work_item (kind, subject_id) values (?, ?)',
    ])
      expect([text, isPlain(text)]).toEqual([text, true]);
    for (const text of [
      'select id from message where id = ? for update',
      'select count(*)::int as n from hold',
      'select id from hold where id = any(?::uuid[])',
      'select a.id from appointment a join site s on s.id = a.site_id',
    ])
      expect([text, isPlain(text)]).toEqual([text, false]);
  });

  it('say why they are not written through entities, and are none that could be', () => {
    expect(STATEMENTS.filter(({ reason }) => reason.length < 5)).toEqual([]);
    expect(STATEMENTS.map(({ text }) => text.replace(/\s+/g, ' ').trim()).filter(isPlain)).toEqual([]);
  });
});
