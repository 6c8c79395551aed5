import { setStatus } from '@zaguan/contracts/booking';
import { daybookDay, unfoldDay, setDelay } from '@zaguan/contracts/daybook';
import { visitMessages } from '@zaguan/contracts/messages';
import { openLink } from '@zaguan/contracts/patientVisit';
import { publicDays, publicTimes } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { delayRounds } from '../../../server/src/features/daybook/index.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedAt, FOLLOW_UP, MARTA, type RequestedTime } from '../fixtures/patient.ts';
import { linkOn } from '../fixtures/link.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('a provider who runs late', () => {
  let world: World;
  let base: string;
  let desk: Client;
  /** Two visits of one provider on one day, the second well over two hours after the first. */
  let early: { id: string; start: string };
  let late: { id: string; start: string };
  let of: { siteId: string; resourceId: string; date: string };
  beforeAll(async () => {
    world = await makeWorld('delays');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
    const [first, second] = await farApart();
    early = { id: (await bookedAt(base, first)).id, start: first.start };
    const rosa = { ...MARTA, givenName: 'Rosa', contact: '(312) 555-0143' };
    late = { id: (await bookedAt(base, second, rosa)).id, start: second.start };
    of = { siteId: SITES.canal, resourceId: first.providerId ?? '', date: early.start.slice(0, 10) };
  });
  afterAll(() => world.close());

  /** Two free times of one provider on one day, two hours and a half apart at least. */
  async function farApart(): Promise<[RequestedTime, RequestedTime]> {
    const patient = new Client(base);
    const { days } = dataOf(await patient.call(publicDays, FOLLOW_UP));
    for (const { date } of days.slice(2).filter(({ starts }) => starts > 1)) {
      const { lanes } = dataOf(await patient.call(publicTimes, { ...FOLLOW_UP, date }));
      for (const { providerId, starts } of lanes) {
        // An hour before nine o’clock in Chicago is no quiet hour any more.
        const [start] = starts.filter((each) => new Date(each).getUTCHours() >= 15);
        const end = starts.at(-1);
        if (start && end && Date.parse(end) - Date.parse(start) >= 150 * 60_000)
          return [
            { ...FOLLOW_UP, providerId, start },
            { ...FOLLOW_UP, providerId, start: end },
          ];
      }
    }
    throw new Error('The demo has no such day.');
  }

  const say = (minutes: number, was: number, who = desk, more: object = {}) =>
    who.call(setDelay, { ...of, minutes, was, ...more } as never);
  const onDay = async () => {
    const { sites } = unfoldDay(dataOf(await desk.call(daybookDay, { date: of.date, siteId: of.siteId })));
    return sites[0].delays;
  };
  const messages = async (id: string) =>
    dataOf(await desk.call(visitMessages, { id: id as never })).messages.filter(
      ({ kind, status }) => ['delay', 'on-time'].includes(kind) && status !== 'withdrawn',
    );
  const delivered = (id: string, count: number) =>
    until(async () => {
      const found = (await messages(id)).filter(({ status }) => status === 'delivered');
      return found.length === count ? found : null;
    }, `${count} messages about a delay`);
  /** The clock so many minutes before an instant. */
  const setBefore = (start: string, minutes: number) =>
    world.sql.query('update domain_clock set offset_ms = $1', [Date.parse(start) - minutes * 60_000 - Date.now()]);
  const bodies = async (number: string) =>
    (
      await world.sql.query<{ body: string }>(
        "select body from simulated.sms where number = $1 and direction = 'to-patient' order by seq",
        [number],
      )
    ).rows.map(({ body }) => body);

  it('is late today only, where there is such a lane, at a site that is one’s own', async () => {
    expect(refusalOf(await say(20, 0)).issues).toEqual([{ path: 'date', code: 'not-today' }]);
    await setBefore(early.start, 60);
    expect(refusalOf(await say(20, 0, desk, { resourceId: '00000000-0000-4000-8000-000000000000' })).tag).toBe(
      'NotFound',
    );
    expect(refusalOf(await say(0, 0)).issues).toEqual([{ path: 'minutes', code: 'nothing-changes' }]);
    for (const minutes of [3, 241, -10, 12.5])
      expect([minutes, (await say(minutes, 0)).status]).toEqual([minutes, 400]);
    const reader = await signedIn(base, 'read-only');
    expect(refusalOf(await say(20, 0, reader)).tag).toBe('NotAllowed');
    const frontDesk = await signedIn(base, 'front-desk');
    expect(refusalOf(await say(20, 0, frontDesk, { siteId: SITES.mesa })).tag).toBe('NotAllowed');
    expect(await onDay()).toEqual([]);
  });

  it('is told of to those at home whose visit is near, with the time at which it starts; the desk sees whom to call', async () => {
    const { told, toCall } = dataOf(await say(20, 0));
    expect(told).toBeGreaterThan(0);
    await delivered(early.id, 1);
    const [text] = (await bodies('+13125550142')).slice(-1);
    const about = new Intl.DateTimeFormat('en-US', { timeZone: 'America/Chicago', hour: 'numeric', minute: '2-digit' })
      .format(Date.parse(early.start) + 20 * 60_000)
      .replace(/\s([AP])M/u, (_, half: string) => ` ${half.toLowerCase()}m`);
    expect(text).toContain(`start about ${about}`);
    expect(text).toContain('20 min late');
    // What begins in more than three hours may be on time again by then.
    expect(await messages(late.id)).toEqual([]);
    const [delay] = await onDay();
    expect(delay).toMatchObject({ resourceId: of.resourceId, minutes: 20 });
    expect(delay.toCall).toHaveLength(toCall);
    expect(delay.toCall).not.toContain(early.id);
    // The patient's own page says it too, as long as it is so.
    const seen = async (id: string) => {
      const token = await linkOn(world, id);
      const asked = { token, birthDate: MARTA.birthDate, language: 'en' as const };
      return dataOf(await new Client(base).call(openLink, asked)).visit.startsAbout;
    };
    expect(await seen(early.id)).toBe(new Date(Date.parse(early.start) + 20 * 60_000).toISOString());
    expect(await seen(late.id)).toBeNull();
  });

  it('is said once by two desks at the same moment, and by nobody who saw something else', async () => {
    const other = await signedIn(base, 'manager');
    const refused = refusalOf(await say(45, 0, other));
    expect(refused).toMatchObject({ tag: 'ChangedMeanwhile', facts: { minutes: 20 } });
    dataOf(await say(0, 20));
    const answers = await Promise.all([say(30, 0), say(45, 0, other)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { rows } = await world.sql.query('select minutes from provider_delay where ended_at is null');
    expect(rows).toHaveLength(1);
    dataOf(await say(20, rows[0].minutes));
  });

  it('on time again is told to who was told, and an undo tells of the delay again', async () => {
    await until(async () => (await messages(early.id)).every(({ status }) => status === 'delivered'), 'all out');
    const before = (await messages(early.id)).length;
    const done = dataOf(await say(0, 20));
    await delivered(early.id, before + 1);
    expect((await bodies('+13125550142')).at(-1)).toMatch(/caught up\. Please come at/);
    expect(await onDay()).toEqual([]);
    expect((await desk.call(undo, { id: done.undo.id })).status).toBe(200);
    await delivered(early.id, before + 2);
    expect((await bodies('+13125550142')).at(-1)).toContain('20 min late');
    expect(await onDay()).toMatchObject([{ minutes: 20 }]);
  });

  it('is told of by itself to those whose visit comes near, once', async () => {
    const orm = await prepareDatabase(world.url);
    const rounds = delayRounds({
      ...{ orm, relay: { kick: () => undefined } as never, clinic: undefined as never },
      ...{ linkSecret: 'a secret only for tests, forty characters' },
      addresses: { publicUrl: base, mailFrom: 'clinic@example.org' },
    });
    await rounds();
    expect(await messages(late.id)).toEqual([]);
    await setBefore(late.start, 120);
    await rounds();
    await rounds();
    await delivered(late.id, 1);
    // A number that takes no messages is called, not written to again and again.
    await world.sql.query(
      "update message set status = 'failed', fail_reason = 'test' where appointment_id = $1 and kind = 'delay'",
      [late.id],
    );
    await rounds();
    await orm.close(true);
    expect(await messages(late.id)).toHaveLength(1);
    expect((await onDay())[0].toCall).toContain(late.id);
  });

  it('is not told of to who is here', async () => {
    const { rows } = await world.sql.query<{ version: number }>('select version from appointment where id = $1', [
      late.id,
    ]);
    dataOf(await desk.call(setStatus, { id: late.id as never, to: 'arrived', version: rows[0].version }));
    const before = (await messages(late.id)).length;
    dataOf(await say(60, 20));
    expect(await messages(late.id)).toHaveLength(before);
    expect((await onDay())[0].toCall).not.toContain(late.id);
  });

  it('holds for no other day', async () => {
    const { sites } = unfoldDay(dataOf(await desk.call(daybookDay, { date: TEST_DAY })));
    expect(sites.flatMap(({ delays }) => delays)).toEqual([]);
  });
});
