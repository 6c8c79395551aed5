import { scheduleWeek } from '@zaguan/contracts/availability';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, press, seesText, undoIt } from '../fixtures/browser.ts';
import { type Client, dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { Effort } from '../fixtures/effort.ts';
import { cell, judged, openWeek } from '../pages/availability.ts';

/** A Monday far enough not to be booked. */
const QUIET = '2027-02-01';

describe('hours in the way of others, and a panel that is not lost', () => {
  let base: string;
  let page: Page;
  let desk: Client;
  let place: Desk;
  beforeAll(async () => {
    place = await openDesk('hours_in_the_way', 'coordinator');
    ({ base, page, api: desk } = place);
  });
  afterAll(() => place.close());
  beforeEach(async () => {
    await openWeek(page, base, QUIET);
  });

  const spansOf = async (resourceId: string, siteId: string, day: number) =>
    dataOf(await desk.call(scheduleWeek, { from: QUIET }))
      .lanes.find((lane) => lane.resourceId === resourceId && lane.siteId === siteId)
      ?.days[day].hours.map(({ fromMinute, toMinute }) => [fromMinute, toMinute]) ?? [];
  const conflicts = 'section[aria-label*="in the way"]';

  it('are said all at once beside the button, and give way at one press, which is taken back', async () => {
    const [mesa, canal] = [
      await spansOf(PROVIDERS.amaya, SITES.mesa, 1),
      await spansOf(PROVIDERS.amaya, SITES.canal, 1),
    ];
    expect(canal.length).toBeGreaterThan(0);
    const effort = new Effort(page);
    await effort.press('Add working hours');
    await effort.choose('Who', 'Dr. Inés Amaya');
    await effort.choose('Site', 'Mesa Court');
    await effort.type('Times', '8:30 am - 11:30 am, 1 pm - 3 pm');
    await page.waitForSelector(conflicts);
    const lines = await page.$$eval(`${conflicts} li`, (all) => all.map((each) => each.textContent ?? ''));
    // Each set of hours once, though two stretches meet it on five days of each week.
    expect(lines.length).toBeGreaterThan(0);
    expect(new Set(lines).size).toBe(lines.length);
    for (const line of lines) expect(line).toMatch(/Also on \d+ later days\./);
    expect(await page.$eval('aside button[type="submit"]', (each) => (each as HTMLButtonElement).disabled)).toBe(true);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Replace these hours');
    await page.waitForFunction(
      () => !(document.querySelector('aside button[type="submit"]') as HTMLButtonElement).disabled,
    );
    await seesText(page, 'give way');
    await judged(page);
    await page.click('aside button[type="submit"]');
    await page.waitForFunction(() => !document.querySelector('aside form'));
    expect(await spansOf(PROVIDERS.amaya, SITES.mesa, 1)).toEqual([
      [510, 690],
      [780, 900],
    ]);
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect([await spansOf(PROVIDERS.amaya, SITES.mesa, 1), await spansOf(PROVIDERS.amaya, SITES.canal, 1)]).toEqual([
      mesa,
      canal,
    ]);
  });

  it('keeps an open panel and its text over a reload, another week and Close', async () => {
    await page.click(`${cell(SITES.canal, PROVIDERS.amaya, 1)} [data-stretch]`);
    await seesText(page, 'Tuesday, February 2 only');
    await new Effort(page).type('Times', '9 am - 10 am');
    const text = () =>
      page.$$eval('aside input', (all) =>
        all.map((each) => (each as HTMLInputElement).value).find((v) => v === '9 am - 10 am'),
      );
    expect(await text()).toBe('9 am - 10 am');
    await page.reload();
    await seesText(page, 'Here is what you had typed before.');
    expect(await text()).toBe('9 am - 10 am');
    await page.click('aside ::-p-text(Close)');
    await page.click('button[aria-label="Next week"]');
    await seesText(page, 'week of Mon, Feb 8');
    await page.click('button[aria-label="Previous week"]');
    await seesText(page, 'week of Mon, Feb 1');
    await page.click(`${cell(SITES.canal, PROVIDERS.amaya, 1)} [data-stretch]`);
    await seesText(page, 'Here is what you had typed before.');
    await press(page, 'Start over');
    await page.waitForFunction(() => !document.querySelector('aside')?.textContent?.includes('typed before'));
    expect(await text()).toBeUndefined();
  });

  it('gives up a drag by Escape, and then the brush, which has said what it does', async () => {
    await press(page, 'Desk only');
    await seesText(page, 'only the desk can book these times');
    expect(await page.$eval('[role="grid"]', (each) => getComputedStyle(each).cursor)).toContain('url(');
    const box = await (await page.waitForSelector(cell(SITES.canal, PROVIDERS.amaya, 2)))?.boundingBox();
    if (!box) throw new Error('No such day.');
    const before = await spansOf(PROVIDERS.amaya, SITES.canal, 2);
    const y = box.y + box.height / 2;
    await page.mouse.move(box.x + box.width * 0.3, y);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.7, y, { steps: 5 });
    await page.keyboard.press('Escape');
    await page.mouse.up();
    expect(await page.$('[aria-pressed="true"]')).not.toBeNull();
    expect(await page.$('[data-sonner-toast]')).toBeNull();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('header [aria-pressed="true"]'));
    expect(await spansOf(PROVIDERS.amaya, SITES.canal, 2)).toEqual(before);
  });

  it('opens hours by a touch, and scrolls when the finger moves at once', async () => {
    const hours = await page.waitForSelector(`${cell(SITES.canal, PROVIDERS.amaya, 3)} [data-stretch]`);
    await hours?.tap();
    await seesText(page, 'Thursday, February 4 only');
  });
});
