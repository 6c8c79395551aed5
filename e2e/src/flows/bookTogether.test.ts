import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findTimes } from '@zaguan/contracts/openings';
import { SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, clickStill, orSay, seesText, undoIt } from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { newPatients } from '../fixtures/deskBookings.ts';
import { TEST_DAY } from '../fixtures/world.ts';

describe('booking several visits beside the Daybook', () => {
  let desk: Desk;
  let page: Page;
  let siblings: readonly string[];

  beforeAll(async () => {
    desk = await openDesk('book_together', 'coordinator');
    page = desk.page;
    siblings = await newPatients(desk.world.sql, 4);
    const household = crypto.randomUUID();
    await desk.world.sql.query("insert into household (id, name) values ($1, 'Arlen')", [household]);
    await desk.world.sql.query(
      `update patient set household_id = $1, given_name = (array['Ada', 'Ben', 'Cy', 'Dee'])[array_position($2::uuid[], id)] where id = any($2)`,
      [household, siblings],
    );
    // The first search starts its thread and reads the clinic: on a busy machine that alone may use up a search's time.
    const member = { visitTypeId: TYPES.follow, kind: 'established' as const };
    await desk.api.call(findTimes, {
      ...{ members: [member, member], channel: 'desk', siteIds: Object.values(SITES), providerIds: null },
      ...{ from: TEST_DAY, days: 3, weekdays: null, fromMinute: 0, toMinute: 1440, language: null, series: null },
      household: { how: 'back-to-back', mostWaitMin: 0 },
    } as never);
  });
  afterAll(() => desk.close());

  const isOn = (selector: string) =>
    orSay(
      page,
      page.waitForFunction((wanted) => document.activeElement?.matches(wanted), {}, selector),
    );
  const visitsOf = async (ids: readonly string[]) =>
    (
      await desk.world.sql.query<{
        id: string;
        patient: string;
        status: string;
        start: Date;
        minutes: number;
        kind: string | null;
        date: string;
      }>(
        `select id, patient_id as patient, status, starts_at as start, (extract(epoch from ends_at - starts_at) / 60)::int as minutes, group_kind as kind, site_date::text as date
         from appointment where patient_id = any($1) and status <> 'cancelled' order by starts_at`,
        [ids],
      )
    ).rows;
  const openFor = async (id: string) => {
    await page.goto(`${desk.base}/daybook?book=new&for=${id}`);
    await page.waitForSelector(`[data-who="${id}"]`);
    await isOn('select[name="visitType"]');
    await page.keyboard.type('Follow');
    await page.waitForSelector('[data-proposal="1"]');
  };
  const book = async () => {
    // What was open above the button closes when another time is chosen.
    await clickStill(page, '[data-book]');
    await orSay(page, page.waitForSelector('[data-testid="booked"]'));
  };

  it('books three siblings back to back in five steps beyond their names, and takes all of them back', async () => {
    const [ada, ben, cy] = siblings;
    await openFor(ada);
    let steps = 0;
    const step = async (selector: string) => {
      steps++;
      await orSay(page, page.locator(selector).click());
    };
    await step('[name="others"]');
    await step(`[data-member="${ben}"]`);
    await step(`[data-member="${cy}"]`);
    await orSay(
      page,
      page.waitForFunction(() => document.querySelector('[data-proposal="1"]')?.textContent?.includes('Cy')),
    );
    await step('[data-proposal="1"]');
    await orSay(page, page.waitForSelector('[data-held]'));
    expect(await axeViolations(page)).toEqual([]);
    await step('[data-book]:enabled');
    expect(steps).toBeLessThanOrEqual(5);
    await orSay(page, page.waitForSelector('[data-testid="booked"]'));
    await seesText(page, '3 visits are booked');
    expect(await axeViolations(page)).toEqual([]);
    const booked = await visitsOf([ada, ben, cy]);
    expect(booked.map(({ kind }) => kind)).toEqual(['household', 'household', 'household']);
    // One after the other: nobody waits longer than a quarter of an hour.
    for (const [i, visit] of booked.slice(1).entries())
      expect((visit.start.getTime() - booked[i].start.getTime()) / 60_000 - booked[i].minutes).toBeLessThanOrEqual(15);
    await undoIt(page);
    await seesText(page, 'Undone');
    expect(await visitsOf([ada, ben, cy])).toEqual([]);
  });

  it('books two of a household and puts the third onto the Bench', async () => {
    const [ada, ben, cy] = siblings;
    await openFor(ada);
    await page.locator('[name="others"]').click();
    for (const id of [ben, cy]) await page.locator(`[data-member="${id}"]`).click();
    await orSay(
      page,
      page.waitForFunction(() => document.querySelector('[data-proposal="1"]')?.textContent?.includes('Cy')),
    );
    await page.locator('[data-proposal="1"]').click();
    await page.waitForSelector('[data-group-visit="2"]');
    await page.locator('[data-group-visit="2"] ::-p-text(Another time)').click();
    await page.locator('[name="bench-2"]').click();
    await seesText(page, 'Book 2 visits');
    await book();
    expect((await visitsOf([ada, ben, cy])).map(({ patient }) => patient).sort()).toEqual([ada, ben].sort());
    const waiting = await desk.world.sql.query('select patient_id as id from unplaced_visit where ended_at is null');
    expect(waiting.rows).toEqual([{ id: cy }]);
    await undoIt(page);
    await seesText(page, 'Undone');
  });

  it('books a series of which one visit is changed first, then cancels this one and later ones', async () => {
    const [, , , dee] = siblings;
    await openFor(dee);
    await page.locator('[name="repeat"]').click();
    const count = await page.waitForSelector('[name="count"]');
    await count?.click({ count: 3 });
    await count?.type('3');
    await orSay(
      page,
      page.waitForFunction(() => document.querySelectorAll('[data-proposal="1"] b').length === 3),
    );
    await page.locator('[data-proposal="1"]').click();
    await page.locator('[data-group-visit="1"] ::-p-text(Another time)').click();
    const other = await orSay(page, page.waitForSelector('[data-group-visit="1"] [data-time][aria-pressed="false"]'));
    const wanted = await other?.evaluate((each) => each.getAttribute('data-time'));
    await other?.click();
    await book();
    const visits = await visitsOf([dee]);
    expect(visits.map(({ kind }) => kind)).toEqual(['series', 'series', 'series']);
    expect(visits[1].start.toISOString()).toBe(new Date(wanted ?? '').toISOString());
    await page.goto(`${desk.base}/daybook/${visits[1].date}?visit=${visits[1].id}&do=cancel`);
    await seesText(page, 'One of a series');
    await (
      await orSay(page, page.waitForSelector('[data-reach] ::-p-text(This one and later ones, 2 in all)'))
    )?.click();
    await page.locator('input[value="patient-asked"]').click();
    await page.locator('aside form button[type="submit"]').click();
    await seesText(page, 'Undo');
    await expect.poll(async () => (await visitsOf([dee])).map(({ id }) => id)).toEqual([visits[0].id]);
    await undoIt(page);
    await seesText(page, 'Undone');
    expect((await visitsOf([dee])).length).toBe(3);
  });

  it('moves a household together, each by as much', async () => {
    const [ada, ben] = siblings;
    await openFor(ada);
    await page.locator('[name="others"]').click();
    await page.locator(`[data-member="${ben}"]`).click();
    await orSay(
      page,
      page.waitForFunction(() => document.querySelector('[data-proposal="1"]')?.textContent?.includes('Ben')),
    );
    await page.locator('[data-proposal="1"]').click();
    await book();
    const before = await visitsOf([ada, ben]);
    await page.goto(`${desk.base}/daybook/${before[0].date}?visit=${before[0].id}&do=move`);
    await (await orSay(page, page.waitForSelector('[data-reach] ::-p-text(All 2)')))?.click();
    const day = await page.waitForSelector('input[name="moveDay"]');
    // Ten weeks on nothing else is booked.
    const on = new Date(Date.parse(`${before[0].date}T12:00:00Z`) + 70 * 86_400_000).toISOString().slice(0, 10);
    await day?.evaluate((each, to) => {
      const input = each as HTMLInputElement;
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(input, to);
      input.dispatchEvent(new Event('input', { bubbles: true }));
    }, on);
    await orSay(
      page,
      page.waitForFunction((on) => document.querySelector(`[data-move-to^="${on}"]`), {}, on),
    );
    const to = await page.$eval('[data-move-to]', (each) => each.getAttribute('data-move-to') ?? '');
    await page.locator('[data-move-to]').click();
    await seesText(page, 'Undo');
    const after = await visitsOf([ada, ben]);
    const byAsMuch = Date.parse(to) - before[0].start.getTime();
    expect(byAsMuch).toBeGreaterThan(69 * 86_400_000);
    expect(after.map(({ start }, i) => start.getTime() - before[i].start.getTime())).toEqual([byAsMuch, byAsMuch]);
  });

  it('lights up times in the Daybook, and books the one that is pressed, with own length and a wish to come sooner', async () => {
    const [, , cy] = siblings;
    await openFor(cy);
    await page.locator('[data-parts]').click();
    const minutes = await page.waitForSelector('[name="minutes-0"]');
    await minutes?.click({ count: 3 });
    await minutes?.type('45');
    await page.locator('[name="sooner"]').click();
    await page.locator('[data-sooner] [aria-haspopup="dialog"]').click();
    await page.waitForSelector('[role="dialog"] input');
    for (const box of (await page.$$('[role="dialog"] input')).slice(0, 2)) await box.click();
    await page.keyboard.press('Escape');
    await seesText(page, '2 selected');
    await orSay(page, page.waitForSelector('[data-lit-time]'));
    expect(await axeViolations(page)).toEqual([]);
    const lit = await page.$eval('[data-lit-time]', (each) => each.getAttribute('data-lit-time'));
    await page.locator('[data-lit-time]').click();
    await orSay(page, page.waitForSelector('[data-held]'));
    await page.reload();
    await orSay(page, page.waitForSelector('[data-held]'));
    await book();
    expect(await visitsOf([cy])).toMatchObject([{ start: new Date(lit ?? ''), minutes: 45 }]);
    const wish = await desk.world.sql.query(
      'select notice_min as notice, cardinality(site_ids) as sites from waitlist_wish where patient_id = $1',
      [cy],
    );
    expect(wish.rows).toEqual([{ notice: 60, sites: 2 }]);
    await page.waitForFunction(() => !document.querySelector('[data-lit-time]'));
    // At the visit: the wish, until they no longer have it; the details on paper.
    await page.locator('[data-testid="booked"] a[href*="visit="]').click();
    await seesText(page, 'on 1 hour’s notice');
    const sheet = await page.$eval('[data-print]', (each) => each.getAttribute('href') ?? '');
    await page.locator('[data-wish] button').click();
    await seesText(page, 'They no longer want to come sooner.');
    await page.waitForFunction(() => !document.querySelector('[data-wish]'));
    await page.goto(`${desk.base}${sheet}`);
    await seesText(page, 'To change or cancel, call');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('books from a found time in four keys', async () => {
    const [, ben] = siblings;
    await page.goto(`${desk.base}/find?who=established:${TYPES.follow}:${ben}`);
    await orSay(page, page.waitForSelector('[data-found-time]'));
    await page.focus('[data-found-time]');
    let keys = 0;
    const enter = async () => {
      keys++;
      await page.keyboard.press('Enter');
    };
    await enter();
    await isOn('input[name="reason"]');
    await page.keyboard.type('Rash came back');
    await enter();
    await isOn('[data-book]');
    await orSay(page, page.waitForSelector('[data-held]'));
    await enter();
    await orSay(page, page.waitForSelector('[data-testid="booked"]'));
    expect(keys).toBeLessThanOrEqual(4);
    expect(desk.errors).toEqual([]);
  });
});
