import { editSchedule, scheduleWeek } from '@zaguan/contracts/availability';
import { createFeed, listFeeds, readBusyTimes, readFeed, resourceCalendar, revokeFeed } from '@zaguan/contracts/feeds';
import { publicTimes } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { Fhir } from 'fhir';
import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, ROOMS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP } from '../fixtures/patient.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

const fhir = new Fhir();
/** What is wrong by the standard; a code of one's own where it only gives examples is none of that. */
const faults = (resource: object) =>
  fhir.validate(resource, { errorOnUnexpected: true }).messages.filter(({ severity }) => severity === 'error');

describe('schedules go out and come in', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('exchange');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const textOf = async (path: string, client = desk) => {
    const response = await fetch(`${base}/api${path}`, { headers: { cookie: client.cookieHeader() } });
    return { status: response.status, type: response.headers.get('content-type') ?? '', text: await response.text() };
  };
  const eventsOf = (text: string) =>
    new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((each) => new ICAL.Event(each));

  describe('as iCalendar (RFC 5545; read back by ical.js)', () => {
    it('a person’s file tells when and where they are busy, in UTC, and nothing else', async () => {
      const { requested } = await bookedVisit(base);
      const { status, type, text } = await textOf(`/calendars/${requested.providerId}`);
      expect([status, type]).toEqual([200, 'text/calendar; charset=utf-8']);
      const events = eventsOf(text);
      const mine = events.find((event) => event.startDate.toJSDate().toISOString() === requested.start);
      expect([mine?.summary, mine?.location]).toEqual(['Busy', 'Canal Row']);
      expect(events.every((event) => event.startDate.zone === ICAL.Timezone.utcTimezone)).toBe(true);
      expect(new Set(events.map((event) => event.uid)).size).toBe(events.length);
      expect(text).not.toMatch(/Ruiz|Marta|Follow/);
      // §3.1: lines of at most 75 octets, ended by CRLF.
      expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
      expect(text.replaceAll('\r\n', '')).not.toContain('\n');
      expect((await desk.send('get', resourceCalendar.path, { resourceId: ROOMS[0] })).status).toBe(200);
    });

    it('a private address is shown once, kept as a hash, followed without signing in, and ended at once', async () => {
      const made = dataOf(await desk.call(createFeed, { resourceId: PROVIDERS.amaya as never, detailed: false }));
      const stranger = new Client(base);
      const path = made.path.replace('/api', '');
      const { status, text } = await textOf(path, stranger);
      expect([status, eventsOf(text).length > 0, text.includes('Follow-up')]).toEqual([200, true, false]);
      // Asked for again and again by calendars: what is not new is said in a word.
      const once = await fetch(`${base}${made.path}`);
      expect(once.headers.get('content-disposition')).toContain('filename="schedule.ics"');
      expect(once.headers.get('cache-control')).toBe('private, no-cache');
      // Hours later too: nothing in it is the time at which it is asked for.
      await passMinutes(world, 120);
      const again = await fetch(`${base}${made.path}`, {
        // Not as this client asks by itself, which wants no answer from before.
        cache: 'no-cache',
        headers: { 'if-none-match': once.headers.get('etag') ?? '' },
      });
      expect([again.status, await again.text()]).toEqual([304, '']);
      await passMinutes(world, -120);
      const { rows } = await world.sql.query<{ token_hash: Buffer }>('select token_hash from calendar_feed');
      expect(rows.every((row) => !made.path.includes(row.token_hash.toString('base64url')))).toBe(true);
      const detailed = dataOf(await desk.call(createFeed, { resourceId: PROVIDERS.amaya as never, detailed: true }));
      const more = await textOf(detailed.path.replace('/api', ''), stranger);
      expect(eventsOf(more.text).map(({ summary }) => summary)).not.toContain('Busy');
      expect(more.text).not.toMatch(/Ruiz|Marta/);
      const listed = dataOf(await desk.call(listFeeds, { resourceId: PROVIDERS.amaya as never })).feeds;
      expect(listed.map((feed) => [feed.detailed, feed.lastReadAt !== null])).toEqual([
        [false, true],
        [true, true],
      ]);
      const ended = dataOf(await desk.call(revokeFeed, { id: made.feed.id }));
      expect((await textOf(path, stranger)).status).toBe(404);
      expect((await desk.call(undo, { id: ended.undo.id })).status).toBe(200);
      expect((await textOf(path, stranger)).status).toBe(200);
      expect(refusalOf(await stranger.call(readFeed, { token: 'x'.repeat(43) })).tag).toBe('NotFound');
    });

    it('is nobody else’s to open: a provider has their own schedule alone, read-only staff none', async () => {
      const provider = await signedIn(base, 'provider');
      const make = (client: Client, resourceId: string) =>
        client.call(createFeed, { resourceId: resourceId as never, detailed: false });
      expect(refusalOf(await make(provider, PROVIDERS.dray)).tag).toBe('NotAllowed');
      expect((await make(provider, PROVIDERS.amaya)).status).toBe(200);
      expect(refusalOf(await make(await signedIn(base, 'read-only'), PROVIDERS.amaya)).tag).toBe('NotAllowed');
    });
  });

  describe('busy times from another calendar', () => {
    const file = (...events: string[][]) =>
      [
        'BEGIN:VCALENDAR',
        'VERSION:2.0',
        'PRODID:-//test//EN',
        ...events.flatMap((lines) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT']),
        'END:VCALENDAR',
        '',
      ].join('\r\n');
    const read = async (text: string) =>
      dataOf(await desk.call(readBusyTimes, { resourceId: PROVIDERS.lund as never, text }));

    it('come on each site’s clock, rounded outward; free, cancelled and unread ones are named', async () => {
      const found = await read(
        file(
          [
            'UID:1',
            'SUMMARY:Lecture',
            'DTSTART;TZID=America/Chicago:20270301T100200',
            'DTEND;TZID=America/Chicago:20270301T105800',
          ],
          ['UID:2', 'SUMMARY:Maybe', 'TRANSP:TRANSPARENT', 'DTSTART:20270302T100000Z', 'DTEND:20270302T110000Z'],
          ['UID:3', 'SUMMARY:Off', 'STATUS:CANCELLED', 'DTSTART:20270302T100000Z', 'DTEND:20270302T110000Z'],
          ['UID:4', 'SUMMARY:Moon', 'DTSTART;TZID=Moon/Base:20270302T100000', 'DTEND;TZID=Moon/Base:20270302T110000'],
          ['UID:5', 'SUMMARY:Odd', 'DTSTART:20270302T100000Z', 'DTEND:20270302T110000Z', 'RRULE:FREQ=SECONDLY'],
          ['UID:6', 'SUMMARY:Long ago', 'DTSTART:20200302T100000Z', 'DTEND:20200302T110000Z'],
        ),
      );
      // Chicago is an hour ahead of Denver.
      expect(
        found.busy.map(({ siteId, startDate, startMinute, endMinute, summary }) => [
          siteId,
          startDate,
          startMinute,
          endMinute,
          summary,
        ]),
      ).toEqual([
        [SITES.canal, '2027-03-01', 600, 660, 'Lecture'],
        [SITES.mesa, '2027-03-01', 540, 600, 'Lecture'],
      ]);
      expect(found.refused.map(({ at, code }) => [at, code])).toEqual([
        [2, 'not-busy'],
        [3, 'not-busy'],
        [4, 'unknown-zone'],
        [5, 'too-many-repeats'],
      ]);
    });

    it('come without what was cancelled or moved away, two years of a weekday lunch, under names that the file explains', async () => {
      const { busy, refused } = await read(
        file(
          [
            'UID:lunch',
            'SUMMARY:Lunch',
            'DTSTART;TZID=Mountain Standard Time:20190107T120000',
            'DURATION:PT1H',
            'RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
            'EXDATE:20270301T190000Z',
          ],
          [
            'UID:lunch',
            'RECURRENCE-ID:20270302T190000Z',
            'SUMMARY:Late lunch',
            'DTSTART:20270302T210000Z',
            'DURATION:PT1H',
          ],
          ['UID:lunch', 'RECURRENCE-ID:20270303T190000Z', 'DTSTART:20270303T190000Z', 'STATUS:CANCELLED'],
        ),
      );
      expect(refused).toEqual([]);
      const mine = busy.filter(({ siteId }) => siteId === SITES.mesa);
      expect(mine.length).toBeGreaterThan(500);
      const week = mine.filter(({ startDate }) => startDate >= '2027-03-01' && startDate <= '2027-03-05');
      expect(week.map(({ startDate, startMinute, summary }) => [startDate, startMinute, summary])).toEqual([
        ['2027-03-02', 840, 'Late lunch'],
        ['2027-03-04', 720, 'Lunch'],
        ['2027-03-05', 720, 'Lunch'],
      ]);
    });

    it('are saved as time off, and known when the file is read again', async () => {
      const text = file([
        'UID:1',
        'SUMMARY:Board',
        'DTSTART;TZID=America/Denver:20270303T090000',
        'DTEND;TZID=America/Denver:20270303T100000',
      ]);
      const { busy } = await read(text);
      const edits = busy.map(({ summary, known: _, ...span }) => ({
        do: 'time-off' as const,
        resourceIds: [PROVIDERS.lund],
        reason: summary,
        ...span,
      }));
      dataOf(await desk.call(editSchedule, { edits: edits as never, agreed: true }));
      expect((await read(text)).busy.map(({ known }) => known)).toEqual([true, true]);
      const lane = dataOf(await desk.call(scheduleWeek, { from: '2027-03-01' })).lanes.find(
        (row) => row.resourceId === PROVIDERS.lund && row.siteId === SITES.mesa,
      );
      expect(lane?.days[2].timeOff).toMatchObject([{ fromMinute: 540, toMinute: 600, reason: 'Board' }]);
    });

    it('of a file that is too large or no calendar are refused, and nothing is read', async () => {
      expect((await read('name,date')).readable).toBe(false);
      const large = await desk.call(readBusyTimes, {
        resourceId: PROVIDERS.lund as never,
        text: 'x'.repeat(1_200_000),
      });
      expect(refusalOf(large).issues).toEqual([{ path: 'text', code: 'too-big' }]);
      const huge = await desk.call(readBusyTimes, {
        resourceId: PROVIDERS.lund as never,
        text: 'x'.repeat(10_000_000),
      });
      expect(huge.status).toBeGreaterThanOrEqual(400);
      expect(huge.status).toBeLessThan(500);
    });
  });

  describe('as FHIR R4 Schedule and Slot', () => {
    type Resource = {
      id: string;
      resourceType: string;
      status: string;
      start: string;
      end: string;
      schedule: { reference: string };
      actor: { reference: string }[];
    };
    const get = async (path: string) => {
      const response = await fetch(`${base}${path}`, { headers: { cookie: desk.cookieHeader() } });
      return {
        status: response.status,
        body: (await response.json()) as Resource & {
          total: number;
          entry?: { resource: Resource }[];
          issue?: { expression?: string[]; diagnostics: string }[];
        },
      };
    };
    const scheduleOf = async (resourceId: string, siteId: string) => {
      const { body } = await get(`/fhir/Schedule?actor=Practitioner/${resourceId}`);
      const found = body.entry?.find(({ resource }) =>
        resource.actor.some(({ reference }) => reference === `Location/${siteId}`),
      );
      if (!found) throw new Error('Whoever works at a site has a schedule there.');
      return found.resource;
    };

    it('passes the validator, and is found by id, actor and date', async () => {
      const schedule = await scheduleOf(PROVIDERS.amaya, SITES.canal);
      expect(faults(schedule)).toEqual([]);
      expect((await get(`/fhir/Schedule/${schedule.id}`)).body).toEqual(schedule);
      expect((await get(`/fhir/Schedule?_id=${schedule.id}`)).body.total).toBe(1);
      const { body } = await get(
        `/fhir/Slot?schedule=Schedule/${schedule.id}&start=ge2026-12-02&start=lt2026-12-05&_count=500`,
      );
      expect(body.total).toBeGreaterThan(5);
      expect(faults(body)).toEqual([]);
      const slots = body.entry?.map(({ resource }) => resource) ?? [];
      expect(slots.every(({ start }) => start >= '2026-12-02' && start < '2026-12-05')).toBe(true);
      expect((await get(`/fhir/Slot/${slots[0].id}`)).body).toEqual(slots[0]);
      expect((await get(`/fhir/Slot?_id=${slots[0].id}`)).body.entry?.[0].resource).toEqual(slots[0]);
      expect((await get(`/fhir/Slot?schedule=${schedule.id}&_count=2`)).body.entry).toHaveLength(2);
    });

    it('has every start that patients are offered inside a free slot, and every visit in a busy one', async () => {
      const schedule = await scheduleOf(PROVIDERS.amaya, SITES.canal);
      const { requested } = await bookedVisit(base, 3);
      const date = requested.start.slice(0, 10);
      const own =
        requested.providerId === PROVIDERS.amaya ? schedule : await scheduleOf(requested.providerId ?? '', SITES.canal);
      const slots = async (id: string, status: string) =>
        (await get(`/fhir/Slot?schedule=${id}&start=${date}&status=${status}&_count=500`)).body.entry?.map(
          ({ resource }) => resource,
        ) ?? [];
      const free = await slots(own.id, 'free');
      const { lanes } = dataOf(await desk.call(publicTimes, { ...FOLLOW_UP, date }));
      const starts = lanes.find(({ providerId }) => providerId === requested.providerId)?.starts ?? [];
      expect(starts.length).toBeGreaterThan(0);
      expect(starts.filter((start) => !free.some((slot) => slot.start <= start && start < slot.end))).toEqual([]);
      const busy = await slots(own.id, 'busy');
      expect(busy.some((slot) => slot.start <= requested.start && requested.start < slot.end)).toBe(true);
    });

    it('says what is wrong with a search', async () => {
      const wrong = async (query: string) => {
        const { body } = await get(`/fhir/Slot?${query}`);
        expect(faults(body)).toEqual([]);
        return [body.issue?.[0].expression, body.issue?.[0].diagnostics.split(' ')[0]];
      };
      expect(await wrong('start=soon')).toEqual([['start'], 'not-a-date-search']);
      expect(await wrong('schedule=nobody')).toEqual([['schedule'], 'not-a-reference']);
      expect((await get(`/fhir/Slot?status=entered-in-error`)).status).toBe(400);
      expect((await get(`/fhir/Slot/${'a'.repeat(24)}.1.5.free`)).status).toBe(404);
      expect((await get(`/fhir/Schedule/${crypto.randomUUID()}`)).status).toBe(404);
      expect(TEST_DAY).toBe('2026-12-01');
    });
  });
});
