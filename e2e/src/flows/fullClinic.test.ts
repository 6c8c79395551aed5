import type { Page } from 'puppeteer-core';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import {
  chooseIn,
  axeViolations,
  openPage,
  press,
  seesText,
  undoIt,
  type RunningBrowser,
  startBrowser,
} from '../fixtures/browser.ts';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { signedIn as signedInClient } from '../fixtures/client.ts';
import { cutPhrases, overflowing } from '../fixtures/fitting.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';
import { fullClinic } from '../fixtures/fullClinic.ts';
import { until } from '../fixtures/until.ts';
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
  '/patients',
  '/patients/new',
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
    const { url } = await fullClinic('t_daybook_names');
    server = await startServer(url, { ZAGUAN_PROOF: 'no' });
    browser = await startBrowser();
  }, 480_000);
  afterAll(async () => {
    await browser.stop();
    await server.stop();
  });

  // A full board that stays open draws itself anew at every change that a later test makes.
  afterEach(() => browser.stop());

  /** A page of somebody who has signed in: not by the sign-in page, which would draw a whole Daybook each time. */
  async function signedIn(width: number, height: number): Promise<{ page: Page; errors: string[] }> {
    const opened = await openPage(browser, { width, height });
    const cookies = (await signedInClient(server.url, 'manager')).cookieHeader().split('; ');
    await opened.page.browserContext().setCookie(
      ...cookies.map((each) => {
        const [name, value] = each.split('=');
        return { name, value, domain: new URL(server.url).hostname, path: '/', httpOnly: true };
      }),
    );
    return opened;
  }
  const named = async (page: Page, where: string) => {
    await page.goto(`${server.url}/daybook${where}`);
    await page.waitForSelector('[data-plate]');
    await page.evaluate(() => document.fonts.ready);
    return legibleNames(page);
  };

  it('have names that can be read without a hover, at one site and at all, over the whole board', async () => {
    const { page } = await signedIn(1280, 800);
    const one = await named(page, '');
    expect(await page.$$eval('section[data-site]', (all) => all.length)).toBe(1);
    const all = await named(page, '?site=all');
    expect(one.names).toBeGreaterThan(60);
    expect(all.names).toBeGreaterThan(2 * one.names);
    for (const { share, faults } of [one, all]) expect({ share: share >= 0.98, faults }).toMatchObject({ share: true });
    expect(
      await page.$$eval('[data-plate]', (plates) =>
        plates.every((each) => each.getBoundingClientRect().width >= 24 && each.getBoundingClientRect().height >= 24),
      ),
    ).toBe(true);
  });

  it('have names that can be read on a narrower screen and beside an open visit too', async () => {
    const { page } = await signedIn(1024, 768);
    expect((await named(page, '?site=all')).share).toBeGreaterThanOrEqual(0.98);
    const id = await page.$eval('[data-plate]', (each) => each.getAttribute('data-plate') ?? '');
    await page.goto(`${server.url}/daybook?visit=${id}`);
    await page.waitForSelector('aside');
    await page.evaluate(() => document.fonts.ready);
    // The board is drawn narrower a moment after the panel stands beside it.
    await until(async () => (await legibleNames(page)).share >= 0.98, 'names that can be read beside the panel');
  });

  it('are measured by something that can fail: cut, covered, faint and missing names are found', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, '/daybook');
    await page.waitForSelector('[data-plate]');
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

  const at = async (page: Page, path: string) => {
    await page.goto(`${server.url}${path}`);
    await page.waitForSelector('h1');
    await page.waitForFunction(() => !document.querySelector('[aria-busy="true"], [role="status"].animate-pulse'));
  };

  it('cut no phrase on a desk, a small screen and at 200 %, and fit a phone of 390 px', async () => {
    const { page, errors } = await signedIn(1280, 800);
    const SIZES = { '1280×800': [1280, 800], '1024×768': [1024, 768], '200 %': [640, 400], phone: [390, 844] } as const;
    const found: string[] = [];
    for (const path of PAGES) {
      await page.setViewport({ width: 1280, height: 800 });
      await at(page, path);
      for (const [size, [width, height]] of Object.entries(SIZES)) {
        await page.setViewport({ width, height });
        await page.evaluate(
          () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(() => resolve(null)))),
        );
        const faults = size === 'phone' ? await overflowing(page) : await cutPhrases(page);
        found.push(...faults.map((fault) => `${path} at ${size}: ${fault}`));
      }
    }
    expect(found).toEqual([]);
    expect(errors).toEqual([]);
  });

  it('have a menu that folds on a phone, and goes where it is told', async () => {
    const { page } = await signedIn(390, 844);
    await at(page, '/today');
    const height = () => page.$eval('#places', (each) => each.getBoundingClientRect().height);
    expect(await height()).toBe(0);
    await page.click('button[aria-controls="places"]');
    expect(await height()).toBeGreaterThan(200);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Intake');
    await page.waitForFunction(() => location.pathname === '/intake');
    expect(await height()).toBe(0);
    await page.waitForSelector('[data-board-visit]');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('open the very visit that a link names, and keep what was chosen when they are loaded again', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, '/today?owner=free');
    const link = await page.waitForSelector('[data-work="failed"] a[href*="/daybook/"]');
    const href = (await link?.evaluate((each) => each.getAttribute('href'))) ?? '';
    await link?.click();
    const id = new URL(href, server.url).searchParams.get('visit');
    const chosen = await page.waitForSelector(`aside h2, [data-plate="${id}"][aria-pressed="true"]`);
    expect(chosen).not.toBeNull();
    await page.waitForSelector(`[data-plate="${id}"][aria-pressed="true"]`);
    // The focus is in the panel; closed, it goes back to the plate that opened it.
    await page.reload();
    await page.waitForSelector(`[data-plate="${id}"][aria-pressed="true"]`);
    expect(await page.evaluate(() => document.activeElement?.closest('aside') !== null)).toBe(true);
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('aside'));
    await page.focus(`[data-plate="${id}"]`);
    await page.keyboard.press('Enter');
    await page.waitForSelector('aside');
    await page.keyboard.press('Escape');
    await page.waitForFunction((plate) => document.activeElement?.getAttribute('data-plate') === plate, {}, id);
    await page.goBack();
    await page.goBack();
    await page.waitForFunction(() => location.pathname === '/today');
    expect(page.url()).toContain('owner=free');
    await page.waitForSelector('[data-work="identity-review"]');
  });

  it('filter Today by site and owner, the menu counting what waits, and never hide a red flag by its owner', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, '/today');
    const count = () => page.$$eval('[data-work]', (all) => all.length);
    const all = await count();
    const badge = await page.waitForSelector('[data-waiting-count="today"]');
    expect(await badge?.evaluate((each) => Number(/\d+/.exec(each.textContent ?? '')?.[0]))).toBeGreaterThan(3);
    await chooseIn(page, await page.waitForSelector('main select[aria-label="Site"]'), 'Mesa Court');
    await page.waitForFunction((before) => document.querySelectorAll('[data-work]').length < before, {}, all);
    await page.select('main select[aria-label="Site"]', 'all');
    await page.select('main label select', 'mine');
    await page.waitForFunction(() => document.querySelectorAll('[data-work]:not([data-work="red-flag"])').length === 0);
    expect(await page.$$eval('[data-work="red-flag"]', (flags) => flags.length)).toBeGreaterThan(0);
    expect(await page.$eval('[data-work="red-flag"] a[href^="tel:"]', (each) => each.textContent)).toContain('Call');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('take down at the desk that a patient comes', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, `/daybook/${TEST_DAY}?site=all`);
    const id = await page.$$eval('[data-plate][data-status="booked"]', (all) => {
      const found = all.find((each) => / Booked,/.test(each.querySelector('.sr-only')?.textContent ?? ''));
      return found?.getAttribute('data-plate') ?? '';
    });
    await at(page, `/daybook/${TEST_DAY}?visit=${id}`);
    await (await page.waitForSelector('[data-confirm="true"]'))?.click();
    await page.waitForSelector('[data-confirm="false"]');
    await seesText(page, ': confirmed.');
    expect(await page.$eval('[data-testid="status-words"]', (each) => each.textContent)).toBe('Confirmed');
    await undoIt(page);
    await page.waitForSelector('[data-confirm="true"]');
  });

  it('draw the site that is chosen, also beside an open visit of another one', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, `/daybook/${TEST_DAY}?site=all`);
    const id = await page.$eval('[data-plate]', (each) => each.getAttribute('data-plate') ?? '');
    await at(page, `/daybook/${TEST_DAY}?visit=${id}`);
    await page.waitForSelector(`[data-plate="${id}"][aria-pressed="true"]`);
    await chooseIn(page, await page.waitForSelector('select[aria-label="Site"]'), 'Mesa Court');
    await page.waitForSelector(`section[data-site="${SITES.mesa}"]`);
    expect(await page.$$eval('section[data-site]', (all) => all.length)).toBe(1);
    expect(await page.$('aside')).not.toBeNull();
    // What this desk chose is kept; to somebody who does not see that site it means nothing.
    await at(page, '/availability');
    expect(await page.$eval('select[aria-label="Site"]', (each) => (each as HTMLSelectElement).value)).toBe(SITES.mesa);
    await page.evaluate(() => {
      const kept = JSON.parse(localStorage.getItem('zaguan.prefs') ?? '{}');
      localStorage.setItem('zaguan.prefs', JSON.stringify({ ...kept, siteId: 'a site of somebody else' }));
    });
    await at(page, '/availability');
    await page.waitForSelector('[data-cell]');
  });

  it('tell in a record’s trail what was done, before and after, in words', async () => {
    const { page } = await signedIn(1280, 800);
    await at(page, `/daybook/${TEST_DAY}?site=all`);
    const id = await page.$$eval('[data-plate][data-status="booked"]', (all) => all.at(-1)?.getAttribute('data-plate'));
    await at(page, `/daybook/${TEST_DAY}?visit=${id}`);
    await press(page, 'Cancel visit');
    await (await page.waitForSelector('input[value="patient-asked"]'))?.click();
    await page.click('aside form button[type="submit"]');
    await seesText(page, 'Undo');
    await page.waitForSelector('[data-sonner-toast]');
    await undoIt(page);
    await seesText(page, 'Undone.');
    await page.waitForSelector('aside, [data-plate]');
    await at(page, `/daybook/${TEST_DAY}?visit=${id}`);
    await (await page.waitForSelector('aside h2 a'))?.click();
    await page.waitForSelector('[data-change="status"]');
    const told = await page.$$eval('[data-change]', (all) => all.map((each) => each.textContent));
    expect(told).toContain('Status: Booked → Canceled');
    expect(told).toContain('Reason: The patient asked');
    expect(told).toContain('Status: Canceled → Booked');
    expect(await page.evaluate(() => document.body.innerText)).not.toMatch(/booking\.|patient-asked/);
  });
});
