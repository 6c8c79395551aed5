import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { SelfBookingEntity } from '../../../server/src/schema/index.ts';
import { openOrm, type Orm } from '../../../server/src/platform/db/orm.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const NAME = 'Wexalindra';
const NOBODY = '00000000-0000-4000-8000-000000000000';

let world: World;
let orm: Orm;
beforeAll(async () => {
  world = await makeWorld('dblog', { processes: 0 });
  orm = await openOrm({ url: world.url, connections: 2 });
});
afterAll(async () => {
  await orm.close(true);
  await world.close();
});

it('keeps what patients said out of PostgreSQL’s log, whatever fails: an insert, a find, a statement', async () => {
  const em = orm.em.fork();
  const { rows } = await world.sql.query<{ setting: string }>(
    "select setting from pg_settings where name = 'data_directory'",
  );
  const log = join(rows[0].setting, 'server.log');
  const from = statSync(log).size;
  const booking = {
    ...{
      appointmentId: NOBODY,
      givenName: NAME,
      familyName: NAME,
      birthDate: '1987-03-04',
      phone: '+17205550100',
      email: null,
    },
    ...{ language: 'en' as const, kindClaimed: 'new' as const, holdId: NOBODY, browserHash: Buffer.from(NAME) },
    ...{ contentHash: Buffer.from(NAME), bookedAt: new Date() },
  };
  // No visit of that id: the foreign key refuses.
  await expect(em.insert(SelfBookingEntity, booking)).rejects.toThrow();
  await expect(em.find(SelfBookingEntity, { givenName: NAME, appointmentId: 'no-uuid' })).rejects.toThrow();
  await expect(em.nativeUpdate(SelfBookingEntity, { givenName: NAME }, { holdId: 'no-uuid' })).rejects.toThrow();
  await expect(em.execute('insert into patient (id, given_name) values (?, ?)', [NOBODY, NAME])).rejects.toThrow();
  await expect(em.execute('select 1 / (length(?) - ?)', [NAME, NAME.length])).rejects.toThrow();
  const written = readFileSync(log).subarray(from).toString('utf8');
  // All of them failed there and were logged, with the places of the values and not the values.
  expect(written).toContain('violates foreign key constraint');
  expect(written).toContain('violates not-null constraint');
  expect(written).toContain('division by zero');
  expect(written.match(/\$1/g)?.length ?? 0).toBeGreaterThanOrEqual(4);
  expect(written).not.toContain(NAME);
  expect(written).not.toContain(Buffer.from(NAME).toString('hex'));
});

it('binds what it is given: lists, dates, documents, bytes, quotes and question marks', async () => {
  const em = orm.em.fork();
  const [row] = await em.execute(
    `select ?::text as quoted, ?::jsonb as document, ?::timestamptz as instant, ?::bytea as bytes, ?::int in (?) as listed, '{"a":1}'::jsonb \\? 'a' as mark, ?::text as none`,
    [`it's ? \\ "odd"`, { a: ['?'] }, new Date('2026-12-01T10:00:00Z'), Buffer.from([0, 255]), 2, [1, 2, 3], null],
  );
  expect(row).toMatchObject({
    quoted: `it's ? \\ "odd"`,
    document: { a: ['?'] },
    listed: true,
    mark: true,
    none: null,
  });
  expect(new Date(row.instant).toISOString()).toBe('2026-12-01T10:00:00.000Z');
  expect([...row.bytes]).toEqual([0, 255]);
});
