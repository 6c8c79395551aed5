import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { editSchedule, scheduleWeek, visitsToMove } from '@zaguan/contracts/availability';
import { publicDays } from '@zaguan/contracts/openings';
import type { ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, DESK, fill, openPage, press, seesText, undoIt } from '../fixtures/browser.ts';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { Effort } from '../fixtures/effort.ts';
import { FOLLOW_UP } from '../fixtures/patient.ts';
import { cell, judged, openWeek } from '../pages/availability.ts';
import { TEST_DAY, type World } from '../fixtures/world.ts';

/** The Monday of the test day's week, and of a week far enough not to be booked. */
const WEEK = '2026-11-30';
const QUIET = '2027-02-01';

describe('availability, on screen', () => {
  let world: World;
  let base: string;
  let page: Page;
  let errors: string[];
  let desk: Client;
  let place: Desk;
  beforeAll(async () => {
    place = await openDesk('availability_flow', 'coordinator');
    ({ world, base, page, errors, api: desk } = place);
  });
  afterAll(() => place.close());

  const at = (week = WEEK) => openWeek(page, base, week);
  const weekOf = async (from: string) => dataOf(await desk.call(scheduleWeek, { from }));
  const laneOf = async (resourceId: string, siteId: string, from: string) =>
    (await weekOf(from)).lanes.find((lane) => lane.resourceId === resourceId && lane.siteId === siteId);
  /** Pulls with the mouse from one point of an element to a point of another one. */
  async function drag(from: string, to: string, fromX: number, toX: number): Promise<void> {
    const [a, b] = await Promise.all([page.waitForSelector(from), page.waitForSelector(to)]);
    const [start, end] = [await a?.boundingBox(), await b?.boundingBox()];
    if (!start || !end) throw new Error('Nothing to pull.');
    await page.mouse.move(start.x + start.width * fromX, start.y + start.height / 2);
    await page.mouse.down();
    await page.mouse.move(start.x + start.width * fromX + 8, start.y + start.height / 2, { steps: 2 });
    await page.mouse.move(end.x + end.width * toX, end.y + end.height / 2, { steps: 6 });
    await page.mouse.up();
  }
  const daySpans = async (resourceId: string, siteId: string, from: string, day: number) =>
    (await laneOf(resourceId, siteId, from))?.days[day].hours.map(({ fromMinute, toMinute }) => [fromMinute, toMinute]);

  it('draws everyone’s week, and nothing on it offends WCAG 2.2 AA', async () => {
    await at();
    await seesText(page, 'Availability, week of Mon, Nov 30');
    const spoken = await page.$eval(cell(SITES.canal, PROVIDERS.amaya, 2), (each) => each.getAttribute('aria-label'));
    expect(spoken).toContain('8:00 am to 12:00 pm shown online');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('makes a week with lunch at a site for two years in at most 8 actions', async () => {
    await at();
    const effort = new Effort(page);
    await effort.press('Add working hours');
    await effort.choose('Who', 'Dr. Ruth Dray');
    await effort.type('Times', '5:30-6:00 pm, 6:30-7');
    await effort.type('Last date', '11302028');
    await judged(page);
    await effort.press('Save');
    await seesText(page, 'Working hours added.');
    expect(effort.count).toBeLessThanOrEqual(8);
    const hours = (await weekOf(QUIET)).hours.filter(
      (row) => row.subject.id === PROVIDERS.dray && row.effectiveUntil === '2028-11-30',
    );
    expect(hours.map(({ weekdays, fromMinute, toMinute }) => [weekdays.length, fromMinute, toMinute]).sort()).toEqual([
      [5, 1050, 1080],
      [5, 1110, 1140],
    ]);
    await undoIt(page);
    await seesText(page, 'Undone.');
  });

  it('pulls an end, moves to another day and draws new hours, each shown first and saved for one date', async () => {
    await at(QUIET);
    const tuesday = cell(SITES.canal, PROVIDERS.amaya, 1);
    await drag(`${tuesday} [data-grip="to"]`, tuesday, 0.5, 0.25);
    await seesText(page, 'Tuesday, February 2 only');
    await judged(page);
    await seesText(page, '1 day changes');
    await press(page, 'Save');
    await seesText(page, 'Working hours changed.');
    const [morning] = (await daySpans(PROVIDERS.amaya, SITES.canal, QUIET, 1)) ?? [];
    expect(morning[0]).toBe(480);
    expect(morning[1]).toBeLessThan(660);
    expect((await daySpans(PROVIDERS.amaya, SITES.canal, '2027-02-08', 1))?.[0]).toEqual([480, 720]);
    await drag(
      `${cell(SITES.canal, PROVIDERS.amaya, 4)} [data-stretch]`,
      cell(SITES.canal, PROVIDERS.amaya, 5),
      0.4,
      0.3,
    );
    await seesText(page, 'Goes to Saturday, February 6.');
    await judged(page);
    await press(page, 'Save');
    await page.waitForFunction(() => !document.querySelector('aside form'));
    expect([
      (await daySpans(PROVIDERS.amaya, SITES.canal, QUIET, 4))?.length,
      (await daySpans(PROVIDERS.amaya, SITES.canal, QUIET, 5))?.length,
    ]).toEqual([0, 1]);
    await drag(cell(SITES.canal, PROVIDERS.amaya, 6), cell(SITES.canal, PROVIDERS.amaya, 6), 0.2, 0.6);
    await seesText(page, 'Add working hours');
    await press(page, 'On one date');
    await judged(page);
    await press(page, 'Save');
    await page.waitForFunction(() => !document.querySelector('aside form'));
    expect(await daySpans(PROVIDERS.amaya, SITES.canal, QUIET, 6)).toHaveLength(1);
    // Coming changes list them, each with a way back.
    await press(page, 'Coming changes');
    await seesText(page, 'Sun, Feb 7');
    const back = await page.waitForSelector('button[aria-label^="Undo"][aria-label$="Sun, Feb 7"]');
    await back?.click();
    await seesText(page, 'Change undone.');
    expect(await daySpans(PROVIDERS.amaya, SITES.canal, QUIET, 6)).toEqual([]);
  });

  it('opens two days of three providers with the brush in 3 actions', async () => {
    await at();
    const starts = async () =>
      dataOf(await desk.call(publicDays, FOLLOW_UP))
        .days.filter(({ date }) => date === '2026-12-03' || date === '2026-12-04')
        .reduce((n, day) => n + day.starts, 0);
    const before = await starts();
    const effort = new Effort(page);
    await effort.click('button[aria-pressed]:nth-of-type(2)');
    for (const day of [3, 4]) {
      effort.count++;
      await drag(cell(SITES.canal, PROVIDERS.amaya, day), cell(SITES.mesa, PROVIDERS.dray, day), 0.02, 0.98);
      await page.waitForFunction((n) => document.querySelectorAll('[data-sonner-toast]').length >= n, {}, day - 2);
    }
    expect(effort.count).toBeLessThanOrEqual(3);
    expect([before > 0, await starts()]).toEqual([true, 0]);
    const people = [PROVIDERS.amaya, PROVIDERS.lund, PROVIDERS.dray];
    const painted = (await weekOf(WEEK)).lanes
      .filter((lane) => lane.days[3].brush.length > 0)
      .map(({ resourceId }) => resourceId);
    expect(new Set(painted)).toEqual(new Set(people.filter((id) => painted.includes(id))));
    expect(new Set(painted).size).toBe(3);
  });

  it('paints by keyboard: arrows with Shift choose days, Enter paints their hours', async () => {
    await at();
    await press(page, 'Default setting');
    await page.focus('[data-cell][tabindex="0"]');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
    expect(await page.$$eval('[aria-selected="true"]', (all) => all.length)).toBe(2);
    await page.keyboard.press('Enter');
    await seesText(page, 'Online setting changed. Patients gain');
    const lane = await laneOf(PROVIDERS.amaya, SITES.canal, WEEK);
    const inHours = lane?.days[3].brush.filter((span) =>
      lane.days[3].hours.some((row) => span.fromMinute >= row.fromMinute && span.toMinute <= row.toMinute),
    );
    expect(inHours).toEqual([]);
    // The brush over closed time says so and changes nothing.
    await page.keyboard.press('ArrowDown');
    await press(page, 'Default setting');
    await press(page, 'Shown');
    await drag(cell(SITES.canal, PROVIDERS.amaya, 6), cell(SITES.canal, PROVIDERS.amaya, 6), 0.2, 0.6);
    await seesText(page, 'Nobody works there then');
  });

  it('copies one week to five people in 4 actions', async () => {
    const added = await world.sql.query<{ id: string }>(
      `insert into resource (id, kind, name, short_name, home_site_id, sort_order)
       select gen_random_uuid(), 'provider', 'New Colleague ' || n, 'NC' || n, $1, 50 + n from generate_series(1, 5) n returning id`,
      [SITES.mesa],
    );
    for (const { id } of added.rows) {
      await world.sql.query(`insert into provider (resource_id, credentials) values ($1, '')`, [id]);
      await world.sql.query('insert into resource_site (resource_id, site_id) values ($1, $2)', [id, SITES.mesa]);
    }
    // Teo Lund works at Mesa Court as well, and would be copied over: his week is elsewhere.
    await at(QUIET);
    const effort = new Effort(page);
    await effort.press('Copy a week');
    await effort.choose('Whose week', 'Dr. Ruth Dray');
    await effort.press('All providers of Mesa Court');
    await judged(page);
    await effort.press('Save');
    await seesText(page, 'Hours copied.');
    expect(effort.count).toBeLessThanOrEqual(4);
    const spans = async (id: string) => Promise.all([0, 4].map((day) => daySpans(id, SITES.mesa, QUIET, day)));
    const source = await spans(PROVIDERS.dray);
    for (const { id } of added.rows) expect(await spans(id)).toEqual(source);
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect(await spans(added.rows[0].id)).toEqual([[], []]);
  });

  it('places all visits of a provider who is off sick in at most 6 actions', async () => {
    await at();
    const effort = new Effort(page);
    await effort.press('Time off');
    await effort.press('Dr. Inés Amaya');
    await judged(page);
    await seesText(page, 'no longer fit');
    await effort.press('Save, then move');
    await seesText(page, 'Visits to move');
    await page.waitForSelector('[data-visit]');
    const waiting = dataOf(await desk.call(visitsToMove, {})).visits;
    expect(waiting.length).toBeGreaterThan(2);
    expect(await axeViolations(page)).toEqual([]);
    await effort.press('Review and move all');
    await page.waitForSelector('[data-review]');
    await seesText(page, 'No message goes out. Call this patient.');
    expect(await axeViolations(page)).toEqual([]);
    await effort.press(`Move ${waiting.length} visits`);
    await seesText(page, 'visits moved, and the patients are told.');
    expect(effort.count).toBeLessThanOrEqual(6);
    await seesText(page, 'No visit waits to be moved.');
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
  });

  it('names what is wrong in what was typed, keeps it, and saves nothing', async () => {
    await at(QUIET);
    await press(page, 'Add working hours');
    await fill(page, 'Times', '12-8 am');
    await press(page, 'Save');
    await seesText(page, 'Write stretches like 8-12, 1-5');
    await seesText(page, 'This is required.');
    const effort = new Effort(page);
    await effort.choose('Who', 'Teo Lund');
    await effort.choose('Site', 'Mesa Court');
    await fill(page, 'Times', '8-12');
    await judged(page);
    await seesText(page, 'already works at');
    expect(await page.$eval('aside form button[type="submit"]', (each) => (each as HTMLButtonElement).disabled)).toBe(
      true,
    );
  });

  it('shows a change by someone else without reload, and refuses to overwrite it', async () => {
    await at(QUIET);
    await page.click(`${cell(SITES.mesa, PROVIDERS.dray, 2)} [data-stretch]`);
    await seesText(page, 'Wednesday, February 3 only');
    await press(page, 'These hours from today on');
    const [hours] = (await weekOf(QUIET)).hours.filter(
      (row) => row.subject.id === PROVIDERS.dray && row.fromMinute === 480,
    );
    const other = await signedIn(base, 'manager');
    dataOf(
      await other.call(editSchedule, {
        edits: [
          {
            do: 'change-hours',
            hoursId: hours.id,
            version: hours.version,
            reach: { of: 'from', date: '2027-02-01' },
            to: { toMinute: 690 },
          },
        ] as never,
        agreed: true,
      }),
    );
    await page.waitForFunction(
      (selector) => document.querySelector(selector)?.getAttribute('aria-label')?.includes('11:30 am'),
      {},
      cell(SITES.mesa, PROVIDERS.dray, 2),
    );
    expect(errors).toEqual([]);
  });

  it('finds a time, says what to give up where there is none, and why a time is not offered, with the way to each setting', async () => {
    await page.goto(`${base}/find`);
    await page.waitForSelector('[role="tab"]');
    expect(await axeViolations(page)).toEqual([]);
    const effort = new Effort(page);
    await effort.choose('Visit type', 'Follow-up');
    await press(page, 'Calendar');
    await page.waitForSelector('td button');
    await effort.choose('With', 'Teo Lund');
    await effort.choose('Site', 'Mesa Court');
    await effort.choose('Time of day', 'After 4 pm');
    await seesText(page, 'It would work without');
    await press(page, 'Why not?');
    await page.waitForSelector('[data-code]');
    expect(await page.$$eval('[data-code] a', (all) => all.map((each) => each.getAttribute('href')))).toContain(
      `/availability?week=${WEEK}&lane=${SITES.mesa}:${PROVIDERS.lund}`,
    );
    await press(page, 'the time of day');
    await page.waitForFunction(() => !document.querySelector('[data-testid="nothing-found"]'));
    await press(page, 'Accessibility needs');
    await press(page, 'Patient lift');
    await seesText(page, 'accessibility needs');
    await press(page, 'accessibility needs');
    await page.waitForFunction(() => !document.querySelector('[data-testid="nothing-found"]'));
    await press(page, 'Add another person');
    await page.waitForSelector('[data-together]');
    expect(await page.$$eval('[data-together] li', (all) => all.length)).toBeGreaterThan(1);
    // Why not? is one press away from any day of the week, too.
    await at();
    await page.click(cell(SITES.mesa, PROVIDERS.dray, 6));
    await press(page, 'Why not?');
    await page.waitForSelector('[data-code="no-hours"]');
  });

  const file = (lines: string[]) => {
    const path = join(mkdtempSync(join(tmpdir(), 'zaguan-calendar-')), 'busy.ics');
    writeFileSync(
      path,
      ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//test//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n'),
    );
    return path;
  };
  const give = async (path: string) => {
    const input = await page.waitForSelector('input[type="file"]');
    await (input as ElementHandle<HTMLInputElement>).uploadFile(path);
  };
  const openCalendar = async () => {
    await page.click(cell(SITES.mesa, PROVIDERS.dray, 5));
    await press(page, 'Calendar in and out');
  };

  it('makes a private address, ends it, and reads busy times of another calendar in as time off', async () => {
    await at(QUIET);
    await openCalendar();
    await press(page, 'Create an address');
    await seesText(page, 'It is shown only once');
    const address = await page.$eval(
      'input[aria-label="The private address"]',
      (each) => (each as HTMLInputElement).value,
    );
    expect((await (await fetch(address)).text()).startsWith('BEGIN:VCALENDAR')).toBe(true);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Turn it off');
    await seesText(page, 'This address no longer works.');
    expect((await fetch(address)).status).toBe(404);
    const large = join(mkdtempSync(join(tmpdir(), 'zaguan-calendar-')), 'large.ics');
    writeFileSync(large, 'x'.repeat(10_000_000));
    await give(large);
    await seesText(page, 'larger than 1 MB');
    await give(
      file([
        ...[
          'BEGIN:VEVENT',
          'UID:1',
          'SUMMARY:Teaching',
          'DTSTART;TZID=America/Denver:20270204T090000',
          'DTEND;TZID=America/Denver:20270204T100000',
          'END:VEVENT',
        ],
        ...[
          'BEGIN:VEVENT',
          'UID:2',
          'SUMMARY:Moon',
          'DTSTART;TZID=Moon/Base:20270204T090000',
          'DTEND;TZID=Moon/Base:20270204T100000',
          'END:VEVENT',
        ],
        ...['BEGIN:VTODO', 'UID:3', 'SUMMARY:Call', 'END:VTODO'],
      ]),
    );
    await seesText(page, 'Event 3: a task or note, not an event (1 VTODO)');
    await seesText(page, 'its time zone “Moon/Base” is not known');
    await seesText(page, '1 busy time');
    await judged(page);
    await press(page, 'Save');
    await seesText(page, '1 busy time saved as time off.');
    expect((await laneOf(PROVIDERS.dray, SITES.mesa, QUIET))?.days[3].timeOff).toMatchObject([
      { fromMinute: 540, toMinute: 600, reason: 'Teaching' },
    ]);
  });

  it('reads a lunch on every weekday without end, as much at once as one change may hold', async () => {
    await at(QUIET);
    await openCalendar();
    const lunch = [
      'UID:lunch',
      'SUMMARY:Lunch',
      'DTSTART;TZID=Mountain Standard Time:20190107T120000',
      'DURATION:PT1H',
    ];
    await give(file(['BEGIN:VEVENT', ...lunch, 'RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'END:VEVENT']));
    await seesText(page, 'These are the first 250 of');
    await seesText(page, '250 busy times');
    await judged(page);
    expect(await axeViolations(page)).toEqual([]);
  });

  it('thinks a schedule over in a draft, compares it, and publishes it from a date', async () => {
    await at(QUIET);
    await page.select('select[aria-label="Current schedule, or a draft"]', 'new');
    await fill(page, 'Name of the draft', 'From February');
    await press(page, 'Begin');
    await seesText(page, 'Not in effect yet.');
    await drag(
      `${cell(SITES.canal, PROVIDERS.lund, 0)} [data-grip="to"]`,
      cell(SITES.canal, PROVIDERS.lund, 0),
      0.5,
      0.25,
    );
    await press(page, 'These hours from today on');
    await press(page, 'Save');
    await seesText(page, 'In the draft now: 1 change.');
    const live = await daySpans(PROVIDERS.lund, SITES.canal, QUIET, 0);
    expect(live?.[0]).toEqual([480, 720]);
    await page.waitForFunction(
      (selector) => !document.querySelector(selector)?.getAttribute('aria-label')?.includes('8:00 am to 12:00 pm'),
      {},
      cell(SITES.canal, PROVIDERS.lund, 0),
    );
    await press(page, 'Compare and publish');
    await seesText(page, 'Hours changed');
    await judged(page);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Publish');
    await seesText(page, '“From February” is now in effect.');
    expect((await daySpans(PROVIDERS.lund, SITES.canal, QUIET, 0))?.[0][1]).toBeLessThan(720);
    expect((await daySpans(PROVIDERS.lund, SITES.canal, '2027-01-25', 0))?.[0]).toEqual([480, 720]);
  });

  it('shows who may only look what there is, and no action', async () => {
    const { page: other } = await openPage(place.browser, DESK);
    await other.goto(base);
    await press(other, 'Read-only');
    await other.waitForSelector('nav');
    await other.goto(`${base}/availability?week=${WEEK}`);
    await seesText(other, 'Your role may look');
    expect(await other.$$eval('[aria-pressed]', (all) => all.length)).toBe(0);
    expect(TEST_DAY > WEEK).toBe(true);
    await other.close();
  });
});
