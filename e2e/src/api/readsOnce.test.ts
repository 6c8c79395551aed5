import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import { addDays } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

describe('who saw a record', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('reads_once');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());

  /** How often each patient is named as read, by whom. */
  const named = async (role: string) => {
    const { rows } = await world.sql.query<{ id: string; n: number }>(
      `select s ->> 'id' as id, count(*)::int as n from audit_entry e join account a on a.id = e.account_id, jsonb_array_elements(e.subjects) s
       where e.kind = 'read' and e.command = 'daybook.day' and a.role = $1 group by 1`,
      [role],
    );
    return new Map(rows.map(({ id, n }) => [id, n]));
  };
  const look = async (client: Client, day = 0) => {
    const page = unfoldDay(dataOf(await client.call(daybookDay, { date: addDays(TEST_DAY, day) })));
    const ids = page.sites.flatMap(({ lanes }) => lanes.flatMap(({ plates }) => plates.map((each) => each.patientId)));
    return new Set(ids.filter((id) => id !== null));
  };

  it('is noted once an hour for each question, however often the page fetches again', async () => {
    const seen = await look(desk);
    await look(desk);
    await look(desk);
    const counts = await named('coordinator');
    expect(counts.size).toBe(seen.size);
    expect(seen.size).toBeGreaterThan(5);
    expect([...counts.values()].every((n) => n === 1)).toBe(true);
  });

  it('names whoever came to be seen meanwhile, and nobody twice', async () => {
    const [first, next] = [await look(desk), await look(desk, 1)];
    const counts = await named('coordinator');
    expect([...counts.keys()].sort()).toEqual([...new Set([...first, ...next])].sort());
    expect([...counts.values()].every((n) => n === 1)).toBe(true);
  });

  it('is noted for each account, and again in the next hour', async () => {
    const manager = await signedIn(world.servers[0].url, 'manager');
    const seen = await look(manager);
    expect((await named('manager')).size).toBe(seen.size);
    await passMinutes(world, 60);
    await look(manager);
    expect([...(await named('manager')).values()].every((n) => n === 2)).toBe(true);
  });
});
