import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { loadDemo } from '../../../demo/src/index.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { axeViolations, openPage, press, type RunningBrowser, startBrowser } from '../fixtures/browser.ts';
import { copyDatabase } from '../fixtures/cluster.ts';
import { cutPhrases, overflowing } from '../fixtures/fitting.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';
import { legibleNames } from '../fixtures/legibility.ts';
import { type RunningServer, startServer } from '../fixtures/server.ts';

const PAGES = [
  '/today',
  `/daybook/${TEST_DAY}?site=all`,
  '/identity-review',
  '/identity-review?tab=approve',
  '/intake?show=all',
  '/availability',
  '/availability/visits-to-move',
  '/find',
  '/setup',
  '/setup/site',
  '/setup/person',
  '/setup/visit-type',
  '/setup/online',
  '/setup/roles',
  '/simulated-carriers',
  '/help',
];

/** A day as full as a clinic's: the demo's own, at every site. */
describe('pages of a full clinic', () => {
  let server: RunningServer;
  let browser: RunningBrowser;

  beforeAll(async () => {
    const cluster = { port: inject('clusterPort'), url: '', start: () => undefined, stop: () => undefined };
    const url = await copyDatabase(cluster, 'zaguan_empty', 't_daybook_names');
    const orm = await prepareDatabase(url);
    await loadDemo(orm, TEST_DAY);
    await orm.close(true);
    server = await startServer(url, { ZAGUAN_PROOF: 'no' });
    browser = await startBrowser();
  }, 480_000);
  afterAll(async () => {
    await browser.stop();
    await server.stop();
  });

  async function daybook(width: number, height: number): Promise<Page> {
    const { page } = await openPage(browser, { width, height });
    await page.goto(server.url);
    await press(page, 'Coordinator');
    await page.waitForSelector('[data-plate]');
    return page;
  }
  const named = async (page: Page, where: string) => {
    await page.goto(`${server.url}/daybook${where}`);
    await page.waitForSelector('[data-plate]');
    await page.evaluate(() => document.fonts.ready);
    return legibleNames(page);
  };

  it('have names that can be read without a hover, at one site and at all, over the whole board', async () => {
    const page = await daybook(1280, 800);
    expect(await page.$$eval('section[data-site]', (all) => all.length)).toBe(1);
    const one = await named(page, '');
    const all = await named(page, '?site=all');
    const places = await named(page, '?site=all&lanes=places');
    expect(one.names).toBeGreaterThan(60);
    expect(all.names).toBeGreaterThan(2 * one.names);
    for (const { share, faults } of [one, all, places])
      expect({ share: share >= 0.98, faults }).toMatchObject({ share: true });
    expect(
      await page.$$eval('[data-plate]', (plates) =>
        plates.every((each) => each.getBoundingClientRect().width >= 24 && each.getBoundingClientRect().height >= 24),
      ),
    ).toBe(true);
  });

  it('have names that can be read on a narrower screen and beside an open visit too', async () => {
    const page = await daybook(1024, 768);
    expect((await named(page, '?site=all')).share).toBeGreaterThanOrEqual(0.98);
    const id = await page.$eval('[data-plate]', (each) => each.getAttribute('data-plate') ?? '');
    await page.goto(`${server.url}/daybook?visit=${id}`);
    await page.waitForSelector('aside');
    expect((await legibleNames(page)).share).toBeGreaterThanOrEqual(0.98);
  });

  it('are measured by something that can fail: cut, covered, faint and missing names are found', async () => {
    const page = await daybook(1280, 800);
    const broken = async (css: string) => {
      const style = await page.addStyleTag({ content: css });
      const { share, faults } = await legibleNames(page);
      await style.evaluate((each) => (each as HTMLElement).remove());
      return [share, faults[0]?.split(':')[0]];
    };
    expect(await broken('[data-plate-name] { font-size: 9px !important }')).toEqual([0, 'too small']);
    expect(await broken('[data-plate] { color: #d0c8c0 !important }')).toEqual([0, 'faint']);
    expect(await broken('[data-plate] > span:last-child { overflow: hidden; max-width: 40px }')).toEqual([0, 'cut']);
    expect(
      await broken(
        '[data-plate]::after { content: ""; position: absolute; inset: 0 } [data-lane]::after { content: ""; position: absolute; inset: 0; z-index: 99 }',
      ),
    ).toEqual([0, 'covered']);
  });

  async function signedIn(width: number, height: number): Promise<{ page: Page; errors: string[] }> {
    const opened = await openPage(browser, { width, height });
    await opened.page.goto(server.url);
    await press(opened.page, 'Manager');
    await opened.page.waitForSelector('[data-plate]');
    return opened;
  }
  const at = async (page: Page, path: string) => {
    await page.goto(`${server.url}${path}`);
    await page.waitForSelector('h1');
    await page.waitForFunction(() => !document.querySelector('[aria-busy="true"], [role="status"].animate-pulse'));
  };

  it('fit a phone of 390 px, where the menu folds', async () => {
    const { page, errors } = await signedIn(390, 844);
    const found: Record<string, string[]> = {};
    for (const path of PAGES) {
      await at(page, path);
      const over = await overflowing(page);
      if (over.length) found[path] = over;
    }
    expect(found).toEqual({});
    await at(page, '/today');
    expect(await page.$eval('#places', (each) => each.getBoundingClientRect().height)).toBe(0);
    await page.click('button[aria-controls="places"]');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Intake');
    await page.waitForFunction(() => location.pathname === '/intake');
    expect(await page.$eval('#places', (each) => each.getBoundingClientRect().height)).toBe(0);
    expect(await axeViolations(page)).toEqual([]);
    expect(errors).toEqual([]);
  });

  it.each([
    ['1280×800', 1280, 800],
    ['1024×768', 1024, 768],
    ['1280×800 at 200 %', 640, 400],
  ])('cut no phrase at %s', async (_, width, height) => {
    const { page } = await signedIn(width, height);
    const found: Record<string, string[]> = {};
    for (const path of PAGES) {
      await at(page, path);
      const cut = await cutPhrases(page);
      if (cut.length) found[path] = cut;
    }
    expect(found).toEqual({});
  });
});
