import { daybookDay, unfoldDay, daybookMonth } from '@zaguan/contracts/daybook';
import { timesOfDay } from '@zaguan/contracts/desk';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { newPatients } from '../fixtures/deskBookings.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('a month of a site', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('month');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());
  const month = (of: string, more: object = {}, who = desk) =>
    who.call(daybookMonth, { month: of, siteId: SITES.canal, ...more } as never);

  it('has every date, those of February in a leap year too', async () => {
    const dates = async (of: string) => dataOf(await month(of)).days.map(({ date }) => date);
    expect(await dates('2026-12')).toHaveLength(31);
    expect((await dates('2027-02')).at(-1)).toBe('2027-02-28');
    expect((await dates('2028-02')).at(-1)).toBe('2028-02-29');
    expect((await dates('2026-12'))[0]).toBe('2026-12-01');
  });

  it('counts the visits that the Daybook draws, each once', async () => {
    const { days, today } = dataOf(await month(TEST_DAY.slice(0, 7)));
    expect(today).toBe(TEST_DAY);
    for (const { date, booked } of days.slice(0, 5)) {
      const { sites } = unfoldDay(dataOf(await desk.call(daybookDay, { date, siteId: SITES.canal })));
      const drawn = sites[0].lanes.flatMap(({ plates }) => plates.filter(({ kind }) => kind === 'visit'));
      expect([date, booked]).toEqual([date, new Set(drawn.map(({ id }) => id)).size]);
    }
    expect(days.every(({ left }) => left === null)).toBe(true);
  });

  it('says of a visit type what is left: none where the desk finds no time, never more than there are start times', async () => {
    const [patientId] = await newPatients(world.sql, 1);
    const { days } = dataOf(await month('2026-12', { visitTypeId: TYPES.follow }));
    let some = 0;
    for (const { date, left, closed } of days.slice(2, 12)) {
      const asked = { patientId, visitTypeId: TYPES.follow, siteId: SITES.canal, date };
      const { times } = dataOf(await desk.call(timesOfDay, asked as never));
      expect([date, (left ?? 0) > 0]).toEqual([date, times.length > 0]);
      expect(left ?? 0).toBeLessThanOrEqual(times.length);
      if (closed) expect(left).toBe(0);
      some += left ?? 0;
    }
    expect(some).toBeGreaterThan(20);
  });

  it('is refused for what is no month, no site, no type, or somebody else’s site', async () => {
    for (const of of ['2026-13', '2026-1', '1850-01', 'foo', '2026-12-01'])
      expect([of, (await month(of)).status]).toEqual([of, 400]);
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect(refusalOf(await month('2026-12', { siteId: nobody })).tag).toBe('NotFound');
    expect(refusalOf(await month('2026-12', { visitTypeId: nobody })).tag).toBe('NotFound');
    const frontDesk = await signedIn(world.servers[0].url, 'front-desk');
    expect(refusalOf(await month('2026-12', { siteId: SITES.mesa }, frontDesk)).tag).toBe('NotAllowed');
  });
});
