import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  axeViolations,
  choose,
  clickStill,
  DESK,
  fill,
  openPage,
  press,
  seesText,
  undoIt,
} from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';

describe('what is still to be booked', () => {
  let desk: Desk;
  let page: Page;
  let patient: { id: string; name: string };

  beforeAll(async () => {
    desk = await openDesk('requests_bench', 'coordinator');
    page = desk.page;
    const { rows } = await desk.world.sql.query<typeof patient>(
      `select id, given_name || ' ' || family_name as name from patient p where not restricted and status = 'active' and birth_date < '2000-01-01'
       and not exists (select 1 from appointment a where a.patient_id = p.id and a.starts_at > now()) order by id limit 1`,
    );
    [patient] = rows;
  });
  afterAll(() => desk.close());

  it('is asked for by a provider, overdue in sight, and booked in one step', async () => {
    const provider = await openPage(desk.browser, DESK);
    await provider.page.goto(desk.base);
    await press(provider.page, 'Provider');
    await provider.page.waitForSelector('nav');
    await provider.page.goto(`${desk.base}/patients/${patient.id}`);
    await press(provider.page, 'Request a visit');
    await provider.page.waitForSelector('form[aria-label="Request a visit"]');
    await provider.page.click('form[aria-label="Request a visit"] button[type="submit"]');
    await provider.page.waitForSelector('[aria-invalid="true"]');
    await choose(provider.page, 'Visit type', 'Follow-up');
    await fill(provider.page, 'Reason', 'Spirometry is due');
    await provider.page.click('form[aria-label="Request a visit"] button[type="submit"]');
    await seesText(provider.page, 'The visit is requested.');

    await page.goto(`${desk.base}/requests`);
    await seesText(page, 'Spirometry is due');
    expect(await axeViolations(page)).toEqual([]);
    await desk.world.sql.query("update booking_request set from_date = '2026-10-01', due_date = '2026-11-01'");
    await page.goto(`${desk.base}/today`);
    await seesText(page, '1 request to book is overdue');
    await press(page, '1 request to book is overdue');
    await seesText(page, 'Overdue.');
    await press(page, 'Book');
    await page.waitForSelector(`[data-who="${patient.id}"]`);
    await page.waitForFunction(
      () =>
        document.querySelector<HTMLSelectElement>('select[name="visitType"]')?.selectedOptions[0].text === 'Follow-up',
    );
    await page.waitForSelector('[data-proposal="1"]');
    await page.click('[data-proposal="1"]');
    await clickStill(page, '[data-book]');
    await seesText(page, 'Booked for');
    await page.goto(`${desk.base}/requests`);
    await seesText(page, 'Every requested visit is booked.');
  });

  it('waits on the Bench with its time, is assigned, and gets another one', async () => {
    const visit = (
      await desk.world.sql.query<{ id: string; date: string }>(
        "select id, site_date::text as date from appointment where patient_id = $1 and status = 'booked' order by created_at desc limit 1",
        [patient.id],
      )
    ).rows[0];
    await page.goto(`${desk.base}/daybook/${visit.date}?visit=${visit.id}`);
    await page.waitForSelector('aside');
    await page.goto(`${desk.base}/daybook/${visit.date}?visit=${visit.id}&do=bench`);
    await press(page, 'Put on the Bench');
    await seesText(page, 'The visit is on the Bench.');
    await page.goto(`${desk.base}/bench`);
    await seesText(page, patient.name);
    await seesText(page, 'until moved');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Assign to me');
    await seesText(page, 'Release');
    await page.click('[data-unplaced] a[href*="use="]');
    await page.waitForSelector(`[data-who="${patient.id}"]`);
    await page.waitForSelector('[data-proposal="2"]');
    await page.click('[data-proposal="2"]');
    await clickStill(page, '[data-book]');
    await seesText(page, 'Booked for');
    const after = await desk.world.sql.query(
      'select id, icalendar from (select id, ical_sequence as icalendar from appointment where id = $1) a',
      [visit.id],
    );
    expect(after.rows[0].icalendar).toBe(1);
    await page.goto(`${desk.base}/bench`);
    await seesText(page, 'Nothing waits for a time.');
    await page.goto(`${desk.base}/daybook`);
  });

  it('withdraws a request with a reason, and takes that back', async () => {
    await page.goto(`${desk.base}/patients/${patient.id}`);
    await press(page, 'Request a visit');
    await choose(page, 'Visit type', 'Follow-up');
    await page.click('form[aria-label="Request a visit"] button[type="submit"]');
    await seesText(page, 'The visit is requested.');
    await page.goto(`${desk.base}/requests`);
    await press(page, 'Withdraw');
    await fill(page, 'Why is no visit needed?', 'Seen elsewhere');
    await page.click('[data-request] form button[type="submit"]');
    await seesText(page, 'Every requested visit is booked.');
    await undoIt(page);
    await page.waitForSelector('[data-request]');
  });
});
