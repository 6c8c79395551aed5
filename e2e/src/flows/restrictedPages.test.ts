import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DESK, openPage, press, type RunningBrowser, startBrowser } from '../fixtures/browser.ts';
import { makeRestricted, SECRET, toldBy } from '../fixtures/restricted.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** So long nothing is fetched any more once a page has all it asks for. */
const QUIET_MS = 400;

describe('a restricted record on every page', () => {
  let world: World;
  let base: string;
  let browser: RunningBrowser;
  let made: { visitId: string; patientId: string; date: string };
  beforeAll(async () => {
    world = await makeWorld('restricted_pages');
    base = world.servers[0].url;
    made = await makeRestricted(world);
    browser = await startBrowser();
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  /** Counts what a page fetches from now on, but for the live line, which never ends; gives a wait for the last answer. */
  const watched = (page: Page) => {
    const pending = new Set<unknown>();
    let quietSince = Date.now();
    page.on('request', (request) => {
      if (!request.url().includes('/api/') || request.url().includes('/api/events')) return;
      pending.add(request);
    });
    // What the page before had under way is broken off by the next one, and never told to have ended.
    page.on('response', (response) => {
      if (response.request().isNavigationRequest()) pending.clear();
    });
    const ended = (request: unknown) => {
      pending.delete(request);
      quietSince = Date.now();
    };
    page.on('requestfinished', ended);
    page.on('requestfailed', ended);
    return async () => {
      quietSince = Date.now();
      await until(
        async () => pending.size === 0 && Date.now() - quietSince >= QUIET_MS,
        'a page that has all it asks for',
      );
    };
  };
  /** All that a page holds, seen or not: text, labels, addresses. */
  const held = (page: Page) => page.evaluate(() => `${document.title} ${document.documentElement.outerHTML}`);
  /** Opens every page, the visit's own panel and what shows under the pointer; gives what each holds. */
  const walk = async (role: string) => {
    const { page } = await openPage(browser, DESK);
    const settled = watched(page);
    await page.goto(base);
    await press(page, role);
    await page.waitForSelector('nav');
    // Nothing is left unanswered when the next page is opened: what is broken off then is never told to have ended.
    await settled();
    const seen: [string, string][] = [];
    for (const path of [
      '/today',
      `/daybook/${made.date}`,
      '/intake',
      '/identity-review',
      '/identity-review?tab=approve',
      '/availability',
      '/availability/visits-to-move',
      '/find',
      `/patients/${made.patientId}`,
    ]) {
      await page.goto(`${base}${path}`);
      await settled();
      seen.push([path, await held(page)]);
    }
    await page.goto(`${base}/daybook/${made.date}`);
    const plate = await page.waitForSelector(`[data-plate="${made.visitId}"]`);
    await plate?.hover();
    await settled();
    seen.push(['the card', await held(page)]);
    await plate?.click();
    await settled();
    seen.push(['the panel', await held(page)]);
    await page.close();
    return seen;
  };

  for (const role of ['Front desk', 'Provider', 'Read-only'])
    it(`is named nowhere to the role ${role}`, async () => {
      const seen = await walk(role);
      expect(seen.flatMap(([where, what]) => toldBy(what).map((told) => `${where}: ${told}`))).toEqual([]);
      // The time is taken all the same, and says why it has no name.
      expect(seen.find(([where]) => where === 'the panel')?.[1]).toContain('Restricted');
    });

  it('is named to a coordinator where it would be named at all', async () => {
    const seen = await walk('Coordinator');
    const named = seen.filter(([, what]) => what.includes(SECRET.familyName)).map(([where]) => where);
    expect(named).toEqual(
      expect.arrayContaining([
        '/today',
        `/daybook/${made.date}`,
        `/patients/${made.patientId}`,
        'the card',
        'the panel',
      ]),
    );
  });
});
