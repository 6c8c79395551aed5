import { assignFlag, claimWork, countWork, todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

describe('a red flag given to a clinician', () => {
  let world: World;
  let desk: Client;
  let manager: Client;
  let frontDesk: Client;
  let doctor: Client;
  beforeAll(async () => {
    world = await makeWorld('flag_assigned');
    const base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
    manager = await signedIn(base, 'manager');
    frontDesk = await signedIn(base, 'front-desk');
    doctor = await signedIn(base, 'provider');
  });
  afterAll(() => world.close());

  const today = async (who: Client) => dataOf(await who.call(todaysWork, {}));
  const flagOf = async (who: Client) => {
    const found = (await today(who)).work.find((row) => row.kind === 'red-flag');
    if (found?.kind !== 'red-flag') throw new Error('The excerpt has one red flag.');
    return found;
  };
  const counted = async (who: Client) => dataOf(await who.call(countWork, {})).redFlags;

  it('goes only to who may clear it, stays in sight, and counts at the desk again after half an hour', async () => {
    const { id, mayAssign } = await flagOf(desk);
    const [clinician] = (await today(desk)).clinicians;
    expect([mayAssign, await counted(desk), await counted(doctor)]).toEqual([true, 1, 1]);
    const { rows } = await world.sql.query<{ id: string }>("select id from account where role = 'front-desk' limit 1");
    expect(refusalOf(await desk.call(assignFlag, { id, accountId: rows[0].id })).tag).toBe('NotAllowed');
    const given = dataOf(await desk.call(assignFlag, { id, accountId: clinician.accountId }));
    expect(await flagOf(desk)).toMatchObject({ owner: { name: clinician.name, mine: false }, mayAssign: false });
    expect([await counted(desk), await counted(doctor)]).toEqual([0, 1]);
    // Nobody of another site has to do with it, and nobody else takes it from them meanwhile.
    expect(refusalOf(await frontDesk.call(assignFlag, { id, accountId: clinician.accountId })).tag).toBe('NotAllowed');
    expect(refusalOf(await manager.call(assignFlag, { id, accountId: clinician.accountId })).tag).toBe('TakenBy');
    expect(refusalOf(await manager.call(claimWork, { kind: 'red-flag', id, take: true })).tag).toBe('TakenBy');
    await passMinutes(world, 30);
    expect(await flagOf(desk)).toMatchObject({ withClinicianUntil: null, mayAssign: true });
    expect(await counted(desk)).toBe(1);
    // Given again, by whoever sees it; and what was given by others is not taken back by an old undo.
    dataOf(await manager.call(assignFlag, { id, accountId: clinician.accountId }));
    expect(await counted(desk)).toBe(0);
    expect(refusalOf(await desk.call(undo, { id: given.undo.id })).tag).toBe('ChangedMeanwhile');
  });
});
