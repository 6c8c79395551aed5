import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { axeViolations, DESK, field, fill, openPage, PHONE, press, seesText, undoIt } from '../fixtures/browser.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';

describe('patients at the desk', () => {
  let desk: Desk;
  let page: Page;
  beforeAll(async () => {
    desk = await openDesk('patients_flow', 'coordinator');
    page = desk.page;
  });
  afterAll(() => desk.close());

  const go = (path: string) => page.goto(`${desk.base}${path}`);
  const opened = () => page.waitForFunction(() => /^\/patients\/[0-9a-f-]{36}$/.test(location.pathname));
  const idOfPage = () => new URL(page.url()).pathname.split('/')[2];
  const inPerson = (at: number) => async (name: string, text: string) => {
    const input = await page.waitForSelector(`[data-person="${at}"] [name="people.${at}.${name}"]`);
    await input?.click({ count: 3 });
    await page.keyboard.sendCharacter(text);
  };
  const born = async (at: number, text: string) => {
    const label = await page.waitForSelector(
      `[data-person="${at}"] ::-p-xpath(.//label[starts-with(normalize-space(.), "Date of birth")])`,
    );
    await label?.click();
    await page.keyboard.sendCharacter(text);
    await page.waitForSelector(`[data-person="${at}"] [data-read]`);
  };
  const change = async (part: string) => {
    await (await page.waitForSelector(`button[aria-label="Change: ${part}"]`))?.click();
  };

  it('registers a new patient in five fields, by keys alone, from the box at the top', async () => {
    await go('/today');
    await page.waitForSelector('nav');
    await page.keyboard.press('/');
    await page.waitForSelector('[cmdk-input]');
    await page.keyboard.type('register');
    await page.waitForSelector('[cmdk-item][data-selected="true"]');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[name="people.0.givenName"]');
    expect(await axeViolations(page)).toEqual([]);
    await page.focus('[name="people.0.givenName"]');
    const typed = ['Oriane', 'Vesterholt', 'march 4 1991'];
    for (const text of typed) {
      await page.keyboard.sendCharacter(text);
      await page.keyboard.press('Tab');
    }
    await seesText(page, 'Reads as March 4, 1991, age 35');
    await seesText(page, 'No similar records.');
    await page.focus('[name="contact"]');
    await page.keyboard.sendCharacter('312 555 0142');
    await page.keyboard.press('Enter');
    await opened();
    await seesText(page, 'Oriane Vesterholt');
    await seesText(page, '(312) 555-0142');
    // Nothing of who it is in the address or in the tab.
    expect(`${page.url()} ${await page.title()}`).not.toMatch(/Oriane|Vesterholt/);
    expect(typed.length + 2).toBeLessThanOrEqual(6);
  });

  it('shows who is alike while one types, and saves nobody twice without a look', async () => {
    await go('/patients/new');
    await inPerson(0)('givenName', 'Oriane');
    await inPerson(0)('familyName', 'Vesterhold');
    await born(0, '4mar91');
    await page.waitForSelector('[data-verdict="likely"]');
    expect(await axeViolations(page)).toEqual([]);
    await seesText(page, 'Last name is similar');
    await (await page.waitForSelector('[name="unreachable"]'))?.click();
    await press(page, 'Register');
    await seesText(page, 'likely the same person');
    // What was typed outlasts a reload, until it is given up.
    await page.reload();
    await page.waitForSelector('[name="people.0.familyName"]');
    expect(await page.$eval('[name="people.0.familyName"]', (each) => (each as HTMLInputElement).value)).toBe(
      'Vesterhold',
    );
    await press(page, 'This is another person');
    await seesText(page, 'Another person');
    await press(page, 'Register');
    await opened();
    await seesText(page, 'No number on file');
    await undoIt(page);
    await seesText(page, 'Undone');
    const { rows } = await desk.world.sql.query("select 1 from patient where family_name = 'Vesterhold'");
    expect(rows).toEqual([]);
  });

  it('asks which date where two are meant, and marks each field that can’t be', async () => {
    await go('/patients/new');
    await press(page, 'Register');
    await seesText(page, 'Write a first or last name.');
    await seesText(page, 'Give a phone or an e-mail, or say that there is none.');
    expect(await axeViolations(page)).toEqual([]);
    const birth = await field(page, 'Date of birth');
    await birth.click();
    await page.keyboard.sendCharacter('7/8/12');
    await seesText(page, 'Which date?');
    await press(page, 'August 7, 2012');
    await seesText(page, 'Reads as August 7, 2012');
    await press(page, 'Discard');
    await page.waitForFunction(() => location.pathname === '/patients');
  });

  it('registers three siblings and their mother with a few fields, who then may act for them', async () => {
    await go('/patients/new');
    let fields = 0;
    const put = async (act: Promise<void>) => {
      await act;
      fields++;
    };
    await put(inPerson(0)('givenName', 'Ada'));
    await put(inPerson(0)('familyName', 'Farnsworthy'));
    await put(born(0, '5/1/2014'));
    for (const [at, name, date] of [
      [1, 'Bo', '6/2/2016'],
      [2, 'Cy', '7/3/2018'],
    ] as const) {
      await press(page, 'Add someone of the same household');
      await page.waitForSelector(`[data-person="${at}"]`);
      // The last name is there already.
      expect(await page.$eval(`[name="people.${at}.familyName"]`, (each) => (each as HTMLInputElement).value)).toBe(
        'Farnsworthy',
      );
      await put(inPerson(at)('givenName', name));
      await put(born(at, date));
    }
    await press(page, 'Add a parent or guardian');
    await put(fill(page, 'Their name', 'Marit Farnsworthy'));
    await put(fill(page, 'Phone or e-mail', '312 555 0177'));
    expect(fields).toBeLessThanOrEqual(12);
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Register 3 patients');
    await opened();
    await seesText(page, 'Marit Farnsworthy');
    await seesText(page, 'Bo Farnsworthy');
    await seesText(page, 'book, sign, receive messages, see the record');
  });

  it('changes who somebody is only with a reason, and never into someone else', async () => {
    await change('Name and birth date');
    await page.waitForFunction(() => location.search === '?edit=identity');
    await fill(page, 'Last name', 'Marchbanks');
    await seesText(page, 'Why?');
    await press(page, 'Save');
    await seesText(page, 'Give a reason of a few words.');
    expect(await axeViolations(page)).toEqual([]);
    const birth = await field(page, 'Date of birth');
    await birth.click({ count: 3 });
    await page.keyboard.sendCharacter('1/1/1980');
    await seesText(page, 'this would be another person’s record');
    await birth.click({ count: 3 });
    await page.keyboard.sendCharacter('5/1/2014');
    await press(page, 'This person has a new name');
    await page.waitForFunction(() => !document.body.innerText.includes('Give a reason'));
    await press(page, 'Save');
    await seesText(page, 'formerly Ada Farnsworthy');
    await undoIt(page);
    await page.waitForFunction(() => !document.body.innerText.includes('formerly'));
  });

  it('keeps what is typed when somebody else saves meanwhile, and lets one decide', async () => {
    const id = idOfPage();
    await change('Notes for staff');
    await fill(page, 'Notes', 'Afraid of needles.');
    await desk.world.sql.query('update patient set version = version + 1, alert = $2 where id = $1', [id, 'Elsewhere']);
    await press(page, 'Save');
    await seesText(page, 'Someone else changed this');
    // Also after a reload: what was typed is there, and so is the question.
    await page.reload();
    await seesText(page, 'Someone else changed this record while you were typing');
    expect(await (await field(page, 'Notes')).evaluate((each) => (each as HTMLTextAreaElement).value)).toBe(
      'Afraid of needles.',
    );
    await press(page, 'Keep my changes');
    await fill(page, 'Alert for the next visit', 'Bring the school form.');
    await press(page, 'Save');
    await seesText(page, 'Alert: Bring the school form.');
    await seesText(page, 'Afraid of needles.');
  });

  it('sets what every visit needs, and finds a time by it', async () => {
    await change('Language and accommodations');
    await press(page, 'No steps');
    await fill(page, 'Extra time, in minutes', '7');
    await press(page, 'Save');
    await seesText(page, 'In steps of five minutes.');
    await fill(page, 'Extra time, in minutes', '15');
    await press(page, 'Save');
    await seesText(page, '15 minutes longer');
    await press(page, 'Find a time');
    await page.waitForSelector('[data-for]');
    await seesText(page, 'needs: No steps, 15 minutes longer');
    await page.goBack();
    await opened();
  });

  it('notes what is known of a phone for everybody who shares it, and takes it back', async () => {
    await (await page.waitForSelector('[data-contact] button[aria-haspopup="menu"]'))?.click();
    await press(page, 'Wrong number');
    await seesText(page, 'It holds for 2 other patients with it, too.');
    await page.waitForFunction(() => document.querySelector('[data-contact]')?.textContent?.includes('wrong number'));
    await undoIt(page);
    await page.waitForFunction(() => !document.querySelector('[data-contact] p.text-warning'));
    await press(page, 'Add a phone or e-mail');
    await fill(page, 'Phone or e-mail', 'nothing');
    await press(page, 'Save');
    await seesText(page, 'This is no phone number and no e-mail address.');
    await fill(page, 'Phone or e-mail', 'ada@example.com');
    await press(page, 'Save');
    await page.waitForFunction(() => document.querySelectorAll('[data-contact]').length === 2);
  });

  it('adds conditions, refuses what is none, and shows the history by kind, in words', async () => {
    await change('Conditions');
    await fill(page, 'ICD-10-CM code', 'asthma');
    await press(page, 'Save');
    await seesText(page, 'This is no ICD-10-CM code.');
    await fill(page, 'ICD-10-CM code', 'j45909');
    await fill(page, 'In words', 'Asthma');
    await press(page, 'Save');
    await seesText(page, 'J45.909 Asthma');
    await press(page, 'Changes and views');
    await page.waitForFunction(() => location.search.includes('history=change'));
    await seesText(page, 'Conditions: J45.909');
    await seesText(page, 'Alert: Elsewhere → Bring the school form.');
    await press(page, 'Messages');
    await seesText(page, 'Nothing yet.');
    expect(await axeViolations(page)).toEqual([]);
  });

  it('stops everything for who has died, after saying so', async () => {
    await change('Status');
    await press(page, 'Deceased');
    await seesText(page, 'Visits to come are canceled at once');
    await press(page, 'Save');
    await page.waitForFunction(() => document.querySelector('header')?.textContent?.includes('Deceased') ?? false);
    expect(await page.$('a[href^="/find"]')).toBeNull();
    await undoIt(page);
    await page.waitForFunction(() => !document.querySelector('main header')?.textContent?.includes('Deceased'));
  });

  it('lists patients: searched, narrowed, sorted, with the columns one wants, saved under a name', async () => {
    await go('/patients');
    await page.waitForSelector('[data-patient]');
    expect(await axeViolations(page)).toEqual([]);
    const total = async () => Number(await page.$eval('[data-total]', (each) => each.getAttribute('data-total')));
    const all = await total();
    await page.type('input[type="search"]', 'farnsw');
    await page.waitForFunction(() => document.querySelector('[data-total]')?.getAttribute('data-total') === '3');
    expect(page.url()).not.toContain('farnsw');
    await press(page, 'Born');
    await page.waitForSelector('th[aria-sort="descending"]');
    await page.waitForFunction(
      (wanted) =>
        [...document.querySelectorAll('[data-patient] td:first-child a')].map((a) => a.textContent).join() === wanted,
      {},
      'Cy Farnsworthy,Bo Farnsworthy,Ada Farnsworthy',
    );
    await press(page, 'Filters');
    await fill(page, 'Condition begins with', 'j45');
    await page.waitForFunction(() => document.querySelector('[data-total]')?.getAttribute('data-total') === '1');
    await press(page, 'Save this list');
    await press(page, 'Save');
    await seesText(page, 'This is required.');
    await fill(page, 'Name of the list', 'Asthma in the family');
    await press(page, 'Save');
    await page.waitForSelector('[data-list="Asthma in the family"]');
    await press(page, 'Recent patients');
    await page.waitForFunction(
      (n) => document.querySelector('[data-total]')?.getAttribute('data-total') === String(n),
      {},
      all,
    );
    // It is there at another screen of the same account, and in this tab after a reload.
    await press(page, 'Asthma in the family');
    await page.waitForFunction(() => document.querySelector('[data-total]')?.getAttribute('data-total') === '1');
    await page.reload();
    await page.waitForFunction(() => document.querySelector('[data-total]')?.getAttribute('data-total') === '1');
    await press(page, 'Columns');
    await (await page.waitForSelector('[role="dialog"] ::-p-text(Language)'))?.click();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => ![...document.querySelectorAll('th')].some((th) => th.textContent === 'Language'));
    await (await page.waitForSelector('button[aria-label^="Delete the list"]'))?.click();
    await page.waitForFunction(() => !document.querySelector('[data-list]'));
    expect(await axeViolations(page)).toEqual([]);
  });

  it('opens a restricted record for the front desk with a reason, and a manager reads it on Today', async () => {
    await go('/patients');
    await press(page, 'Recent patients');
    await page.waitForSelector('[data-patient]');
    await page.type('input[type="search"]', 'bo farnsw');
    await press(page, 'Bo Farnsworthy');
    await opened();
    const path = new URL(page.url()).pathname;
    await change('Access');
    await fill(page, 'Reason', 'Works here.');
    await press(page, 'Restrict this record');
    await seesText(page, 'Because: Works here.');
    const front = await openPage(desk.browser, DESK);
    await front.page.goto(desk.base);
    await press(front.page, 'Front desk');
    await front.page.waitForSelector('nav');
    await front.page.goto(`${desk.base}${path}`);
    await seesText(front.page, 'This record is restricted.');
    expect(await front.page.evaluate(() => `${document.title} ${document.body.innerText}`)).not.toContain(
      'Farnsworthy',
    );
    expect(await axeViolations(front.page)).toEqual([]);
    await fill(front.page, 'Why do you need to see this record?', 'The mother is on the phone.');
    await press(front.page, 'Open with a reason');
    await seesText(front.page, 'Bo Farnsworthy');
    await go('/today');
    await seesText(page, '“The mother is on the phone.”');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Mark as seen');
    await page.waitForFunction(() => !document.querySelector('[data-opened]'));
    expect(front.errors).toEqual([]);
  });

  it('joins a household by the same search', async () => {
    await go('/patients');
    await press(page, 'Recent patients');
    await page.waitForSelector('[data-patient]');
    await page.type('input[type="search"]', 'vesterholt');
    await press(page, 'Oriane Vesterholt');
    await opened();
    await press(page, 'Add to a household');
    await page.waitForSelector('[data-part="household"] [cmdk-input]');
    await page.type('[data-part="household"] [cmdk-input]', 'cy farns');
    await page.waitForSelector('[data-part="household"] [data-found]');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-picked]');
    await press(page, 'Add to the household');
    await seesText(page, 'Cy Farnsworthy');
    await seesText(page, '(312) 555-0177');
    await press(page, 'Remove from the household');
    await seesText(page, 'Not in a household.');
    expect(desk.errors).toEqual([]);
  });

  it('fits a phone, and is shown to who may only read without a way to change it', async () => {
    const reader = await openPage(desk.browser, { ...PHONE, width: 390 });
    await reader.page.goto(desk.base);
    await press(reader.page, 'Read-only');
    await reader.page.waitForSelector('nav');
    await reader.page.goto(`${desk.base}/patients`);
    await reader.page.waitForSelector('[data-patient] a');
    expect(await reader.page.$('a[href="/patients/new"]')).toBeNull();
    // The list is drawn again when it has come whole.
    await reader.page.$eval('[data-patient] a', (link) => (link as HTMLElement).click());
    await reader.page.waitForSelector('[data-history]');
    expect(await reader.page.$$('button[aria-label^="Change:"]')).toEqual([]);
    expect(await reader.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(reader.errors).toEqual([]);
  });
});
