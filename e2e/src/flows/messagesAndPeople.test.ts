import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect } from 'vitest';
import {
  axeViolations,
  DESK,
  fill,
  openPage,
  PHONE,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
  undoIt,
} from '../fixtures/browser.ts';
import { makeWorld, type World } from '../fixtures/world.ts';
import { story } from '../fixtures/story.ts';
import { bookIt, ROSA, takeTime, toWhen, typePerson } from '../pages/patientPages.ts';

describe('from the message to who it is', () => {
  let world: World;
  let browser: RunningBrowser;
  let desk: Page;
  let phone: Page;
  const errors: string[][] = [];
  beforeAll(async () => {
    world = await makeWorld('people');
    browser = await startBrowser();
    const staff = await openPage(browser, DESK);
    const patient = await openPage(browser, PHONE);
    desk = staff.page;
    phone = patient.page;
    errors.push(staff.errors, patient.errors);
    await desk.goto(world.servers[0].url);
    await press(desk, 'Coordinator');
    await desk.waitForSelector('[data-plate]');
    await toWhen(phone, world.servers[0].url);
    await takeTime(phone, 6);
    await typePerson(phone, ROSA);
    await bookIt(phone, world.sql);
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  const step = story();

  step('shows the confirmation on the simulated phone, and takes an answer there', async () => {
    await press(desk, 'Postroom');
    await seesText(desk, '(312) 555-0177');
    await seesText(desk, 'Asthma: booked');
    expect(await axeViolations(desk)).toEqual([]);
    await fill(desk, 'Answer as +13125550177', 'Y');
    await press(desk, 'Send');
    await seesText(desk, 'thank you, we expect you');
    await fill(desk, 'Answer as +13125550177', 'Is there parking?');
    await press(desk, 'Send');
    await seesText(desk, 'we read your message at the desk');
  });

  step('opens the visit from the link after the date of birth, at 360 px', async () => {
    const link = await desk.$eval('[data-phone] a', (each) => (each as HTMLAnchorElement).href);
    await phone.goto(link);
    await seesText(phone, 'To show your visit we need the date of birth');
    expect(await axeViolations(phone)).toEqual([]);
    expect(await phone.evaluate(() => document.body.innerText)).not.toMatch(/Rosa|Follow-up|Amaya/);
    await fill(phone, 'Date of birth', 'March 5, 1987');
    await press(phone, 'Show the visit');
    await seesText(phone, '4 tries left');
    await fill(phone, 'Date of birth', '3/4/1987');
    await press(phone, 'Show the visit');
    await seesText(phone, 'You’re confirmed.');
    await seesText(phone, 'Follow-up visit, Dr. Inés Amaya');
    expect(await axeViolations(phone)).toEqual([]);
    await phone.goto(`${link.slice(0, -2)}AA`);
    await seesText(phone, 'This link leads nowhere any more.');
  });

  step('sends the reminders when the clock is moved on, and says of each why it was not sent', async () => {
    await press(desk, '7 days');
    await seesText(desk, 'see you');
    const { rows } = await world.sql.query<{ date: string }>(
      "select a.site_date::text as date from appointment a join self_booking b on b.appointment_id = a.id where b.given_name = 'Rosa'",
    );
    await desk.goto(`${world.servers[0].url}/daybook/${rows[0].date}`);
    const plate = await desk.waitForSelector('[data-plate][data-origin="self"] ::-p-text(Rosa Delgado)');
    await plate?.evaluate((each) => (each.closest('button') as HTMLElement).click());
    await seesText(desk, 'Reminder, 2 days before, ');
    await seesText(desk, 'Reminder, 3 hours before, planned');
    expect(await desk.$$eval('[data-message-status="delivered"]', (all) => all.length)).toBeGreaterThan(1);
    expect(await axeViolations(desk)).toEqual([]);
    const day = desk.url();
    await press(desk, 'Postroom');
    await fill(desk, 'Answer as +13125550177', 'STOP');
    await press(desk, 'Send');
    await seesText(desk, 'you get no more automated texts');
    await desk.goto(day);
    const again = await desk.waitForSelector('[data-plate][data-origin="self"] ::-p-text(Rosa Delgado)');
    await again?.evaluate((each) => (each.closest('button') as HTMLElement).click());
    await seesText(desk, 'opted out of messages.');
  });

  step('gathers in Today what needs attention, and lets it be done and undone', async () => {
    await press(desk, 'Today');
    await seesText(desk, 'Is there parking?');
    await seesText(desk, '4 people who booked are not known yet');
    expect(await axeViolations(desk)).toEqual([]);
    await (await desk.waitForSelector('li[data-work="inbox"] button[aria-haspopup="menu"]'))?.focus();
    // By keyboard: the menu opens, an arrow alone does nothing, Enter takes the line.
    // Each key waits for the line that the one before went to, as an eye would.
    const onLine = (n: number) =>
      desk.waitForFunction(
        (line) =>
          [...document.querySelectorAll('[role="menuitem"]')].indexOf(document.activeElement as Element) === line,
        { polling: 50 },
        n,
      );
    await desk.keyboard.press('Enter');
    await onLine(0);
    await desk.keyboard.press('ArrowDown');
    await onLine(1);
    await desk.keyboard.press('ArrowUp');
    await onLine(0);
    await seesText(desk, 'Is there parking?');
    await desk.keyboard.press('Enter');
    await desk.waitForFunction(() => !document.body.innerText.includes('Is there parking?'));
    await seesText(desk, 'Done: Spoke with them.');
    const { rows } = await world.sql.query('select handled_as from inbox_message where handled_at is not null');
    expect(rows).toEqual([{ handled_as: 'spoke' }]);
    await undoIt(desk);
    await seesText(desk, 'Is there parking?');
  });

  step('decides in the Vestibule who it is, and undoes it', async () => {
    await desk.goto(`${world.servers[0].url}/identity-review`);
    await seesText(desk, 'Rosa Delgado');
    await seesText(desk, 'Likely the same person');
    expect(await axeViolations(desk)).toEqual([]);
    const count = () => desk.$$eval('[data-waiting]', (all) => all.length);
    expect(await count()).toBe(4);
    await desk.click('[data-waiting] a[href^="/patients/"]');
    await seesText(desk, 'History');
    await seesText(desk, 'saw: the Vestibule');
    expect(await axeViolations(desk)).toEqual([]);
    await desk.goBack();
    await desk.waitForSelector('[data-waiting]');
    await press(desk, 'It is this person');
    await desk.waitForFunction(() => document.querySelectorAll('[data-waiting]').length === 3);
    await undoIt(desk);
    await desk.waitForFunction(() => document.querySelectorAll('[data-waiting]').length === 4);
    const made = await desk.waitForSelector('[data-waiting] ::-p-text(New person)');
    await made?.click();
    await seesText(desk, 'A record was made for');
    await desk.waitForFunction(() => document.querySelectorAll('[data-waiting]').length === 3);
    expect(errors.flat()).toEqual([]);
  });
});
