import { findTimes, type TimesCriteria } from '@zaguan/contracts/openings';
import { places } from '@zaguan/contracts/setup';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, ROOMS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('finding a time', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('find_times');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());

  const criteria = (more: Partial<TimesCriteria> = {}): TimesCriteria => ({
    members: [{ visitTypeId: TYPES.follow, kind: 'established' }],
    channel: 'desk',
    siteIds: [SITES.canal, SITES.mesa],
    providerIds: null,
    from: TEST_DAY,
    days: 14,
    weekdays: null,
    fromMinute: 0,
    toMinute: 1440,
    language: null,
    household: { how: 'back-to-back', mostWaitMin: 0 },
    series: null,
    ...more,
  });
  const ask = async (more: Partial<TimesCriteria> = {}) => {
    const answer = dataOf(await desk.call(findTimes, criteria(more)));
    // The first search waits for its thread to begin: where others take the machine, longer than anyone may wait for it.
    return answer.gaveUp ? dataOf(await desk.call(findTimes, criteria(more))) : answer;
  };

  it('gives times in order, the first with each provider, and the count of every day', async () => {
    const found = await ask();
    expect(found.times.length).toBeGreaterThan(10);
    expect([...found.times].sort((a, b) => a.date.localeCompare(b.date) || a.start.localeCompare(b.start))).toEqual(
      found.times,
    );
    expect(found.perProvider.map(({ providerId }) => providerId)).toContain(PROVIDERS.dray);
    expect(found.counts.every(({ date, starts }) => date >= TEST_DAY && starts > 0)).toBe(true);
    expect(found.relaxations).toEqual([]);
  });

  it('keeps to site, provider, weekday and hour, and says what to give up where nothing is left', async () => {
    const found = await ask({
      siteIds: [SITES.mesa],
      providerIds: [PROVIDERS.lund],
      weekdays: [3],
      fromMinute: 600,
      toMinute: 720,
    });
    expect(found.times.length).toBeGreaterThan(0);
    expect(new Set(found.times.map(({ siteId, providerId }) => `${siteId} ${providerId}`))).toEqual(
      new Set([`${SITES.mesa} ${PROVIDERS.lund}`]),
    );
    // Teo Lund works at Mesa Court on Wednesdays and Thursdays, until four.
    const none = await ask({
      siteIds: [SITES.mesa],
      providerIds: [PROVIDERS.lund],
      weekdays: [3],
      fromMinute: 1000,
      toMinute: 1020,
    });
    expect(none.times).toEqual([]);
    expect(none.relaxations.map(({ giveUp }) => giveUp)).toContainEqual(['hour']);
    expect(none.relaxations.every(({ giveUp }) => giveUp.length === 1)).toBe(true);
  });

  it('keeps to what somebody needs to get about, as rooms and sites say it in set-up', async () => {
    const skin = (access: TimesCriteria['access']) =>
      ask({ members: [{ visitTypeId: TYPES.skin, kind: 'established' }], siteIds: [SITES.canal], access });
    const all = (await skin([])).times.length;
    expect(all).toBeGreaterThan(0);
    const none = await skin(['patient-lift']);
    expect([none.times.length, none.relaxations.map(({ giveUp }) => giveUp)]).toEqual([0, [['access']]]);
    const manager = await signedIn(world.servers[0].url, 'manager');
    const [room] = dataOf(await manager.call(places.list, {})).records.filter(({ id }) => id === ROOMS[0]);
    expect(room.doc.access).toEqual([]);
    const save = (access: string[]) =>
      manager.call(places.save, {
        records: [{ id: room.id, version: room.version, doc: { ...room.doc, access: access as never } }],
      });
    expect(refusalOf(await save(['ramp'])).issues?.[0].path).toBe('records.0.doc.access.0');
    expect(refusalOf(await save(['patient-lift', 'patient-lift'])).issues?.[0].code).toBe('twice');
    dataOf(await save(['patient-lift']));
    const some = (await skin(['patient-lift'])).times;
    expect(some.length).toBeGreaterThan(0);
    // A visit that needs no room asks the site itself.
    expect((await ask({ siteIds: [SITES.canal], access: ['patient-lift'] })).times).toEqual([]);
  });

  it('finds times for three people one after the other, and two at the same time', async () => {
    const three = Array.from({ length: 3 }, () => ({ visitTypeId: TYPES.follow, kind: 'established' as const }));
    const { together } = await ask({ members: three });
    const [first] = together;
    const inOrder = [...first].sort((a, b) => a.start.localeCompare(b.start));
    expect(inOrder).toHaveLength(3);
    for (let i = 1; i < 3; i++) expect(inOrder[i].start).toBe(inOrder[i - 1].end);
    const beside = await ask({ members: three.slice(0, 2), household: { how: 'side-by-side', mostWaitMin: 0 } });
    const [pair] = beside.together;
    expect([pair[0].start === pair[1].start, pair[0].providerId === pair[1].providerId]).toEqual([true, false]);
  });

  it('finds a series, each visit the same weekday and hour if it can', async () => {
    const { together } = await ask({ series: { everyWeeks: 4, count: 4, toleranceDays: 2, sameProvider: true } });
    const [series] = together;
    expect(series).toHaveLength(4);
    expect(new Set(series.map(({ providerId }) => providerId)).size).toBe(1);
    const days = series.map(({ date }) => Date.parse(date) / 86_400_000);
    for (let i = 1; i < 4; i++) expect(Math.abs(days[i] - days[0] - 28 * i)).toBeLessThanOrEqual(2);
  });

  it.each([
    [
      'every 0 weeks',
      { series: { everyWeeks: 0, count: 4, toleranceDays: 0, sameProvider: true } },
      'series.everyWeeks',
      'every-zero',
    ],
    ['no site', { siteIds: [] }, 'siteIds', 'no-site'],
    ['an hour that ends before it begins', { fromMinute: 720, toMinute: 600 }, 'toMinute', 'empty-stretch'],
    [
      'a series of several people',
      {
        members: Array(2).fill({ visitTypeId: TYPES.follow, kind: 'new' }),
        series: { everyWeeks: 1, count: 2, toleranceDays: 0, sameProvider: true },
      },
      'series',
      'series-of-one',
    ],
  ])('refuses %s', async (_what, more, path, code) => {
    const answer = await desk.send('post', '/openings/times', criteria(more as Partial<TimesCriteria>));
    expect(refusalOf(answer).issues).toEqual([{ path, code }]);
  });

  it('tells whoever asks for what is not there', async () => {
    const answer = await desk.call(
      findTimes,
      criteria({ members: [{ visitTypeId: crypto.randomUUID(), kind: 'new' }] }),
    );
    expect(refusalOf(answer).tag).toBe('NotFound');
  });
});
