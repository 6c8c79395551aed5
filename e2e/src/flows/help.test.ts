import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  axeViolations,
  DESK,
  fill,
  openPage,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
} from '../fixtures/browser.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

describe('help, on screen', () => {
  let world: World;
  let browser: RunningBrowser;
  let page: Page;
  let errors: string[];
  beforeAll(async () => {
    world = await makeWorld('help_flow');
    browser = await startBrowser();
    ({ page, errors } = await openPage(browser, DESK));
    await page.goto(world.servers[0].url);
    await press(page, 'Manager');
    await page.waitForSelector('[data-plate]');
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });
  const hash = () => new URL(page.url()).pathname + new URL(page.url()).hash;
  /** The heading that the address names is on screen. */
  const inSight = (id: string) =>
    page.waitForFunction(
      (wanted) => {
        const box = document.getElementById(wanted)?.getBoundingClientRect();
        // Scrolling stops on whole pixels: a heading may begin on a fraction of one.
        return box && box.top > -1 && box.top < window.innerHeight;
      },
      {},
      id,
    );

  it('opens at what is said about the screen one comes from', async () => {
    await press(page, 'Vestibule');
    await seesText(page, 'Vestibule');
    await press(page, 'Help');
    await inSight('vestibule');
    expect(hash()).toBe('/help/daybook#vestibule');
    await page.goto(`${world.servers[0].url}/setup/payer`);
    await page.waitForSelector('[data-setup-page][aria-busy="false"]');
    await press(page, 'Help');
    await inSight('payers');
    expect(hash()).toBe('/help/setup#payers');
  });

  it('is searched by words, begun or with a slip, and leads to the section', async () => {
    await fill(page, 'Search the help', 'zzyzx');
    await seesText(page, 'Nothing found');
    await fill(page, 'Search the help', 'closre');
    await page.waitForSelector('a[href="/help/availability#site-closed"]');
    expect(await axeViolations(page)).toEqual([]);
    await page.click('a[href="/help/availability#site-closed"]');
    await inSight('site-closed');
    expect(errors).toEqual([]);
  });
});
