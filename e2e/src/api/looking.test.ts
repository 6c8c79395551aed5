import { lookAtVisit, LOOKS_SECONDS } from '@zaguan/contracts/booking';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { bookingSweeps } from '../../../server/src/features/booking/index.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

let world: World;
let base: string;
let desk: Client;
let id: string;
beforeAll(async () => {
  world = await makeWorld('looking');
  base = world.servers[0].url;
  desk = await signedIn(base, 'coordinator');
  const { rows } = await world.sql.query<{ id: string }>(
    "select id from appointment where site_id = $1 and site_date = $2 and status = 'booked' limit 1",
    [SITES.mesa, TEST_DAY],
  );
  id = rows[0].id;
});
afterAll(() => world.close());

const look = (who: Client, left = false, visit = id) => who.call(lookAtVisit, { id: visit, left } as never);

it('tells who else has a visit open, until they close it or have not said so for a while', async () => {
  const manager = await signedIn(base, 'manager');
  const provider = await signedIn(base, 'provider');
  expect(dataOf(await look(desk)).others).toEqual([]);
  const [coordinator] = dataOf(await look(manager)).others;
  expect(coordinator).toBeTruthy();
  expect(dataOf(await look(provider)).others).toHaveLength(2);
  // The same person at two screens is one, and not an other.
  expect(dataOf(await look(await signedIn(base, 'coordinator'))).others).toHaveLength(2);
  dataOf(await look(provider, true));
  expect(dataOf(await look(desk)).others).toHaveLength(1);
  await world.sql.query("update visit_looking set seen_at = seen_at - $1 * interval '1 second'", [LOOKS_SECONDS]);
  expect(dataOf(await look(manager)).others).toEqual([]);
});

it('forgets who looked long ago, and nobody who looks now', async () => {
  const manager = await signedIn(base, 'manager');
  dataOf(await look(manager));
  await world.sql.query("update visit_looking set seen_at = seen_at - interval '2 hours'");
  dataOf(await look(desk));
  const orm = await prepareDatabase(world.url);
  await orm.em
    .fork()
    .transactional(async (em) => bookingSweeps.find(({ name }) => name === 'looking')?.run(em, new Date()));
  await orm.close(true);
  const { rows } = await world.sql.query('select count(*)::int as n from visit_looking');
  expect(rows).toEqual([{ n: 1 }]);
  expect(dataOf(await look(manager)).others).toHaveLength(1);
});

it('is told to who may see the visit', async () => {
  const frontDesk = await signedIn(base, 'front-desk');
  expect(refusalOf(await look(frontDesk)).tag).toBe('NotAllowed');
  expect(refusalOf(await look(desk, false, '00000000-0000-4000-8000-000000000000')).tag).toBe('NotFound');
  expect((await look(desk, false, 'foo')).status).toBe(400);
});
