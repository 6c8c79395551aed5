import { addDays } from '@zaguan/core/time';
import {
  changeView,
  daybookViews,
  removeView,
  saveView,
  STANDARD_VIEW,
  type ViewSettings,
} from '@zaguan/contracts/daybook';
import type { HTTPRequest } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, field, fill, orSay, press, seesText, undoIt } from '../fixtures/browser.ts';
import { dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { until } from '../fixtures/until.ts';
import { TEST_DAY } from '../fixtures/world.ts';

const TOMORROW = addDays(TEST_DAY, 1);
/** Canal Row is closed on Saturday and Sunday. */
const WORKING_DAYS = 5;
const LEFT = '00000000-0000-4000-8000-00000000000a';

describe('the Daybook by Lenses', () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await openDesk('lenses', 'coordinator');
    await desk.page.waitForSelector('[data-plate]');
  });
  afterAll(() => desk.close());

  const go = async (path: string, sees = '[data-plate]') => {
    await desk.page.goto(desk.base + path);
    await orSay(desk.page, desk.page.waitForSelector(sees));
  };
  const keep = async (name: string, more: Partial<ViewSettings>, hotkey: number | null = null) =>
    dataOf(
      await desk.api.call(saveView, {
        ...{ name, scope: 'personal', siteId: null, hotkey },
        settings: { ...STANDARD_VIEW, ...more },
      }),
    );
  const lensOf = () => desk.page.$eval('[data-popover="lens"]', (each) => (each as HTMLElement).innerText);
  const lanes = () =>
    desk.page.$$eval('[data-lane]', (all) => all.map((each) => (each as HTMLElement).dataset.lane?.split(':')[1]));

  it('are made beside a live sample; what is typed outlives a reload; saved, used, and chosen by a key', async () => {
    const { page } = desk;
    await press(page, 'Lens');
    await press(page, 'Edit Lenses');
    await press(page, 'New Lens');
    await page.waitForSelector('[data-sample] [data-plate]');
    await fill(page, 'Name', 'My columns');
    await press(page, 'Top to bottom');
    await page.waitForSelector('[data-sample] [data-axis="down"] [data-plate]');
    await page.select('select[aria-label^="In a lane"]', 'fees');
    await seesText(page, 'expected');
    expect(await axeViolations(page)).toEqual([]);
    await page.reload();
    await page.waitForSelector('[data-sample] [data-axis="down"] [data-plate]');
    expect(await (await field(page, 'Name')).evaluate((each) => (each as HTMLInputElement).value)).toBe('My columns');
    await (await field(page, 'Key')).select('6');
    await press(page, 'Save');
    await seesText(page, 'Lens saved.');
    await press(page, 'Use this Lens');
    // The sample shows columns too: the day is there once its own button is.
    await page.waitForSelector('[data-popover="lens"]');
    await page.waitForSelector('[data-axis="down"] [data-plate]');
    expect(await lensOf()).toBe('Lens: My columns');
    expect(await axeViolations(page)).toEqual([]);
    await page.keyboard.press('0');
    await page.waitForSelector('[data-axis="across"] [data-plate]');
    expect(await lensOf()).toBe('Lens');
    await page.keyboard.press('6');
    await page.waitForSelector('[data-axis="down"] [data-plate]');
    // It stays this desk's.
    await page.reload();
    await page.waitForSelector('[data-axis="down"] [data-plate]');
  });

  it('refuse what can’t be drawn and lose nothing of it; a key that is taken is said', async () => {
    const { page } = desk;
    await go('/daybook/lenses/new', '[data-sample] [data-plate]');
    await press(page, 'Always the same');
    await press(page, 'Save');
    await page.waitForSelector('[aria-invalid="true"]');
    await fill(page, 'Name', 'Mornings');
    await fill(page, 'From', '8:00 am');
    await fill(page, 'Until', '8:30 am');
    await seesText(page, 'at least an hour after');
    await fill(page, 'Until', '12:00 pm');
    await (await field(page, 'Key')).select('6');
    await press(page, 'Save');
    await seesText(page, 'Another Lens of this list has this key.');
    await (await field(page, 'Key')).select('7');
    await press(page, 'Save');
    await seesText(page, 'Lens saved.');
    // Whatever lies outside of the hours is said to, and one press away.
    await press(page, 'Use this Lens');
    await page.waitForSelector('[data-outside]');
    const hours = () => page.$eval('[data-site]', (each) => each.textContent ?? '');
    expect(await hours()).not.toContain('3 pm');
    await press(page, 'Show all hours');
    await page.waitForFunction(() => document.querySelector('[data-site]')?.textContent?.includes('3 pm'));
    expect(await page.$('[data-outside]')).toBeNull();
    await page.keyboard.press('0');
  });

  it('are copied, put in order, and removed with undo', async () => {
    const { page } = desk;
    const order = async () => dataOf(await desk.api.call(daybookViews, {})).views.map(({ name }) => name);
    const [first] = dataOf(await desk.api.call(daybookViews, {})).views;
    await go(`/daybook/lenses/${first.id}`, '[data-sample] [data-plate]');
    await press(page, 'Copy');
    await page.waitForFunction(() => window.location.search.includes('from='));
    await press(page, 'Save');
    await seesText(page, 'Lens saved.');
    expect(await order()).toEqual(['My columns', 'Mornings', 'Copy of My columns']);
    await page.click('[aria-label="Move Copy of My columns up"]');
    await until(async () => (await order()).join() === 'My columns,Copy of My columns,Mornings', 'moved up');
    await go(`/daybook/lenses/${first.id}`, '[data-sample] [data-plate]');
    await press(page, 'Remove');
    await until(async () => !(await order()).includes('My columns'), 'removed');
    await seesText(page, 'Choose a Lens');
    await undoIt(page);
    await until(async () => (await order()).includes('My columns'), 'back again');
  });

  it('are not overwritten with what somebody else changed meanwhile; what is typed stays', async () => {
    const { page } = desk;
    const { id, version } = await keep('Shared by two', {});
    await go(`/daybook/lenses/${id}`, '[data-sample] [data-plate]');
    await fill(page, 'Name', 'Typed here');
    const body = { name: 'Changed there', scope: 'personal', siteId: null, hotkey: null, settings: STANDARD_VIEW };
    dataOf(await desk.api.call(changeView, { id, version, ...body } as never));
    await press(page, 'Save');
    await seesText(page, 'Someone else changed this');
    const nameOf = async () => dataOf(await desk.api.call(daybookViews, {})).views.find((view) => view.id === id)?.name;
    const typed = async () => (await field(page, 'Name')).evaluate((each) => (each as HTMLInputElement).value);
    expect([await nameOf(), await typed()]).toEqual(['Changed there', 'Typed here']);
    await press(page, 'Discard');
    await until(async () => (await typed()) === 'Changed there', 'what they have made of it');
    await fill(page, 'Name', 'Changed after all');
    await press(page, 'Save');
    await until(async () => (await nameOf()) === 'Changed after all', 'saved');
    dataOf(await desk.api.call(removeView, { id, version: version + 2 } as never));
  });

  it('list lanes by name in an order of their own, whoever has left since being said so', async () => {
    const { page } = desk;
    const { id } = await keep('Two people', { only: [PROVIDERS.lund, LEFT, PROVIDERS.amaya] }, 8);
    await go(`/daybook?site=${SITES.canal}`);
    await page.keyboard.press('8');
    await page.waitForFunction(() => document.querySelectorAll('[data-lane]').length === 2);
    expect(await lanes()).toEqual([PROVIDERS.lund, PROVIDERS.amaya]);
    // Asked for rooms, it gives all of them.
    await press(page, 'Rooms and equipment');
    await until(async () => !(await lanes()).includes(PROVIDERS.amaya), 'rooms alone');
    expect((await lanes()).length).toBeGreaterThan(0);
    await go(`/daybook/lenses/${id}`, '[data-sample] [data-plate]');
    await seesText(page, 'No longer here');
    await page.click('[aria-label="Remove No longer here"]');
    await page.waitForFunction(() => !document.body.innerText.includes('No longer here'));
    await page.keyboard.press('0');
  });

  it('hide names, and go on hiding them when they are gone, until another one is chosen', async () => {
    const { page } = desk;
    const { id } = await keep('Waiting room', { namesHidden: true, card: false }, 9);
    await go(`/daybook?site=${SITES.canal}`);
    const words = () => page.$$eval('[data-plate-name]', (all) => all.map((each) => each.textContent ?? ''));
    const names = (await words()).filter((word) => word !== 'Being booked');
    const hides = () =>
      page.waitForFunction(() =>
        [...document.querySelectorAll('[data-plate-name]')].every((each) =>
          ['Patient', 'Being booked'].includes(each.textContent ?? ''),
        ),
      );
    await page.keyboard.press('9');
    await hides();
    expect(await lensOf()).toBe('Lens: Waiting room, names hidden');
    // Nothing opens under the pointer where the Lens says so.
    await page.hover('[data-plate]');
    await new Promise((resolve) => setTimeout(resolve, 700));
    expect(await page.$('[role="tooltip"]')).toBeNull();
    const { version } = dataOf(await desk.api.call(daybookViews, {})).views.find((view) => view.id === id) ?? {};
    dataOf(await desk.api.call(removeView, { id, version } as never));
    await page.reload();
    await page.waitForSelector('[data-plate]');
    await hides();
    await press(page, 'Lens');
    await seesText(page, 'The Lens used at this desk is gone');
    await press(page, 'Standard');
    await page.keyboard.press('Escape');
    await page.waitForFunction((name) => document.body.innerText.includes(name), {}, names[0]);
  });

  it('draw columns in which a visit is dragged by mouse and by keys', async () => {
    const { page } = desk;
    await go(`/daybook/${TOMORROW}?site=${SITES.canal}`);
    await page.keyboard.press('6');
    await page.waitForSelector('[data-axis="down"] [data-plate]');
    const { rows } = await desk.world.sql.query<{ id: string; start: string }>(
      `select id, starts_at as start from appointment where site_id = $1 and site_date = $2 and status = 'booked' and provider_id = $3 and group_id is null order by starts_at`,
      [SITES.canal, TOMORROW, PROVIDERS.amaya],
    );
    const startOf = async (id: string) =>
      Date.parse(
        (await desk.world.sql.query('select starts_at as start from appointment where id = $1', [id])).rows[0].start,
      );
    const before = Date.parse(rows[0].start);
    const column = `[data-lane="${SITES.canal}:${PROVIDERS.amaya}"]`;
    const plate = `${column} [data-plate="${rows[0].id}"]`;
    await page.$eval(plate, (each) => each.scrollIntoView({ block: 'center' }));
    const at = (selector: string) =>
      page.$eval(selector, (each) => {
        const { left, top } = each.getBoundingClientRect();
        return { x: left + 20, y: top };
      });
    const from = await at(plate);
    await page.mouse.move(from.x, from.y + 4);
    await page.mouse.down();
    await page.mouse.move(from.x, from.y + 14, { steps: 3 });
    await page.waitForSelector('[data-dragged]');
    await page.waitForSelector(`${column} [data-fits-from]`);
    const lit = await page.$$eval(`${column} [data-fits-from]`, (all) =>
      all.map((each) => [Number((each as HTMLElement).dataset.fitsFrom), each.getBoundingClientRect().top]),
    );
    const [to] = lit.filter(([minute, top]) => minute * 60_000 !== before && top > 260 && top < 700)[0] ?? lit[0];
    const target = await at(`${column} [data-fits-from="${to}"]`);
    await page.mouse.move(target.x, target.y + 5, { steps: 30 });
    await orSay(page, page.waitForSelector('[data-drop-at][data-verdict="fits"]'));
    await page.mouse.up();
    await seesText(page, 'Undo');
    expect(Math.abs((await startOf(rows[0].id)) / 60_000 - to)).toBeLessThanOrEqual(5);
    await press(page, 'Undo');
    await until(async () => (await startOf(rows[0].id)) === before, 'taken back');
    // By keys time runs down: Shift and the arrow down go to the next time that fits.
    await page.waitForFunction(
      (selector, top) => Math.abs((document.querySelector(selector)?.getBoundingClientRect().top ?? 0) - top) < 2,
      {},
      ...([plate, from.y] as const),
    );
    await page.focus(plate);
    await page.keyboard.press('m');
    await page.waitForSelector(`${column} [data-fits-from]`);
    await page.keyboard.press('ArrowDown');
    await page.waitForSelector('[data-drop-at]');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Shift');
    await orSay(page, page.waitForSelector('[data-drop-at][data-verdict="fits"]'));
    await page.keyboard.press('Enter');
    await until(async () => (await startOf(rows[0].id)) > before, 'moved by keys');
    await undoIt(page);
    await until(async () => (await startOf(rows[0].id)) === before, 'taken back');
    await page.keyboard.press('0');
  });

  it('show a site’s whole week, day after day, and open a visit of any of them', async () => {
    const { page } = desk;
    await go(`/daybook/${TEST_DAY}?site=${SITES.canal}`);
    await press(page, 'Week');
    await page.waitForFunction(() => window.location.pathname.includes('/week/site/'));
    await page.waitForSelector('[data-plate]');
    // It opens at today, and stays there while the days around come in.
    await orSay(
      page,
      page.waitForFunction(() => {
        const today = [...document.querySelectorAll('[data-day-start]')].find((each) =>
          each.querySelector('.text-on-fill'),
        );
        const board = document.querySelector('[data-axis]');
        if (!today || !board) return false;
        return Math.abs(today.getBoundingClientRect().top - board.getBoundingClientRect().top) < 3;
      }),
    );
    // Days further down come as they come into sight.
    await page.waitForFunction(
      (n) => {
        const board = document.querySelector('[data-axis]');
        board?.scrollTo(0, board.scrollHeight);
        return document.querySelectorAll('[data-day-start]').length === n;
      },
      { polling: 100 },
      WORKING_DAYS,
    );
    expect(await axeViolations(page)).toEqual([]);
    await page.click('[data-day-start]:last-of-type [data-plate]:not([disabled])');
    await page.waitForSelector('aside h2');
    // A link to a visit of a day that is out of sight opens it all the same.
    const { rows } = await desk.world.sql.query<{ id: string }>(
      `select id from appointment where site_id = $1 and site_date > $2 and site_date < $3 and status = 'booked' order by site_date desc limit 1`,
      [SITES.canal, TEST_DAY, addDays(TEST_DAY, 5)],
    );
    await go(`/daybook/week/site/${SITES.canal}/${TEST_DAY}?visit=${rows[0].id}`, 'aside h2');
    await page.waitForSelector(`[data-plate="${rows[0].id}"][aria-pressed="true"]`);
    await page.keyboard.press('Escape');
  });

  it('show fixed hours in a person’s week too, and never leave out without a word what lies outside', async () => {
    const { page } = desk;
    await keep('Early', { hours: 'fixed', fromMinute: 480, toMinute: 540 }, 4);
    await go(`/daybook/week/${PROVIDERS.amaya}/${TEST_DAY}`);
    await page.keyboard.press('4');
    await page.waitForSelector('[data-outside]');
    await press(page, 'Show all hours');
    await page.waitForFunction(() => !document.querySelector('[data-outside]'));
    await page.keyboard.press('0');
  });

  it('say so where news of a site can’t be had, and load it when asked to', async () => {
    const { page } = desk;
    await go(`/daybook/${TEST_DAY}?site=${SITES.canal}`);
    await page.setRequestInterception(true);
    let fails = true;
    const answer = (request: HTTPRequest) => {
      const isDay = new URL(request.url()).pathname === `/api/daybook/${TEST_DAY}`;
      if (!isDay || !fails) return void request.continue();
      const body = JSON.stringify({ error: { tag: 'Unexpected', requestId: 'r', facts: {} } });
      void request.respond({ status: 500, contentType: 'application/json', body });
    };
    page.on('request', answer);
    try {
      await desk.world.sql.query(
        `insert into domain_event (at, type, payload) values (clock_timestamp(), 'visit-changed', $1)`,
        [JSON.stringify({ type: 'visit-changed', siteId: SITES.canal, date: TEST_DAY })],
      );
      await orSay(page, page.waitForSelector('[data-stale]'));
      // What was there is there still.
      expect(await page.$('[data-plate]')).not.toBeNull();
      fails = false;
      await press(page, 'Try again');
      await page.waitForFunction(() => !document.querySelector('[data-stale]'));
    } finally {
      page.off('request', answer);
      await page.setRequestInterception(false);
    }
  });

  it('load of all sites what comes into sight, and wherever a visit is that a link names', async () => {
    const { page } = desk;
    const asked: string[] = [];
    const note = (request: { url(): string }) => {
      const { pathname, searchParams } = new URL(request.url());
      if (pathname === `/api/daybook/${TEST_DAY}`) asked.push(searchParams.get('siteId') ?? 'all');
    };
    page.on('request', note);
    await go(`/daybook/${TEST_DAY}?site=all`);
    await page.waitForFunction(() => document.querySelectorAll('[data-site]').length === 2);
    expect(asked.toSorted()).toEqual([SITES.canal, SITES.mesa].toSorted());
    // Another desk stands at Canal Row; the link leads to Mesa Court.
    const { rows } = await desk.world.sql.query<{ id: string }>(
      `select id from appointment where site_id = $1 and site_date = $2 and status = 'booked' limit 1`,
      [SITES.mesa, TEST_DAY],
    );
    await page.evaluate((canal) => {
      const kept = JSON.parse(localStorage.getItem('zaguan.prefs') ?? '{}');
      localStorage.setItem('zaguan.prefs', JSON.stringify({ ...kept, siteId: canal }));
    }, SITES.canal);
    await go(`/daybook/${TEST_DAY}?visit=${rows[0].id}`, `[data-site="${SITES.mesa}"] [data-plate]`);
    await page.waitForSelector('aside h2');
    page.off('request', note);
    expect(desk.errors).toEqual([]);
  });
});
