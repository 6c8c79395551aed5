import { placeHold } from '@zaguan/contracts/booking';
import { publicTimes } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf } from '../fixtures/client.ts';
import { DESK, openPage, press } from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { FOLLOW_UP, freeTime } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';

describe('news on an open day', () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await openDesk('live_day', 'coordinator');
  });
  afterAll(() => desk.close());

  it('fetches that day of that site, once for all that comes together, and nothing else', async () => {
    const { page, base } = desk;
    const wanted = await freeTime(base);
    const date = wanted.start.slice(0, 10);
    const { lanes } = dataOf(await new Client(base).call(publicTimes, { ...FOLLOW_UP, date }));
    const times = lanes.flatMap(({ providerId, starts }) => starts.map((start) => ({ providerId, start })));
    await page.goto(`${base}/daybook/${date}`);
    await page.waitForSelector('html[data-live="open"] [data-plate]');
    const asked: string[] = [];
    page.on('request', (request) => {
      const { pathname, search } = new URL(request.url());
      if (pathname.startsWith('/api/')) asked.push(pathname + search);
    });
    const holds: string[] = [];
    // Two of nobody who proved a number are always possible; a third would make one of them give way.
    for (const time of [times[0], times[3]])
      holds.push(dataOf(await new Client(base).call(placeHold, { ...FOLLOW_UP, ...time })).hold.id);
    for (const id of holds) await page.waitForSelector(`[data-plate="${id}"]`);
    const ofDay = asked.filter((path) => path.includes('/daybook/'));
    expect(new Set(ofDay)).toEqual(new Set([`/api/daybook/${date}?siteId=${SITES.canal}`]));
    expect(ofDay.length).toBeLessThanOrEqual(holds.length);
    expect(asked.filter((path) => !path.includes('/daybook/'))).toEqual([]);
  });

  it('is not covered by a page that was read before it and comes after it', async () => {
    const { base, browser } = desk;
    const wanted = await freeTime(base, FOLLOW_UP, 5);
    const date = wanted.start.slice(0, 10);
    const { page } = await openPage(browser, DESK);
    page.setDefaultTimeout(12_000);
    await page.goto(base);
    await press(page, 'Coordinator');
    await page.waitForSelector('html[data-live="open"] [data-lane]');
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    let read = false;
    let isThere = false;
    await page.setRequestInterception(true);
    page.on('request', async (request) => {
      const { pathname, search } = new URL(request.url());
      if (read || pathname !== `/api/daybook/${date}` || search !== `?siteId=${SITES.canal}`)
        return void request.continue();
      const cookies = await page.cookies();
      read = true;
      const answer = await fetch(request.url(), {
        headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
      });
      const body = await answer.text();
      isThere = true;
      await held;
      await request.respond({ status: answer.status, contentType: 'application/json', body });
    });
    await page.evaluate((path) => {
      history.pushState(null, '', path);
      dispatchEvent(new PopStateEvent('popstate'));
    }, `/daybook/${date}`);
    await until(async () => isThere, 'the page is read');
    const { hold } = dataOf(await new Client(base).call(placeHold, wanted));
    // Longer than news takes.
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    letGo();
    await page.waitForSelector(`[data-plate="${hold.id}"]`);
    await page.close();
  });

  it('leaves another day alone', async () => {
    const { page, base } = desk;
    await page.goto(`${base}/daybook/2026-12-23`);
    await page.waitForSelector('html[data-live="open"] [data-lane]');
    const asked: string[] = [];
    page.on('request', (request) => asked.push(new URL(request.url()).pathname));
    dataOf(await new Client(base).call(placeHold, await freeTime(base, undefined, 6)));
    // Longer than it takes on the day itself.
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    expect(asked.filter((path) => path.startsWith('/api/'))).toEqual([]);
  });
});
