import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeNote } from '@zaguan/contracts/daybook';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { dataOf } from '../fixtures/client.ts';
import { axeViolations, choose, DESK, field, openPage, press, seesText, undoIt } from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';

describe('what stands on a day beside its visits', () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await openDesk('day_notes_screen', 'coordinator');
    await desk.page.waitForSelector('[data-plate]');
  });
  afterAll(() => desk.close());

  const menuOf = async (resourceId: string) => {
    await desk.page.click(`[data-lane-menu="${resourceId}"]`);
    await desk.page.waitForSelector('[role="menu"]');
  };
  const chooseEntry = (words: string) => desk.page.locator(`[role="menuitem"] ::-p-text(${words})`).click();
  const fill = async (label: string, text: string) => {
    const input = await field(desk.page, label);
    await input.click({ count: 3 });
    await input.type(text);
  };

  it('says by one touch that a provider runs late, on the lane and in the visit, and takes it back', async () => {
    const { page } = desk;
    await menuOf(PROVIDERS.amaya);
    expect(await axeViolations(page)).toEqual([]);
    await chooseEntry('20 minutes late');
    await seesText(page, 'is 20 minutes late.');
    await page.waitForSelector('[data-delay="20"]');
    // Whoever is still to come and heard nothing must be called: one press leads to the first of them.
    await page.click('[data-to-call]');
    await page.waitForSelector('aside [data-not-told]');
    await seesText(page, 'this visit starts about');
    expect(await axeViolations(page)).toEqual([]);
    await undoIt(page);
    await page.waitForFunction(() => !document.querySelector('[data-delay]'));
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('aside'));
  });

  it('has a note written on a lane for a stretch; what is typed outlives a reload and a wrong time', async () => {
    const { page } = desk;
    await menuOf(PROVIDERS.amaya);
    await chooseEntry('Add a note');
    await fill('What it says', 'Student along');
    await fill('From', '10:00 am');
    await fill('Until', '9:00 am');
    await page.reload();
    await page.waitForSelector('aside form');
    expect(await (await field(page, 'What it says')).evaluate((each) => (each as HTMLTextAreaElement).value)).toBe(
      'Student along',
    );
    await press(page, 'Add the note');
    await page.waitForSelector('aside [aria-invalid="true"]');
    await fill('Until', '11:00 am');
    await press(page, 'Add the note');
    const chip = await page.waitForSelector(`[data-lane$="${PROVIDERS.amaya}"] [data-note]`);
    expect(await chip?.evaluate((each) => each.textContent)).toContain('Student along');
    // It stands where its hours are: an hour is as wide as sixty minutes are drawn.
    const [width, perMin] = await page.evaluate(() => {
      const note = document.querySelector('[data-lane] [data-note]');
      const board = document.querySelector<HTMLElement>('[data-px-per-min]');
      return [note?.getBoundingClientRect().width ?? 0, Number(board?.dataset.pxPerMin)];
    });
    expect(width).toBeGreaterThanOrEqual(60 * perMin - 1);
    expect(await axeViolations(page)).toEqual([]);
  });

  it('opens a note, changes it and takes it off, each with undo', async () => {
    const { page } = desk;
    await page.click('[data-lane] [data-note]');
    await page.waitForSelector('aside form');
    await fill('What it says', 'Student along, ask first');
    await press(page, 'Save');
    await seesText(page, 'Note changed.');
    await seesText(page, 'ask first');
    await page.click('[data-lane] [data-note]');
    await press(page, 'Remove');
    await seesText(page, 'Note removed.');
    await page.waitForFunction(() => !document.querySelector('[data-lane] [data-note]'));
    await undoIt(page);
    await page.waitForSelector('[data-lane] [data-note]');
  });

  it('tells no note where names are hidden, and has one written on a day of a week', async () => {
    const { page, base } = desk;
    const chip = () => page.$eval('[data-lane] [data-note]', (each) => each.textContent);
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('h');
    await page.waitForFunction(() =>
      document.querySelector('[data-lane] [data-note]')?.textContent?.startsWith('Note,'),
    );
    expect(await chip()).not.toContain('Student');
    await page.keyboard.press('h');
    await page.waitForFunction(() =>
      document.querySelector('[data-lane] [data-note]')?.textContent?.includes('Student'),
    );
    await page.goto(`${base}/daybook/week/${PROVIDERS.amaya}/${TEST_DAY}`);
    await page.waitForSelector('[data-lane-menu]');
    // Each lane is a day there: the note stands on the one whose menu was opened.
    const days = await page.$$eval('section[data-site]', (all) =>
      all.map((each) => each.getAttribute('data-day-start')),
    );
    const last = days.at(-1) ?? '';
    await page.click(`section[data-day-start="${last}"] [data-lane-menu]`);
    await chooseEntry('Add a note');
    await fill('What it says', 'On call');
    await press(page, 'Add the note');
    await page.waitForSelector(`section[data-day-start="${last}"] [data-note]`);
    await page.click(`section[data-day-start="${last}"] [data-note]`);
    await page.waitForSelector('aside form');
    await press(page, 'Remove');
    await page.waitForFunction(
      (day) => !document.querySelector(`section[data-day-start="${day}"] [data-note]`),
      {},
      last,
    );
    await page.goto(`${base}/daybook`);
    await page.waitForSelector('[data-plate]');
  });

  it('has a note for the whole site, which the day sheet prints', async () => {
    const { page } = desk;
    await page.click('[data-add-note]');
    await fill('What it says', 'Fire drill at noon');
    await press(page, 'Add the note');
    await page.waitForSelector('[data-site] > div [data-note]');
    const href = await page.$eval('a[href*="/print/day/"]', (each) => each.getAttribute('href') ?? '');
    await page.goto(`${desk.base}${href}`);
    await page.waitForSelector('[data-sheet-notes]');
    await seesText(page, 'Fire drill at noon');
    await page.goBack();
    await page.waitForSelector('[data-plate]');
  });

  it('says who else has a visit open, until they close it', async () => {
    const { page, base, browser } = desk;
    const id = await page.$eval(
      '[data-plate]:not([data-origin="hold"])',
      (each) => each.getAttribute('data-plate') ?? '',
    );
    const { page: other } = await openPage(browser, DESK);
    await other.goto(`${base}/daybook?visit=${id}`);
    await press(other, 'Manager');
    await other.waitForSelector('aside h2');
    await page.bringToFront();
    await page.goto(`${base}/daybook?visit=${id}`);
    await page.waitForSelector('aside [data-also-open]');
    expect(await axeViolations(page)).toEqual([]);
    await other.close();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('aside'));
  });

  it('shows a month: what is booked, what is left of a visit type, and leads to the day', async () => {
    const { page, base } = desk;
    await page.goto(`${base}/daybook`);
    await page.waitForSelector('[data-plate]');
    const drawn = Number(
      /\d+/.exec(await page.$eval('[data-testid="visit-count"]', (each) => each.textContent ?? ''))?.[0],
    );
    await press(page, 'Month');
    await page.waitForSelector('[aria-current="date"]');
    const booked = await page.$eval('[aria-current="date"]', (each) => Number(each.getAttribute('data-booked')));
    expect(booked).toBeGreaterThanOrEqual(drawn);
    await seesText(page, 'Choose a visit type');
    await choose(page, 'Visit type', 'Follow-up');
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-left]')].some((each) => Number(each.getAttribute('data-left')) > 0),
    );
    expect(await axeViolations(page)).toEqual([]);
    await press(page, '›');
    await seesText(page, 'January 2027');
    expect(page.url()).toContain('type=');
    await page.locator('[data-month-day="2027-01-12"]').click();
    await page.waitForFunction(() => location.pathname === '/daybook/2027-01-12');
    await page.goto(`${base}/daybook/month/2027-13`);
    await seesText(page, 'There is no such day');
    await page.goto(`${base}/daybook`);
    await page.waitForSelector('[data-plate]');
  });

  it('lists its keys under “?”, where single keys are turned off', async () => {
    const { page } = desk;
    const title = () => page.$eval('h1', (each) => each.textContent);
    await page.focus('main');
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('?');
    await seesText(page, 'Single-key shortcuts');
    const tick = await page.$('::-p-xpath(//label[contains(., "Single-key shortcuts")]/input)');
    await tick?.click();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[role="dialog"]'));
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    const before = await title();
    await page.keyboard.press('.');
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(await title()).toBe(before);
    // The list itself is always there.
    await page.keyboard.press('?');
    await seesText(page, 'Single-key shortcuts');
    await (await page.$('::-p-xpath(//label[contains(., "Single-key shortcuts")]/input)'))?.click();
    await page.keyboard.press('Escape');
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('.');
    await page.waitForFunction((day) => document.querySelector('h1')?.textContent !== day, {}, before);
    expect(desk.errors).toEqual([]);
  });

  it('lists what one did within a day, also after a reload, and takes it back', async () => {
    const { page } = desk;
    const said = { resourceId: null, date: TEST_DAY, fromMinute: null, toMinute: null, text: 'To be taken back' };
    dataOf(await desk.api.call(writeNote, { ...said, siteId: SITES.canal as never }));
    await page.goto(`${desk.base}/daybook`);
    await page.waitForSelector('[data-plate]');
    await press(page, 'Ines');
    await press(page, 'Undo something');
    await page.waitForSelector('[data-act="note"]');
    await page.reload();
    const listed = () => page.$$eval('[data-act]', (all) => all.length);
    await page.waitForSelector('[data-act="note"]');
    expect(await axeViolations(page)).toEqual([]);
    const before = await listed();
    await page.locator('[data-act="note"] button').click();
    await seesText(page, 'Undone.');
    await page.waitForFunction((n) => document.querySelectorAll('[data-act]').length < n, {}, before);
  });
});
