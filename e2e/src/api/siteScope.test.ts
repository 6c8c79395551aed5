import {
  acceptTimes,
  upcomingChanges,
  keepTime,
  recordCall,
  scheduleWeek,
  visitsToMove,
} from '@zaguan/contracts/availability';
import { moveVisit } from '@zaguan/contracts/booking';
import { resourceCalendar } from '@zaguan/contracts/feeds';
import { findTimes, whyNot } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, ROOMS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { closeCanalRow } from '../fixtures/closing.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

/** A front desk of Mesa Court alone: what happens at Canal Row is not its business, however it asks. */
describe('somebody who works at one site only', () => {
  let world: World;
  let base: string;
  let mesa: Client;
  let coordinator: Client;
  let visit: { id: string; start: string; version: number };
  let closing: string;
  beforeAll(async () => {
    world = await makeWorld('site_scope');
    base = world.servers[0].url;
    await world.sql.query(
      "delete from account_site where account_id in (select id from account where role = 'front-desk')",
    );
    await world.sql.query(
      "insert into account_site (account_id, site_id) select id, $1 from account where role = 'front-desk'",
      [SITES.mesa],
    );
    mesa = await signedIn(base, 'front-desk');
    coordinator = await signedIn(base, 'coordinator');
    const { id, requested } = await bookedVisit(base, 2);
    closing = (await closeCanalRow(coordinator, requested.start.slice(0, 10))).undo.id;
    const { rows } = await world.sql.query<{ version: number }>('select version from appointment where id = $1', [id]);
    visit = { id, start: requested.start, version: rows[0].version };
  });
  afterAll(() => world.close());

  it('sees the lanes, sites and coming changes of that site only', async () => {
    const week = dataOf(await mesa.call(scheduleWeek, { from: '2026-11-30' }));
    expect(new Set(week.lanes.map(({ siteId }) => siteId))).toEqual(new Set([SITES.mesa]));
    expect(week.sites.map(({ id }) => id)).toEqual([SITES.mesa]);
    expect([week.mayEdit, week.toMove]).toEqual(['none', 0]);
    const { changes } = dataOf(await mesa.call(upcomingChanges, { from: TEST_DAY, days: 60 }));
    expect(changes.filter(({ siteId }) => siteId === SITES.canal)).toEqual([]);
    const all = dataOf(await coordinator.call(upcomingChanges, { from: TEST_DAY, days: 60 })).changes;
    expect(all.some(({ siteId, what }) => siteId === SITES.canal && what === 'closure')).toBe(true);
  });

  it('reads of a calendar what is at that site, and of who works elsewhere only, nothing', async () => {
    const text = async (client: Client, id: string) => {
      const answer = await client.send('get', resourceCalendar.path, { resourceId: id });
      return answer.status === 200 ? answer.text : '';
    };
    const whole = [];
    for (const id of Object.values(PROVIDERS)) {
      whole.push(await text(coordinator, id));
      expect(await text(mesa, id)).not.toContain('Canal Row');
    }
    expect(whole.join('')).toContain('Canal Row');
    expect((await mesa.send('get', resourceCalendar.path, { resourceId: ROOMS[0] })).status).toBe(404);
  });

  it('has no visit to move of another site, and can’t move, call about or leave one', async () => {
    expect(dataOf(await mesa.call(visitsToMove, {})).visits).toEqual([]);
    expect(refusalOf(await mesa.call(visitsToMove, { siteId: SITES.canal })).tag).toBe('NotAllowed');
    const there = dataOf(await coordinator.call(visitsToMove, {})).visits.find((row) => row.appointmentId === visit.id);
    const time = { siteId: SITES.mesa, start: visit.start, providerId: PROVIDERS.dray };
    const taken = dataOf(
      await mesa.call(acceptTimes, { times: [{ appointmentId: visit.id, version: visit.version, ...time }] }),
    );
    expect(taken).toEqual({ moved: 0, refused: [{ appointmentId: visit.id, tag: 'NotAllowed' }], undo: null });
    const own = there?.alternatives[0];
    if (!own) throw new Error('The visit has other times.');
    expect(refusalOf(await mesa.call(moveVisit, { id: visit.id, version: visit.version, ...own })).tag).toBe(
      'NotAllowed',
    );
    expect(refusalOf(await mesa.call(keepTime, { appointmentId: visit.id, reason: 'Stays' })).tag).toBe('NotAllowed');
    expect(refusalOf(await mesa.call(recordCall, { appointmentId: visit.id, outcome: 'spoke' })).tag).toBe(
      'NotAllowed',
    );
    const { rows } = await world.sql.query('select version, site_id from appointment where id = $1', [visit.id]);
    expect(rows[0]).toEqual({ version: visit.version, site_id: SITES.canal });
  });

  it('moves no visit of its own to a site that it does not cover', async () => {
    const { rows } = await world.sql.query<{ id: string; version: number; provider_id: string; starts_at: Date }>(
      "select id, version, provider_id, starts_at from appointment where site_id = $1 and status = 'booked' and starts_at > '2026-12-03' order by starts_at limit 1",
      [SITES.mesa],
    );
    const [mine] = rows;
    const start = mine.starts_at.toISOString();
    const away = await mesa.call(moveVisit, {
      ...{
        id: mine.id as never,
        version: mine.version,
        siteId: SITES.canal,
        start,
        providerId: mine.provider_id as never,
      },
    });
    expect(refusalOf(away).tag).toBe('NotAllowed');
    // Whoever covers both is told by the rules, not by the right.
    const asked = await coordinator.call(moveVisit, {
      ...{
        id: mine.id as never,
        version: mine.version,
        siteId: SITES.canal,
        start,
        providerId: mine.provider_id as never,
      },
    });
    expect(refusalOf(asked).tag).not.toBe('NotAllowed');
  });

  it('searches and explains at its own site only', async () => {
    const requested = (siteIds: string[]) => ({
      members: [{ visitTypeId: TYPES.follow, kind: 'established' as const }],
      ...{
        channel: 'desk' as const,
        siteIds: siteIds as never,
        providerIds: null,
        from: TEST_DAY,
        days: 14,
        weekdays: null,
      },
      ...{ fromMinute: 0, toMinute: 1440, language: null, series: null },
      household: { how: 'back-to-back' as const, mostWaitMin: 0 },
    });
    expect(refusalOf(await mesa.call(findTimes, requested([SITES.mesa, SITES.canal]))).tag).toBe('NotAllowed');
    const found = dataOf(await mesa.call(findTimes, requested([SITES.mesa])));
    expect(found.times.length).toBeGreaterThan(0);
    expect(found.times.every(({ siteId }) => siteId === SITES.mesa)).toBe(true);
    // What to give up never leads to a site that is not its own.
    const narrow = { ...requested([SITES.mesa]), fromMinute: 0, toMinute: 5 };
    const { relaxations } = dataOf(await mesa.call(findTimes, narrow));
    expect(relaxations.length).toBeGreaterThan(0);
    expect(relaxations.every(({ giveUp, first }) => !giveUp.includes('site') && first.siteId === SITES.mesa)).toBe(
      true,
    );
    const question = { visitTypeId: TYPES.follow, kind: 'established' as const, channel: 'desk' as const };
    const at = (siteId: string) =>
      mesa.call(whyNot, { ...question, siteId: siteId as never, providerId: PROVIDERS.dray, start: visit.start });
    expect(refusalOf(await at(SITES.canal)).tag).toBe('NotAllowed');
    expect(dataOf(await at(SITES.mesa)).answers.length).toBeGreaterThan(20);
  });

  it('can’t take back what somebody else did', async () => {
    expect((await mesa.call(undo, { id: closing })).status).not.toBe(200);
    expect(dataOf(await coordinator.call(visitsToMove, {})).visits.length).toBeGreaterThan(0);
    dataOf(await coordinator.call(undo, { id: closing }));
    expect(dataOf(await coordinator.call(visitsToMove, {})).visits).toEqual([]);
  });
});
