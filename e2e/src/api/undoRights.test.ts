import { revokeFeed, createFeed } from '@zaguan/contracts/feeds';
import { cancelVisit } from '@zaguan/contracts/booking';
import { undo } from '@zaguan/contracts/undo';
import type { Role } from '@zaguan/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** An undo asks the role that the account has now for the act it performs. */
describe('undo after a role was taken away', () => {
  let world: World;
  let manager: Client;
  beforeAll(async () => {
    world = await makeWorld('undo_rights');
    manager = await signedIn(world.servers[0].url, 'manager');
  });
  afterAll(() => world.close());

  /** The same person with another role, in a session that knows it. */
  const setRole = async (role: Role) => {
    await world.sql.query(
      "update web_session set sess = jsonb_set(sess::jsonb, '{actor,role}', to_jsonb($1::text))::json where sess->'actor'->>'role' is not null",
      [role],
    );
  };
  const account = async () =>
    (await world.sql.query<{ id: string; active: boolean }>("select id, active from account where role = 'read-only'"))
      .rows[0];

  it('brings back no account, reopens no feed, and restores no visit', async () => {
    const reader = await account();
    const archived = dataOf(
      (await manager.send('post', '/setup/account/archive', { ids: [reader.id], active: false })) as never,
    ) as { undo: { id: string } };
    const feed = dataOf(await manager.call(createFeed, { resourceId: PROVIDERS.amaya as never, detailed: false }));
    const revoked = dataOf(await manager.call(revokeFeed, { id: feed.feed.id }));
    const { id } = await bookedVisit(world.servers[0].url, 0);
    const cancelled = dataOf(await manager.call(cancelVisit, { id, reason: 'provider-away', note: '', version: 1 }));
    await setRole('read-only');
    for (const { undo: act } of [archived, revoked, cancelled])
      expect(refusalOf(await manager.call(undo, { id: act.id })).tag).toBe('NotAllowed');
    expect((await account()).active).toBe(false);
    const { rows } = await world.sql.query('select status from appointment where id = $1', [id]);
    expect(rows).toEqual([{ status: 'cancelled' }]);
    // What was refused can still be undone by whoever has the right (again).
    await setRole('coordinator');
    expect(refusalOf(await manager.call(undo, { id: archived.undo.id })).tag).toBe('NotAllowed');
    for (const { undo: act } of [revoked, cancelled])
      expect((await manager.call(undo, { id: act.id })).status).toBe(200);
    await setRole('manager');
    expect((await manager.call(undo, { id: archived.undo.id })).status).toBe(200);
    expect((await account()).active).toBe(true);
  });
});
