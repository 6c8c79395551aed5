import { readBusyTimes } from '@zaguan/contracts/feeds';
import { findTimes } from '@zaguan/contracts/openings';
import { readClosures } from '@zaguan/contracts/setup';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { healthTimes, howLate, PROBED, percentileOf } from '../fixtures/loop.ts';
import type { RunningServer } from '../fixtures/server.ts';
import { makeWorld, ownServer, TEST_DAY, type World } from '../fixtures/world.ts';

const event = (...lines: string[]) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT'].join('\r\n');
const calendar = (...events: string[]) =>
  `${['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//test//EN', ...events, 'END:VCALENDAR'].join('\r\n')}\r\n`;
const plain = (i: number) =>
  event(`UID:plain-${i}`, `SUMMARY:Day ${i}`, `DTSTART;VALUE=DATE:202612${String(1 + (i % 28)).padStart(2, '0')}`);
/** Rules that meet no date, or find each only after a long search (RFC 5545 §3.3.10: February has no 30th). */
const ENDLESS = [
  'FREQ=MINUTELY;BYMONTH=2;BYMONTHDAY=30',
  'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31',
  'FREQ=SECONDLY;BYMONTH=1',
  'FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=30;BYHOUR=3',
];

describe('work that takes long', () => {
  let world: World;
  let server: RunningServer;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('heavy', { processes: 0 });
    server = await ownServer(world, PROBED);
    base = server.url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(async () => {
    await server.stop();
    await world.close();
  });

  const read = (text: string) => desk.call(readClosures, { timeZone: 'America/Denver', calendar: text });
  /** What everyone else meets while something goes on. */
  const meanwhile = async <T>(work: Promise<T>) => {
    await howLate(server);
    let done = false;
    const [result, times] = await Promise.all([
      work.finally(() => {
        done = true;
      }),
      healthTimes(base, () => done),
    ]);
    return { result, health: percentileOf(times, 0.95), late: await howLate(server) };
  };

  // Another test may have the processors for a moment; a blocked server fails every time.
  for (const rule of ENDLESS)
    it(`reads a file with the rule ${rule} within its two seconds, and stops nobody`, { retry: 2 }, async () => {
      const from = performance.now();
      const endless = event(
        'UID:endless',
        'SUMMARY:Never',
        'DTSTART:20260101T090000Z',
        'DURATION:PT1H',
        `RRULE:${rule}`,
      );
      const { result, late } = await meanwhile(read(calendar(plain(1), endless, plain(2))));
      expect(performance.now() - from).toBeLessThan(3_000);
      expect(late.p99).toBeLessThan(50);
      // What was refused is named; the rest of the file is there.
      const { refused, closures } = dataOf(result);
      expect(refused).toMatchObject([{ at: 2, summary: 'Never' }]);
      expect(closures.map(({ reason }) => reason)).toEqual(['Day 1', 'Day 2']);
    });

  it('names the event at which a file was given up, and says that nothing was read', async () => {
    const many = Array.from({ length: 20 }, (_, i) =>
      event(`UID:e${i}`, 'DTSTART:20260101T090000Z', 'DURATION:PT1H', `RRULE:${ENDLESS[0]}`),
    );
    const from = performance.now();
    const refused = refusalOf(await read(calendar(...many)));
    // Two events that hold a thread up, and the start of two threads on a busy machine.
    expect(performance.now() - from).toBeLessThan(8_000);
    expect(refused).toMatchObject({
      tag: 'SetupRefused',
      issues: [{ path: 'calendar', code: 'calendar-too-heavy' }],
      facts: { at: expect.any(Number) },
    });
    const busy = await desk.call(readBusyTimes, { resourceId: PROVIDERS.amaya, text: calendar(...many) });
    expect(dataOf(busy)).toMatchObject({ readable: true, busy: [], refused: [{ code: 'takes-too-long' }] });
  });

  it('reads 6,000 plain events while everyone else is answered', { retry: 2 }, async () => {
    const { result, late } = await meanwhile(read(calendar(...Array.from({ length: 6_000 }, (_, i) => plain(i)))));
    expect(dataOf(result).closures).toHaveLength(6_000);
    expect(late.p99).toBeLessThan(50);
  });

  it('refuses a file that is no calendar, and goes on reading others afterwards', async () => {
    expect(refusalOf(await read('BEGIN:NOTHING')).issues).toEqual([{ path: 'calendar', code: 'not-a-calendar' }]);
    expect(dataOf(await read(calendar(plain(1)))).closures).toHaveLength(1);
  });

  it('finds times for a household in a thread of its own: nobody else waits', { retry: 2 }, async () => {
    const quiet = await meanwhile(new Promise((resolve) => setTimeout(resolve, 1_000)));
    const ask = (who: Client, days: number, types: readonly string[]) =>
      who.call(findTimes, {
        members: types.map((visitTypeId) => ({ visitTypeId, kind: 'established' as const })),
        channel: 'desk',
        siteIds: Object.values(SITES),
        providerIds: null,
        from: TEST_DAY,
        days,
        weekdays: null,
        fromMinute: 0,
        toMinute: 1440,
        language: null,
        household: { how: 'side-by-side', mostWaitMin: 60 },
        series: null,
      });
    const reader = await signedIn(base, 'read-only');
    const types = Object.values(TYPES).slice(0, 5);
    const five = await meanwhile(Promise.all([ask(reader, 120, types), ask(desk, 120, types.slice(0, 4))]));
    for (const answer of five.result) expect(answer.status).toBe(200);
    expect(five.late.p99).toBeLessThan(50);
    // Idle, a call takes about a millisecond; what is measured is whether it ever waits.
    expect(five.health).toBeLessThan(Math.max(5 * quiet.health, 10));
  });

  // Which of two calls reaches the threads first is not in our hands: it is tried again where the second one did.
  it('ends a search when its account asks another, with what it has', { retry: 3 }, async () => {
    const criteria = (days: number) => ({
      // They can come together: no bound answers at once.
      members: Array.from({ length: 4 }, () => ({ visitTypeId: TYPES.follow, kind: 'established' as const })),
      channel: 'desk' as const,
      siteIds: Object.values(SITES),
      providerIds: null,
      from: TEST_DAY,
      days,
      weekdays: null,
      fromMinute: 0,
      toMinute: 1440,
      language: null,
      household: { how: 'side-by-side' as const, mostWaitMin: 240 },
      series: null,
    });
    // A server whose thread has yet to start: the first search surely waits for it.
    const fresh = await ownServer(world);
    const asking = await signedIn(fresh.url, 'coordinator');
    const one = { ...criteria(1), members: criteria(1).members.slice(0, 1) };
    const [first, second] = await Promise.all([
      asking.call(findTimes, criteria(120)),
      new Promise((resolve) => setTimeout(resolve, 20)).then(() => asking.call(findTimes, one)),
    ]);
    await fresh.stop();
    expect(dataOf(first).gaveUp).toBe(true);
    expect(dataOf(second).gaveUp).toBe(false);
  });
});
