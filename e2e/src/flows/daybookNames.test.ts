import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { loadDemo } from '../../../demo/src/index.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { openPage, press, type RunningBrowser, startBrowser } from '../fixtures/browser.ts';
import { copyDatabase } from '../fixtures/cluster.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';
import { legibleNames } from '../fixtures/legibility.ts';
import { type RunningServer, startServer } from '../fixtures/server.ts';

/** A day as full as a clinic's: the demo's own, at every site. */
describe('names in a full Daybook', () => {
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

  it('can be read without a hover, at one site and at all, over the whole board', async () => {
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

  it('can be read on a narrower screen and beside an open visit too', async () => {
    const page = await daybook(1024, 768);
    expect((await named(page, '?site=all')).share).toBeGreaterThanOrEqual(0.98);
    const id = await page.$eval('[data-plate]', (each) => each.getAttribute('data-plate') ?? '');
    await page.goto(`${server.url}/daybook?visit=${id}`);
    await page.waitForSelector('aside');
    expect((await legibleNames(page)).share).toBeGreaterThanOrEqual(0.98);
  });

  it('is measured by something that can fail: cut, covered, faint and missing names are found', async () => {
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
});
