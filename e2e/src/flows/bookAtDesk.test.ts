import { randomUUID } from 'node:crypto';
import { bookAtDesk } from '@zaguan/contracts/desk';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TYPES } from '../../../demo/src/excerpt/ids.ts';
import {
  axeViolations,
  clickStill,
  DESK,
  fill,
  openPage,
  orSay,
  press,
  seesText,
  undoIt,
} from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';

interface Known {
  readonly id: string;
  readonly given: string;
  readonly family: string;
  readonly born: string;
}

describe('booking beside the Daybook', () => {
  let desk: Desk;
  let page: Page;
  let known: readonly Known[];

  beforeAll(async () => {
    desk = await openDesk('book_desk', 'coordinator');
    page = desk.page;
    const { rows } = await desk.world.sql.query<Known>(
      `select id, given_name as given, family_name as family, to_char(birth_date, 'FMMM/FMDD/YYYY') as born from patient p
       where not restricted and status = 'active' and birth_date < '2000-01-01' order by id limit 10`,
    );
    known = rows;
  });
  afterAll(() => desk.close());

  const openDaybook = async (search = '') => {
    await page.goto(`${desk.base}/daybook${search}`);
    await page.waitForSelector('html[data-live="open"] [data-lane]');
  };
  const find = async ({ id, family, born }: Known) => {
    await page.waitForFunction(() => document.activeElement?.matches('[data-testid="book"] input'));
    await page.keyboard.type(`${family} ${born}`);
    await orSay(page, page.waitForSelector(`[data-found="${id}"][data-selected="true"]`));
  };
  const isOn = (selector: string) =>
    page.waitForFunction((wanted) => document.activeElement?.matches(wanted), {}, selector);
  const firstProvider = async () =>
    (
      await desk.world.sql.query<{ site: string; provider: string }>(
        "select s.id as site, r.id as provider from site s, resource r where s.name = 'Canal Row' and r.kind = 'provider' order by r.sort_order limit 1",
      )
    ).rows[0];
  const visitsOf = async (id: string) =>
    (
      await desk.world.sql.query(
        "select status, reason_text as reason, rules_waived as waived from appointment where patient_id = $1 and origin = 'desk' order by created_at desc",
        [id],
      )
    ).rows;

  it('books a known patient with a reason in six keys beyond what is typed, and takes it back', async () => {
    const [who] = known;
    await openDaybook();
    let keys = 0;
    const key = async (name: 'b' | 'Enter') => {
      keys++;
      await page.keyboard.press(name);
    };
    await key('b');
    await page.waitForSelector('[data-testid="book"]');
    await find(who);
    await key('Enter');
    await page.waitForSelector(`[data-who="${who.id}"]`);
    await isOn('select[name="visitType"]');
    await page.keyboard.type('Follow');
    await key('Enter');
    await isOn('input[name="reason"]');
    await page.keyboard.type('Medicine review');
    await page.waitForSelector('[data-proposal="1"]');
    expect(await axeViolations(page)).toEqual([]);
    await key('Enter');
    await isOn('[data-proposal="1"]');
    await key('Enter');
    await isOn('[data-book]');
    await page.waitForSelector('[data-held]');
    expect(await axeViolations(page)).toEqual([]);
    await key('Enter');
    await seesText(page, 'Booked for');
    expect(keys).toBeLessThanOrEqual(6);
    await page.waitForFunction(() => !document.querySelector('[data-testid="book"]'));
    // The next booking is a key away, and so is the same patient's next visit.
    await page.waitForSelector('[data-testid="booked"]');
    await page.keyboard.press('b');
    await page.waitForSelector('[data-testid="book"] input');
    expect(await page.$('[data-testid="booked"]')).toBeNull();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('aside'));
    expect(await visitsOf(who.id)).toMatchObject([{ status: 'booked', reason: 'Medicine review', waived: null }]);
    expect((await desk.world.sql.query('select 1 from hold where account_id is not null')).rowCount).toBe(0);
    await undoIt(page);
    await seesText(page, 'Undone');
    expect((await visitsOf(who.id))[0].status).toBe('cancelled');
    expect(page.url()).not.toContain(who.family);
  });

  it('keeps what was chosen over a reload, says which rule a time breaks, and books against it with a reason', async () => {
    const [, who] = known;
    const lane = await firstProvider();
    // Ten at night: nobody works.
    const at = `${lane.site} ${lane.provider} 2026-12-03T04:00:00.000Z`;
    await openDaybook(`?book=${encodeURIComponent(at)}`);
    await seesText(page, 'Chosen: Wed, Dec 2, 10:00 pm');
    await find(who);
    await page.keyboard.press('Enter');
    await isOn('select[name="visitType"]');
    await page.keyboard.type('Follow');
    await page.waitForSelector('[data-testid="book"] [data-book]:disabled');
    await seesText(page, 'This time breaks a rule:');
    await fill(page, 'Book it anyway, because', 'She drives four hours');
    await page.reload();
    await page.waitForSelector(`[data-who="${who.id}"]`);
    await clickStill(page, '[data-book]');
    await seesText(page, 'Booked for Wed, Dec 2, 10:00 pm');
    expect((await visitsOf(who.id))[0]).toMatchObject({ status: 'booked', waived: ['no-hours'] });
    await undoIt(page);
  });

  it('takes the free time behind the visit in focus by one key, and several reasons by one press', async () => {
    const { site, provider } = await firstProvider();
    await openDaybook(`?site=${site}`);
    const plates = await page.$$(`[data-lane="${site}:${provider}"] [data-plate]`);
    const visitId = await plates[plates.length - 1].evaluate((each) => each.getAttribute('data-plate'));
    await page.focus(`[data-plate="${visitId}"]`);
    await page.keyboard.press('b');
    await seesText(page, 'Chosen: Tue, Dec 1');
    const asked = new URL(page.url()).searchParams.get('book')?.split(' ') ?? [];
    expect(asked.slice(0, 2)).toEqual([site, provider]);
    const { rows } = await desk.world.sql.query<{ end: Date }>(
      'select provider_ends_at as end from appointment where id = $1',
      [visitId],
    );
    expect(new Date(asked[2]).getTime()).toBeGreaterThanOrEqual(rows[0].end.getTime());
    await page.select('select[name="visitType"]', TYPES.follow);
    await press(page, 'Test results + New medicine');
    expect(await page.$eval('input[name="reason"]', (each) => (each as HTMLInputElement).value)).toBe(
      'Test results; New medicine',
    );
    await press(page, 'Close');
    await page.waitForFunction(() => !document.querySelector('aside'));
  });

  it('shows other desks who books a time, and gives it back when the panel closes', async () => {
    const [, , who] = known;
    await openDaybook('?book=new');
    await find(who);
    await page.keyboard.press('Enter');
    await isOn('select[name="visitType"]');
    await page.keyboard.type('Follow');
    await page.waitForSelector('[data-proposal="2"]');
    await page.focus('[data-proposal="1"]');
    await page.keyboard.press('2');
    await page.waitForSelector('[data-held]');
    const held = async () => (await desk.world.sql.query('select 1 from hold where account_id is not null')).rowCount;
    expect(await held()).toBe(1);
    await press(page, 'Close');
    await page.waitForFunction(() => !document.querySelector('[data-testid="book"]'));
    await expect.poll(held).toBe(0);
  });

  it('names other times where another desk was quicker, and books one of them', async () => {
    const [, , , who, other] = known;
    const { page: alone } = await openPage(desk.browser, DESK);
    // Nobody tells this page that the time is gone.
    await alone.setRequestInterception(true);
    alone.on(
      'request',
      (request) => void (request.url().includes('/api/events') ? request.abort() : request.continue()),
    );
    await alone.goto(desk.base);
    await press(alone, 'Coordinator');
    await alone.waitForSelector('nav');
    await alone.goto(`${desk.base}/daybook?book=new&for=${who.id}`);
    await alone.waitForSelector(`[data-who="${who.id}"]`);
    await alone.focus('select[name="visitType"]');
    await alone.keyboard.type('Follow');
    await alone.waitForSelector('[data-proposal="1"]');
    await alone.click('[data-proposal="1"]');
    await alone.waitForSelector('[data-held]');
    const [held] = (
      await desk.world.sql.query(
        'delete from hold where account_id is not null returning site_id as "siteId", provider_id as "providerId", visit_type_id as "visitTypeId", starts_at as start',
      )
    ).rows;
    const visit = { ...held, start: held.start.toISOString(), patientId: other.id };
    const taken = { key: randomUUID(), flowId: randomUUID(), group: null, visits: [visit] };
    expect((await desk.api.call(bookAtDesk, taken as never)).status).toBe(200);
    await alone.click('[data-book]');
    await seesText(alone, 'Someone else has just taken this time.');
    expect((await alone.$$('[data-nearest]')).length).toBe(3);
    // The proposals above are asked for anew meanwhile: it is pressed where it stands.
    await alone.$eval('[data-nearest]', (each) => (each as HTMLElement).click());
    await orSay(alone, alone.waitForSelector('[data-held]'));
    await alone.click('[data-book]');
    await seesText(alone, 'Booked for');
    expect((await visitsOf(who.id))[0].status).toBe('booked');
    // The panel was opened for this patient: it begins anew for them all the same.
    await press(alone, 'Book their next visit');
    await alone.waitForSelector(`[data-testid="book"] [data-who="${who.id}"]`);
    expect(await alone.$eval('select[name="visitType"]', (each) => (each as HTMLSelectElement).value)).toBe('');
  });

  it('fits a phone, and leaves who may only read with the question alone', async () => {
    const small = await openPage(desk.browser, { width: 390, height: 760 });
    await small.page.goto(desk.base);
    await press(small.page, 'Coordinator');
    await small.page.waitForSelector('nav');
    await small.page.goto(`${desk.base}/daybook?book=new`);
    await small.page.waitForSelector('[data-testid="book"]');
    const wide = await small.page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(wide).toBeLessThanOrEqual(0);
    const reader = await openPage(desk.browser, { width: 1280, height: 800 });
    await reader.page.goto(desk.base);
    await press(reader.page, 'Read-only');
    await reader.page.waitForSelector('[data-lane]');
    expect(await reader.page.$('::-p-xpath(//header//button[.="Book"])')).toBeNull();
    await reader.page.keyboard.press('b');
    expect(await reader.page.$('[data-testid="book"]')).toBeNull();
  });
});
