import type { Page } from 'puppeteer-core';
import { placeHold } from '@zaguan/contracts/booking';
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import {
  axeViolations,
  fill,
  openPage,
  PHONE,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
} from '../fixtures/browser.ts';
import { Client } from '../fixtures/client.ts';
import { codeOn, FOLLOW_UP } from '../fixtures/patient.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';
import { bookIt, EN, ES, ROSA, ROSA_NUMBER, sayCode, takeTime, toWhen, typePerson } from '../pages/patientPages.ts';

describe('a patient in trouble loses nothing', () => {
  let world: World;
  let browser: RunningBrowser;
  beforeAll(async () => {
    world = await makeWorld('trouble');
    browser = await startBrowser();
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });
  const base = () => world.servers[0].url;
  const typedIn = (page: Page, name: string) =>
    page.$eval(`[name="${name}"]`, (each) => (each as HTMLInputElement).value);
  const visitsOf = async (given: string) =>
    (await world.sql.query('select 1 from self_booking where given_name = $1', [given])).rows.length;

  it('books in Spanish, dates read day first', async () => {
    const { page, errors } = await openPage(browser, PHONE, 'es-US');
    await toWhen(page, base(), ES);
    expect(await page.$eval('html', (each) => each.lang)).toBe('es');
    expect(await axeViolations(page)).toEqual([]);
    await takeTime(page, 5, ES);
    await typePerson(page, { ...ROSA, given: 'Lucía', birth: '4/3/1987' }, ES);
    await seesText(page, 'Nació el 4 de marzo de 1987');
    await bookIt(page, world.sql, ROSA_NUMBER, ES);
    const { rows } = await world.sql.query(
      "select birth_date::text, language, phone from self_booking where given_name = 'Lucía'",
    );
    expect(rows).toEqual([{ birth_date: '1987-03-04', language: 'es', phone: '+13125550177' }]);
    expect(errors).toEqual([]);
  });

  it('stands still while words and letters come late, and takes a press in the first moment', async () => {
    // A browser that has not seen the letters yet: the first one keeps them.
    const fresh = await startBrowser();
    onTestFinished(() => fresh.stop());
    const { page } = await openPage(fresh, PHONE, 'es-US');
    await page.setRequestInterception(true);
    page.on('request', (request) => {
      const late = /\/api\/public\/|\.woff2/.test(request.url());
      setTimeout(() => void request.continue().catch(() => undefined), late ? 1_500 : 0);
    });
    const where = () =>
      page.$$eval('main button', (buttons) => buttons.map((button) => JSON.stringify(button.getBoundingClientRect())));
    await page.goto(`${base()}/book`, { waitUntil: 'domcontentloaded' });
    await page.waitForSelector('main button');
    const first = await where();
    await seesText(page, 'Brindlewood Allergy & Asthma');
    await page.waitForFunction(() => [...document.fonts].some(({ status }) => status === 'loaded'));
    await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
    expect(await where()).toEqual(first);
    await page.goto('about:blank');
    await page.goto(`${base()}/book`, { waitUntil: 'domcontentloaded' });
    const yes = await page.waitForSelector('main button');
    await yes?.click();
    await seesText(page, 'Brindlewood at Canal Row');
  });

  it('comes to the times next after the pressed day, and finds its choices again when the phone reloads the tab', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    const door = (await page.$$('[data-date]'))[6];
    const date = await door.evaluate((each) => each.getAttribute('data-date'));
    await door.focus();
    await page.keyboard.press('Enter');
    await page.waitForSelector(`[data-times="${date}"] [data-start]`);
    // The rest of its week, then the times: no other week in between.
    const met: (string | null)[] = [];
    for (let i = 0; i < 8 && met.at(-1) !== 'time'; i++) {
      await page.keyboard.press('Tab');
      met.push(
        await page.evaluate(() => {
          const { dataset } = document.activeElement as HTMLElement;
          return dataset.start ? 'time' : (dataset.date ?? null);
        }),
      );
    }
    expect(met.at(-1)).toBe('time');
    expect(
      met.slice(0, -1).every((each) => each !== null && Date.parse(each) - Date.parse(date ?? '') < 7 * 86_400_000),
    ).toBe(true);
    await page.reload();
    await page.waitForSelector(`[data-times="${date}"] [data-start]`);
    await takeTime(page, 7);
    await fill(page, EN.given, 'Reloaded');
    await page.keyboard.press('Tab');
    const held = () => page.$eval('[data-testid="held-time"]', (each) => each.textContent);
    const before = await held();
    await page.reload();
    await page.waitForSelector('[data-testid="hold-left"]');
    expect([await held(), await typedIn(page, 'givenName')]).toEqual([before, 'Reloaded']);
  });

  it('writes a common reason by one press, beside what was typed', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 7);
    await fill(page, EN.reason, 'At night');
    await press(page, 'Symptoms are back');
    await press(page, 'Symptoms are back');
    expect(await typedIn(page, 'reason')).toBe('At night; Symptoms are back');
    await press(page, 'Español');
    await press(page, 'Resultados de pruebas');
    expect(await typedIn(page, 'reason')).toBe('At night; Symptoms are back; Resultados de pruebas');
  });

  it('is told when no code can go to a number, asked for no code then, and goes on with an e-mail address', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 8);
    await typePerson(page, { ...ROSA, given: 'Abroad' });
    for (const [number, words] of [
      ['+44 7911 123456', 'We can’t text a code to phones in that country.'],
      ['(900) 555-1234', 'This number takes no text messages.'],
    ]) {
      await fill(page, EN.phone, number);
      await press(page, EN.book);
      await seesText(page, words);
      const shown = await page.evaluate(() => document.body.innerText);
      expect(shown).not.toContain('Check and book');
      expect(shown).not.toContain('Send it again');
      await press(page, 'Change the number');
      // What was typed is still there.
      expect([await typedIn(page, 'givenName'), await typedIn(page, 'contact')]).toEqual(['Abroad', number]);
    }
    await press(page, 'I have no cell phone');
    await fill(page, 'E-mail', 'abroad@example.org');
    await press(page, EN.book);
    await seesText(page, 'Check and book');
    expect(await visitsOf('Abroad')).toBe(0);
  });

  it('changes the language at any step without losing what was typed', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 6);
    await fill(page, EN.given, 'Typed');
    await fill(page, EN.reason, 'Something');
    await press(page, 'Español');
    await seesText(page, ES.you);
    expect([await typedIn(page, 'givenName'), await typedIn(page, 'reason')]).toEqual(['Typed', 'Something']);
  });

  it('is asked which date “7/8/12” means, and told what else can’t be', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 6);
    await press(page, EN.book);
    await seesText(page, 'Please write a name.');
    await seesText(page, 'Please write the date of birth.');
    await seesText(page, 'Please write a cell phone number.');
    await fill(page, EN.birth, 'February 31, 1987');
    await fill(page, EN.phone, '12345');
    await fill(page, EN.given, 'x'.repeat(200));
    await press(page, EN.book);
    await seesText(page, 'There is no such day.');
    await seesText(page, 'This is not a phone number we can call.');
    await seesText(page, 'This is longer than a name can be here (100 letters).');
    await fill(page, EN.given, 'Ambra');
    await fill(page, EN.phone, ROSA.phone);
    await fill(page, EN.birth, '7/8/12');
    await seesText(page, 'Which date do you mean?');
    expect(await axeViolations(page)).toEqual([]);
    await page.click('[data-reading="2012-07-08"]');
    await seesText(page, 'Born July 8, 2012');
    await bookIt(page, world.sql);
    const { rows } = await world.sql.query(
      "select birth_date::text, family_name from self_booking where given_name = 'Ambra'",
    );
    expect(rows).toEqual([{ birth_date: '2012-07-08', family_name: '' }]);
  });

  it('keeps what was typed when the hold runs out, and takes another time from there', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 7);
    await typePerson(page, { ...ROSA, given: 'Slow' });
    await passMinutes(world, 11);
    await press(page, EN.book);
    await seesText(page, 'We could no longer keep this time for you.');
    await seesText(page, 'Other times close by');
    expect(await typedIn(page, 'givenName')).toBe('Slow');
    const other = await page.waitForSelector('[data-other]');
    await other?.click();
    await page.waitForSelector('[data-testid="hold-left"]');
    await bookIt(page, world.sql);
    expect(await visitsOf('Slow')).toBe(1);
  });

  it('is told when someone else was faster, and offered the nearest times', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    const doors = await page.$$('[data-date]');
    await doors[8].click();
    const button = await page.waitForSelector('[data-start]');
    const start = (await button?.evaluate((each) => each.getAttribute('data-start'))) ?? '';
    const { rows } = await world.sql.query<{ id: string }>("select id from resource where kind = 'provider'");
    await Promise.all(
      rows.map(({ id }) => new Client(base()).call(placeHold, { ...FOLLOW_UP, providerId: id, start })),
    );
    await button?.click();
    await seesText(page, 'Someone else has just taken this time.');
    expect((await page.$$('[data-other]')).length).toBeGreaterThan(0);
    expect(await axeViolations(page)).toEqual([]);
  });

  it('books once on a double click', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 9);
    await typePerson(page, { ...ROSA, given: 'Twice' });
    await press(page, EN.book);
    await seesText(page, 'We sent a 6-digit code');
    await fill(page, EN.code, await codeOn(world.sql, ROSA_NUMBER));
    await page.evaluate(() => {
      const button = document.querySelector('form:not([hidden]) button[type="submit"]') as HTMLButtonElement;
      button.click();
      button.click();
    });
    await seesText(page, EN.booked);
    expect(await visitsOf('Twice')).toBe(1);
  });

  it('goes back at any step and finds the choices as they were', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 6);
    await fill(page, EN.given, 'Backward');
    await fill(page, EN.family, 'Going');
    await page.goBack();
    await page.waitForSelector('[data-date][aria-pressed="true"]');
    await takeTime(page, 7);
    expect(await typedIn(page, 'givenName')).toBe('Backward');
  });

  it('can be done by keyboard alone', async () => {
    const { page } = await openPage(browser, PHONE);
    await page.goto(`${base()}/book`);
    await seesText(page, 'Have you been here before?');
    const go = async (text: string) => {
      for (let i = 0; i < 150; i++) {
        await page.keyboard.press('Tab');
        const focused = await page.evaluate(() => (document.activeElement as HTMLElement | null)?.innerText ?? '');
        if (focused.startsWith(text)) return page.keyboard.press('Enter');
      }
      throw new Error(`“${text}” can’t be reached by Tab.`);
    };
    await go('Yes');
    await seesText(page, 'Where do you want');
    await go('Brindlewood at Canal');
    await seesText(page, 'What is the visit for?');
    await go('Follow-up');
    await seesText(page, 'Who do you want');
    await go('Anyone');
    await seesText(page, 'Next available');
    await go('Book this time');
    await seesText(page, EN.you);
  });

  it('locks a number after five wrong codes, names another way, and keeps what was typed', async () => {
    const { page } = await openPage(browser, PHONE);
    await toWhen(page, base());
    await takeTime(page, 7);
    await typePerson(page, { ...ROSA, given: 'Wrong', phone: '312 555 0166' });
    await press(page, EN.book);
    await seesText(page, 'We sent a 6-digit code');
    const right = await codeOn(world.sql, '+13125550166');
    const wrong = right === '000000' ? '111111' : '000000';
    for (const left of [4, 3, 2, 1]) {
      await fill(page, EN.code, wrong);
      await press(page, EN.check);
      await seesText(page, `This is not the code we sent. ${left} tries left.`);
    }
    await fill(page, EN.code, wrong);
    await press(page, EN.check);
    await seesText(page, 'Too many tries with this number.');
    await seesText(page, 'No cell phone? Call us and we book it for you.');
    await fill(page, EN.code, right);
    await press(page, EN.check);
    await seesText(page, 'Too many tries with this number.');
    await press(page, 'Change the number');
    expect(await typedIn(page, 'givenName')).toBe('Wrong');
    await fill(page, EN.phone, '312 555 0167');
    await press(page, EN.book);
    await sayCode(page, world.sql, '+13125550167');
    await seesText(page, EN.booked);
  });
});
