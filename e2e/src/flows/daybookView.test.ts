import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  axeViolations,
  DESK,
  openPage,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
} from '../fixtures/browser.ts';
import { makeWorld, type World } from '../fixtures/world.ts';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';

describe('the Daybook as one likes to see it', () => {
  let world: World;
  let browser: RunningBrowser;
  let desk: Page;
  let errors: string[];
  beforeAll(async () => {
    world = await makeWorld('view');
    browser = await startBrowser();
    ({ page: desk, errors } = await openPage(browser, DESK));
    await desk.goto(world.servers[0].url);
    await press(desk, 'Coordinator');
    await desk.waitForSelector('[data-plate]');
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  const seen = () => desk.evaluate(() => document.body.innerText);
  const laneWidth = () => desk.$eval('[data-lane] > div:last-child', (each) => each.getBoundingClientRect().width);
  const focused = () => desk.evaluate(() => document.activeElement?.getAttribute('data-plate'));

  it('hides names and reasons by a key, in what is seen and what is read out, and keeps that', async () => {
    const names = await desk.$$eval('[data-plate] .sr-only', (all) =>
      all.map((each) => (each.textContent ?? '').split(',')[0]),
    );
    expect(names.length).toBeGreaterThan(10);
    await desk.keyboard.press('h');
    await seesText(desk, 'Lens: names hidden');
    await desk.reload();
    await desk.waitForSelector('[data-plate]');
    await seesText(desk, 'Lens: names hidden');
    const after = await desk.$$eval('[data-lane]', (all) => all.map((each) => each.textContent ?? '').join('\n'));
    for (const name of names.filter((each) => each !== 'Being booked')) expect(after).not.toContain(name);
    // The card that comes on keyboard focus says no more than the plate.
    await desk.focus('[data-plate]:not(:disabled)');
    await desk.waitForSelector('[role="tooltip"]');
    const card = await desk.$eval('[role="tooltip"]', (each) => each.textContent ?? '');
    expect(card).toContain('Patient');
    for (const name of names) expect(card).not.toContain(name);
    await desk.keyboard.press('h');
    await seesText(desk, 'Lens');
    await desk.waitForFunction(
      (name) => document.querySelector('[data-plate] .sr-only')?.textContent?.startsWith(name),
      {},
      names[0],
    );
  });

  // A busy machine may be longer from one move of the pointer to the next than the card waits.
  it('shows a card under the pointer that stays to be read, says what is true now, and goes at Escape', {
    retry: 2,
  }, async () => {
    await desk.keyboard.press('Escape');
    const id = await desk.$$eval(
      '[data-plate][data-status="booked"]:not(:disabled)',
      (all) => all.find((each) => each.getBoundingClientRect().top < 600)?.getAttribute('data-plate') ?? '',
    );
    await desk.hover(`[data-plate="${id}"]`);
    const card = await desk.waitForSelector('[role="tooltip"]');
    // It is there a moment before it is put in its place.
    await desk.waitForFunction(
      () => (document.querySelector('[role="tooltip"]')?.getBoundingClientRect().top ?? 0) > 0,
    );
    const box = await card?.boundingBox();
    if (!box) throw new Error('The card has no place.');
    // Onto the card, and about on it, longer than it waits before it goes.
    for (let i = 1; i < 8; i++) {
      await desk.mouse.move(box.x + i * 8, box.y + 4 + i * 5);
      await new Promise((resolve) => setTimeout(resolve, 70));
    }
    expect(await desk.$('[role="tooltip"]')).not.toBeNull();
    // Somebody else changes the reason: the open card says so.
    await world.sql.query("update appointment set reason_text = 'A new reason' where id = $1", [id]);
    const [{ site_id, site_date }] = (
      await world.sql.query('select site_id, site_date::text from appointment where id = $1', [id])
    ).rows;
    await world.sql.query(
      `insert into domain_event (at, type, payload) values (clock_timestamp(), 'visit-changed', $1)`,
      [JSON.stringify({ type: 'visit-changed', siteId: site_id, date: site_date })],
    );
    await desk.waitForFunction(() => document.querySelector('[role="tooltip"]')?.textContent?.includes('A new reason'));
    await desk.keyboard.press('Escape');
    await desk.waitForFunction(() => !document.querySelector('[role="tooltip"]'));
    await desk.mouse.move(5, 500);
  });

  it('widens the hours by key and by press, and back', async () => {
    const fits = await laneWidth();
    await desk.keyboard.press('+');
    await desk.keyboard.press('+');
    await desk.waitForFunction(
      (min) => (document.querySelector('[data-lane] > div:last-child')?.clientWidth ?? 0) > min,
      {},
      fits * 1.8,
    );
    // Ruler and lanes stay one: the ruler is as wide as the lanes.
    const [ruler, lane] = await desk.evaluate(() => [
      document.querySelector('[data-site] > div')?.getBoundingClientRect().width ?? 0,
      document.querySelector('[data-lane]')?.getBoundingClientRect().width ?? 1,
    ]);
    expect(Math.abs(ruler - lane)).toBeLessThan(2);
    await press(desk, 'Lens');
    await seesText(desk, 'Edit Lenses');
    expect(await axeViolations(desk)).toEqual([]);
    await desk.click('[aria-label="Narrower"]');
    await desk.click('[aria-label="Narrower"]');
    await seesText(desk, 'Fits');
    await desk.keyboard.press('Escape');
    // Closing gives the focus back: only then do keys go where one looks.
    await desk.waitForFunction(() => !document.body.innerText.includes('Edit Lenses'));
    await desk.waitForFunction(
      (width) =>
        Math.abs((document.querySelector('[data-lane] > div:last-child')?.getBoundingClientRect().width ?? 0) - width) <
        2,
      {},
      fits,
    );
  });

  it('goes from visit to visit by arrow keys, and leaves letters alone where one types', async () => {
    await desk.focus('[data-lane] [data-plate]:not(:disabled)');
    const first = await focused();
    await desk.keyboard.press('ArrowRight');
    const second = await focused();
    expect(second).not.toBe(first);
    const [a, b] = await desk.evaluate(
      (from, to) =>
        [from, to].map((id) => document.querySelector(`[data-plate="${id}"]`)?.getBoundingClientRect().left),
      first,
      second,
    );
    expect(b).toBeGreaterThan(a as number);
    await desk.keyboard.press('ArrowLeft');
    expect(await focused()).toBe(first);
    await desk.keyboard.press('ArrowDown');
    expect(await focused()).not.toBe(first);
    // In a list of choices, `h` looks for a choice and hides nothing.
    await desk.focus('select');
    await desk.keyboard.press('h');
    expect(await seen()).not.toContain('names hidden');
  });

  it('shows a provider’s week as lanes, one for each day and site, with its panel and the way back', async () => {
    const name = await desk.$eval('[data-lane] a', (each) => each.textContent ?? '');
    await desk.click('[data-lane] a');
    await seesText(desk, `${name}, week of Monday, November 30`);
    await desk.waitForSelector('[data-plate]');
    const days = await desk.$$eval('[data-lane] a', (all) => all.map((each) => each.textContent));
    expect(days.length).toBeGreaterThanOrEqual(4);
    expect(days).toContain('Tue, Dec 1');
    // Only this day has a now-line.
    expect(await desk.$$eval('[data-now-line]', (all) => all.length)).toBe(1);
    expect(await axeViolations(desk)).toEqual([]);
    await desk.click('[data-plate]:not(:disabled)');
    await desk.waitForSelector('aside');
    await seesText(desk, 'Close');
    await desk.keyboard.press('Escape');
    await desk.keyboard.press('.');
    await seesText(desk, 'week of Monday, December 7');
    await desk.keyboard.press('t');
    await seesText(desk, 'week of Monday, November 30');
    await press(desk, 'Tue, Dec 1');
    await seesText(desk, 'Tuesday, December 1');
    expect(desk.url()).toContain('/daybook/2026-12-01');
  });

  it('puts the day on a sheet, of the site or of one person, with names or without', async () => {
    await desk.goto(`${world.servers[0].url}/daybook?site=${SITES.canal}`);
    await desk.waitForSelector('[data-plate]');
    const link = await desk.$eval('a[href^="/print/day/"]', (each) => (each as HTMLAnchorElement).href);
    await desk.goto(link);
    const rows = () => desk.$$eval('[data-sheet-row]', (all) => all.map((each) => (each as HTMLElement).innerText));
    await desk.waitForSelector('[data-sheet-row]');
    const all = await rows();
    expect(all.length).toBeGreaterThan(3);
    expect(all.some((row) => /\(\d{3}\) 555-01\d\d/.test(row))).toBe(true);
    expect(await axeViolations(desk)).toEqual([]);
    const [, whose] = await desk.$$('select');
    await whose.select(PROVIDERS.amaya);
    await desk.waitForFunction((n) => document.querySelectorAll('[data-sheet-row]').length < n, {}, all.length);
    expect((await rows()).every((row) => row.includes('Dr. Amaya'))).toBe(true);
    await press(desk, 'Hide names and reasons');
    await desk.waitForFunction(() => !/555-01/.test(document.body.innerText));
    expect((await rows()).every((row) => row.includes('Patient'))).toBe(true);
    await press(desk, 'Hide names and reasons');
    // A page that asks for nothing that is there says so.
    await desk.goto(`${world.servers[0].url}/print/day/2026-12-06?site=${SITES.canal}`);
    await seesText(desk, 'No visits.');
  });

  it('says so when there is no such week', async () => {
    await desk.goto(`${world.servers[0].url}/daybook/week/00000000-0000-4000-8000-000000000000/2026-12-01`);
    await seesText(desk, 'Try again');
    expect(errors.filter((each) => !each.includes('404'))).toEqual([]);
    await press(desk, 'Daybook');
    await desk.waitForSelector('[data-plate]');
  });

  it('is readable in the dark theme too, which stays chosen', async () => {
    await desk.click('nav button[aria-haspopup="menu"]');
    // A locator waits until the menu has come to rest; a handle is clicked where it stood when it was found.
    await desk.locator('[role="menuitemradio"] ::-p-text(Dark)').click();
    await desk.waitForSelector('html[data-theme="dark"]');
    await desk.keyboard.press('Escape');
    await desk.reload();
    await desk.waitForSelector('html[data-theme="dark"] [data-plate]');
    expect(await axeViolations(desk)).toEqual([]);
    for (const place of ['Today', 'Vestibule', 'Intake', 'Availability', 'Postroom']) {
      await press(desk, place);
      await desk.waitForFunction((title) => document.title.includes(title), {}, place);
      await desk.waitForSelector('section[aria-busy="false"]');
      expect([place, await axeViolations(desk)]).toEqual([place, []]);
    }
  });

  it('explains a rule of Why not? in the handbook', async () => {
    await press(desk, 'Daybook');
    await desk.waitForSelector('[data-plate]');
    await press(desk, 'Why not?');
    const code = await desk
      .waitForSelector('[data-code]')
      .then((each) => each?.evaluate((found) => found.getAttribute('data-code')));
    await desk.click('[data-code] a');
    await desk.waitForSelector(`.handbook #${code}`);
    // In words: codes are for the tests that read the same file.
    const heading = await desk.$eval(`.handbook #${code}`, (each) => each.textContent ?? '');
    expect(heading.length).toBeGreaterThan(5);
    expect(heading).not.toContain(String(code));
    expect(await axeViolations(desk)).toEqual([]);
    await press(desk, 'Who may do what');
    await seesText(desk, 'A manager does not clear red flags.');
  });
});
