import { recallPlans } from '@zaguan/contracts/recalls';
import { addDays, addMonths } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axeViolations, DESK, field, fill, openPage, orSay, press, seesText, undoIt } from '../fixtures/browser.ts';
import { dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { aPatient, aVisit } from '../fixtures/recalls.ts';
import { until } from '../fixtures/until.ts';
import { TEST_DAY } from '../fixtures/world.ts';

const DUE = addMonths(TEST_DAY, -6);

describe('Outreach', () => {
  let desk: Desk;
  let [due, later] = ['', ''];
  beforeAll(async () => {
    desk = await openDesk('outreach', 'coordinator');
    const { sql } = desk.world;
    due = await aPatient(sql, 'Duelist');
    // The longest due stands first.
    await aVisit(sql, due, addDays(DUE, -400), 'fulfilled');
    later = await aPatient(sql, 'Notyet');
    await aVisit(sql, later, addDays(DUE, 20), 'fulfilled');
  });
  afterAll(() => desk.close());

  const plans = async () => dataOf(await desk.api.call(recallPlans.list, {})).records;
  const go = async (path: string, sees: string) => {
    await desk.page.goto(desk.base + path);
    await orSay(desk.page, desk.page.waitForSelector(sees));
  };
  const liveDue = () => desk.page.$eval('[data-live-due]', (each) => Number.parseInt(each.textContent ?? '', 10));

  it('says what to do first, and counts whom a plan finds while it is written', async () => {
    const { page } = desk;
    await page.waitForSelector('[data-plate]');
    await press(page, 'Outreach');
    await seesText(page, 'No recall plan yet.');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'New plan');
    await fill(page, 'Name', 'Half-year follow-up');
    await press(page, 'On: list');
    // Nothing is counted before it is said which visits count.
    expect(await page.$('[data-live-due]')).toBeNull();
    await press(page, 'Follow-up');
    await page.waitForSelector('[data-live-due]');
    const all = await liveDue();
    expect(all).toBeGreaterThan(0);
    await seesText(page, '6 months after the last Follow-up');
    expect(await axeViolations(page)).toEqual([]);
    // Fewer are found once more must be true of them.
    await fill(page, 'Age from', '80');
    await page.waitForFunction(
      (n) => Number.parseInt(document.querySelector('[data-live-due]')?.textContent ?? '', 10) < n,
      {},
      all,
    );
    await fill(page, 'Age to', '70');
    await press(page, 'Save');
    await page.waitForSelector('[aria-invalid="true"]');
    await fill(page, 'Age from', '');
    await fill(page, 'Age to', '');
    await page.waitForFunction(
      (n) => Number.parseInt(document.querySelector('[data-live-due]')?.textContent ?? '', 10) === n,
      {},
      all,
    );
    await press(page, 'Save');
    await page.waitForSelector('[data-count="due"]');
    const [plan] = await plans();
    expect(plan.doc).toMatchObject({ name: 'Half-year follow-up', isOn: true });
    await page.waitForFunction(
      (n) => document.querySelector('[data-count="due"] b')?.textContent === String(n),
      {},
      all,
    );
  });

  it('lists the people of a plan with the reason in a line, and every rule beside', async () => {
    const { page } = desk;
    await press(page, 'Half-year follow-up');
    await page.waitForSelector(`[data-listed="${due}"]`);
    const line = await page.$eval(`[data-listed="${due}"]`, (each) => (each as HTMLElement).innerText);
    expect(line).toContain('Overdue');
    expect(line).toContain('last Follow-up 19 months ago');
    expect(line).toContain('was due 13 months ago');
    expect(await axeViolations(page)).toEqual([]);
    await page.locator(`[data-listed="${due}"] button`).click();
    await page.waitForSelector('aside [data-state="due"]');
    await seesText(page, 'has no such visit booked');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('notes what somebody wants, moves them to its list, and takes it back', async () => {
    const { page } = desk;
    await press(page, 'Remind later…');
    await fill(page, 'Note', 'after the holidays');
    // What is typed is there again after a reload.
    await page.reload();
    await press(page, 'Remind later…');
    await page.waitForFunction(() =>
      [...document.querySelectorAll('aside input')].some(
        (each) => (each as HTMLInputElement).value === 'after the holidays',
      ),
    );
    await press(page, 'Put off');
    await page.waitForSelector('aside [data-choice="later"]');
    await until(async () => !(await page.$(`[data-listed="${due}"]`)), 'off the list of those who are due');
    await undoIt(page);
    await page.waitForSelector(`[data-listed="${due}"]`);
    await press(page, 'Done elsewhere…');
    await press(page, 'Note as done');
    await page.waitForSelector('aside [data-choice="done-elsewhere"]');
    await page.waitForSelector('aside [data-state="not-due"]');
    await press(page, 'Take back');
    await page.waitForSelector('aside [data-state="due"]');
  });

  it('answers for anyone why they are not listed', async () => {
    const { page } = desk;
    await press(page, 'Why is someone not listed?');
    await page.waitForSelector('aside [cmdk-input]');
    // Names that were written past the application are found a little later; the record's number at once.
    await page.type('aside [cmdk-input]', `R-${later.slice(0, 8)}`);
    await page.locator(`aside [data-found="${later}"]`).click();
    await page.waitForSelector('aside [data-state="not-due"]');
    await page.waitForSelector('aside [data-rule="not-due-yet"]');
  });

  it('shows what somebody is due for where they are booked, and takes the visit type from it', async () => {
    const { page } = desk;
    await go(`/outreach/plans/${(await plans())[0].id}?why=${due}`, 'aside [data-state="due"]');
    await press(page, 'Book');
    await page.waitForSelector(`[data-who="${due}"]`);
    await seesText(page, 'Due for Half-year follow-up');
    await page.locator('[data-recall] button').click();
    await page.waitForFunction(() =>
      document
        .querySelector<HTMLSelectElement>('select[name="visitType"]')
        ?.selectedOptions[0]?.text.startsWith('Follow-up'),
    );
  });

  it('says before a plan is changed who joins and who leaves', async () => {
    const { page } = desk;
    const [{ id }] = await plans();
    await go(`/outreach?plan=${id}`, '[data-live-due]');
    const n = await field(page, 'After');
    await n.click({ count: 3 });
    await n.type('1');
    await page.waitForSelector('[data-change="joins"]');
    await n.click({ count: 3 });
    await n.type('60');
    await page.waitForSelector('[data-change="leaves"]');
    await press(page, 'Don’t save');
  });

  it('keeps registers by hand, with who put whom on it, and by a rule', async () => {
    const { page } = desk;
    await go('/outreach/registers', 'main');
    await seesText(page, 'No register yet.');
    await press(page, 'New register');
    await fill(page, 'Name', 'Wants news');
    await press(page, 'Save');
    await seesText(page, 'On Wants news');
    await page.type('main [cmdk-input]', `R-${due.slice(0, 8)}`);
    await page.locator(`main [data-found="${due}"]`).click();
    await page.waitForSelector('[data-member]');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Take off');
    await page.waitForFunction(() => !document.querySelector('[data-member] button'));
    await undoIt(page);
    await page.waitForSelector('[data-member] button');
    await press(page, 'New register');
    await fill(page, 'Name', 'Children');
    await press(page, 'Kept by a rule');
    await fill(page, 'Age to', '11');
    await fill(page, 'Conditions (ICD-10-CM)', 'asthma');
    await press(page, 'Save');
    await orSay(page, page.waitForSelector('[aria-invalid="true"]'));
    await fill(page, 'Conditions (ICD-10-CM)', '');
    await press(page, 'Save');
    await seesText(page, 'On Children');
    await page.locator('[aria-label="Archive: Children"]').click();
    await page.waitForSelector('[aria-label="Restore: Children"]');
    await undoIt(page);
    await page.waitForSelector('[aria-label="Archive: Children"]');
  });

  it('shows who may only read the lists, and nothing to change', async () => {
    const { page: reader } = await openPage(desk.browser, DESK);
    await reader.goto(desk.base);
    await press(reader, 'Read-only');
    await reader.waitForSelector('nav');
    await reader.goto(`${desk.base}/outreach`);
    await reader.waitForSelector('[data-count="due"]');
    expect(await reader.$$eval('main button', (all) => all.map((each) => each.textContent))).toEqual([]);
  });
});
