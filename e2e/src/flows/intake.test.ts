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
import { linkOn } from '../fixtures/link.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';
import { story } from '../fixtures/story.ts';
import { drawSignature, EN, ROSA, sayCode, takeTime, toWhen, typePerson } from '../pages/patientPages.ts';

const MAIL = 'rosa@example.com';

describe('from booking without a cell phone to check-in', () => {
  let world: World;
  let browser: RunningBrowser;
  let desk: Page;
  let doctor: Page;
  let phone: Page;
  let tablet: Page;
  let link = '';
  let visit = { id: '', date: '', startsAt: new Date() };
  const errors: string[][] = [];
  const base = () => world.servers[0].url;

  beforeAll(async () => {
    // The work before a hold is on here, as for everyone.
    world = await makeWorld('intakeflow', { env: { ZAGUAN_PROOF: 'yes' } });
    browser = await startBrowser();
    const pages = [];
    for (const size of [DESK, DESK, PHONE, PHONE]) {
      const opened = await openPage(browser, size);
      errors.push(opened.errors);
      pages.push(opened.page);
    }
    [desk, doctor, phone, tablet] = pages;
    for (const [page, who] of [
      [desk, 'Coordinator'],
      [doctor, 'Provider'],
    ] as const) {
      await page.goto(base());
      await press(page, who);
      await page.waitForSelector('[data-plate]');
    }
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  const step = story();

  step('books by e-mail, with a code from the mailbox and an unseen proof of work', async () => {
    await toWhen(phone, base());
    await takeTime(phone, 2);
    await typePerson(phone, ROSA);
    await press(phone, 'I have no cell phone');
    await press(phone, EN.book);
    await seesText(phone, 'Please write an e-mail address.');
    await fill(phone, 'E-mail', 'rosa at home');
    await press(phone, EN.book);
    await seesText(phone, 'This is not an e-mail address we can write to.');
    expect(await axeViolations(phone)).toEqual([]);
    await fill(phone, 'E-mail', MAIL);
    await press(phone, EN.book);
    await seesText(phone, 'Is this your e-mail address?');
    await seesText(phone, MAIL);
    await sayCode(phone, world.sql, MAIL);
    await seesText(phone, EN.booked);
    const { rows } = await world.sql.query<{ id: string; date: string; starts_at: Date }>(
      'select a.id, a.site_date::text as date, a.starts_at from appointment a join self_booking b on b.appointment_id = a.id where b.email = $1',
      [MAIL],
    );
    visit = { id: rows[0].id, date: rows[0].date, startsAt: rows[0].starts_at };
    expect((await world.sql.query('select count(*)::int as n from spent_proof')).rows[0].n).toBeGreaterThan(0);
    link = `${base()}/v/${await linkOn(world, visit.id)}`;
  });

  step('shows the mailbox in the Postroom, with the calendar entry, and takes an answer there', async () => {
    await press(desk, 'Postroom');
    await desk.waitForSelector(`[data-mailbox="${MAIL}"]`);
    await seesText(desk, 'calendar entry attached');
    expect(await axeViolations(desk)).toEqual([]);
    await fill(desk, `Answer as ${MAIL}`, 'Y');
    await desk.click(`[data-mailbox="${MAIL}"] button[type="submit"]`);
    await seesText(desk, 'thank you, we expect you');
  });

  const openVisit = async (page: Page) => {
    await page.goto(link);
    await fill(page, 'Date of birth', 'March 4, 1987');
    await press(page, 'Show the visit');
    await page.waitForSelector('[data-document="form"]');
  };
  const choose = (page: Page, question: string, answer: 'true' | 'false') =>
    page.click(`input[name="${question}"][value="${answer}"]`);
  const append = async (page: Page, text: string) => {
    await page.focus('textarea[name="reaction-what"]');
    await page.keyboard.down('Control');
    await page.keyboard.press('End');
    await page.keyboard.up('Control');
    await page.keyboard.type(text);
  };
  const saved = (page: Page) => page.waitForSelector('[data-draft="saved"]');

  step('asks part by part, shows a question only if it matters, and saves as it is typed', async () => {
    await openVisit(phone);
    await seesText(phone, 'Before you come');
    expect(await axeViolations(phone)).toEqual([]);
    await phone.click('[data-document="form"]');
    await seesText(phone, 'Part 1 of 3');
    expect(await axeViolations(phone)).toEqual([]);
    await press(phone, 'Next');
    await seesText(phone, '3 answers are still missing.');
    expect(await phone.$('textarea[name="reaction-what"]')).toBeNull();
    await choose(phone, 'reaction', 'true');
    await phone.type('textarea[name="reaction-what"]', 'A rash on the arm');
    await choose(phone, 'breathing', 'false');
    await choose(phone, 'beta-blocker', 'false');
    await saved(phone);
    await press(phone, 'Next');
    await seesText(phone, 'Part 2 of 3');
    await choose(phone, 'antihistamine', 'false');
    await saved(phone);
  });

  step(
    'goes on where it stopped on another device, and lets the patient choose where both changed one answer',
    async () => {
      await openVisit(tablet);
      await seesText(tablet, 'Started. Continue where you stopped.');
      await tablet.click('[data-document="form"]');
      await tablet.waitForSelector('textarea[name="reaction-what"]');
      expect(await tablet.$eval('textarea[name="reaction-what"]', (each) => (each as HTMLTextAreaElement).value)).toBe(
        'A rash on the arm',
      );
      // The phone goes back and changes the answer; then the tablet, which has not seen it, does too.
      await press(phone, 'Back');
      await phone.waitForSelector('textarea[name="reaction-what"]');
      await append(phone, ', for a day');
      await saved(phone);
      await append(tablet, ' and the face');
      await seesText(tablet, 'This was answered on another device too.');
      await seesText(tablet, 'A rash on the arm, for a day');
      expect(await axeViolations(tablet)).toEqual([]);
      await tablet.click('[data-conflict="mine"]');
      await saved(tablet);
      const { rows } = await world.sql.query<{ value: string }>(
        "select answers->'reaction-what'->'value'->>0 as value from form_response where appointment_id = $1",
        [visit.id],
      );
      expect(rows).toEqual([{ value: 'A rash on the arm and the face' }]);
    },
  );

  step('tells the patient at once what a red-flag answer asks for, and alerts Today without a reload', async () => {
    await press(desk, 'Today');
    await seesText(desk, '1 red flag');
    await choose(phone, 'breathing', 'true');
    await seesText(phone, 'Call 911 now. Do not wait for your visit.');
    await seesText(desk, '2 red flags', 5000);
    await seesText(desk, 'Is it hard to breathe right now');
    expect(await axeViolations(desk)).toEqual([]);
    // The coordinator may take it, but not clear it.
    expect(await desk.$('[data-work="red-flag"] input')).toBeNull();
    await (await desk.$$('[data-work="red-flag"] [data-claim="free"]')).at(-1)?.click();
    await seesText(desk, 'yours');
    await press(doctor, 'Today');
    await seesText(doctor, 'assigned to Ines Kessler');
  });

  step(
    'says that only a clinician clears a red flag, and assigns it to one: in sight, and no longer the desk’s to do',
    async () => {
      const counted = () =>
        desk.$eval('nav a[href="/today"]', (each) => Number(/\d+/.exec(each.textContent ?? '')?.[0] ?? 0));
      const before = await counted();
      await seesText(desk, 'Only a clinician can clear this.');
      const [button] = (await desk.$$('[data-work="red-flag"] button[aria-haspopup="menu"]')).slice(-1);
      await button.click();
      const first = await desk.waitForSelector('[role="menuitem"]');
      const name = (await first?.evaluate((each) => each.textContent)) ?? '';
      await first?.click();
      await seesText(desk, `With ${name}. It comes back to you at`);
      await desk.waitForFunction(
        (n) => Number(/\d+/.exec(document.querySelector('nav a[href="/today"]')?.textContent ?? '')?.[0] ?? 0) === n,
        {},
        before - 1,
      );
      expect(await desk.$$eval('[data-work="red-flag"]', (all) => all.length)).toBe(2);
      expect(await axeViolations(desk)).toEqual([]);
      await seesText(doctor, name === 'Dr. Inés Amaya' ? 'yours' : `assigned to ${name}`);
      await undoIt(desk);
      await desk.waitForFunction(() => !document.querySelector('[data-with-clinician]'));
    },
  );

  step('finishes the form, and signs the consent by hand only once it is whole', async () => {
    await choose(phone, 'breathing', 'false');
    await press(phone, 'Next');
    await seesText(phone, 'Part 2 of 3');
    await press(phone, 'Next');
    await seesText(phone, 'Part 3 of 3');
    await fill(phone, 'Who should we call', 'Luz Delgado');
    await fill(phone, 'Their phone number', '312 555 0143');
    await press(phone, 'Send');
    await phone.waitForSelector('[data-document="form"][data-done="true"]');
    await phone.click('[data-document="consent"]');
    await seesText(phone, 'I have read this and I agree.');
    expect(await axeViolations(phone)).toEqual([]);
    await phone.click('input[name="how"][value="drawn"]');
    await press(phone, 'Sign');
    for (const fault of ['tick this box', 'Please write your name', 'Please draw your signature'])
      await seesText(phone, fault);
    await phone.click('input[name="agreed"]');
    await fill(phone, 'Your full name', 'Rosa Delgado');
    await drawSignature(phone);
    await press(phone, 'Sign');
    await seesText(phone, 'Signed by Rosa Delgado.');
    const { rows } = await world.sql.query<{ kind: string; points: number }>(
      "select signature->>'kind' as kind, jsonb_array_length(signature->'strokes'->0) as points from signed_consent where appointment_id = $1",
      [visit.id],
    );
    expect(rows[0].kind).toBe('drawn');
    expect(rows[0].points).toBeGreaterThan(8);
  });

  const openPlate = async (page: Page) => {
    await page.goto(`${base()}/daybook/${visit.date}`);
    const plate = await page.waitForSelector('[data-plate][data-origin="self"] ::-p-text(Rosa Delgado)');
    await plate?.evaluate((each) => (each.closest('button') as HTMLElement).click());
    await page.waitForSelector('[data-item="person"]');
  };

  step('moves the visit from its panel, tells the patient, and undoes it', async () => {
    await openPlate(desk);
    await press(desk, 'Move');
    await desk.waitForSelector('[data-move-to]');
    // Read and pressed in one go: the list may be drawn again in between.
    await desk.$eval('[data-move-to]', (each) => (each as HTMLElement).click());
    await seesText(desk, 'now comes');
    await undoIt(desk);
    await seesText(desk, 'Undone');
    const { rows } = await world.sql.query<{ starts_at: Date; sequence: number }>(
      'select starts_at, ical_sequence as sequence from appointment where id = $1',
      [visit.id],
    );
    expect(rows[0]).toEqual({ starts_at: visit.startsAt, sequence: 2 });
  });

  step('shows readiness on plate, panel and board, and waits for the person, the clinician and the day', async () => {
    await openPlate(desk);
    await seesText(desk, 'Held: red flag');
    expect(await desk.$('[data-sign="held"]')).not.toBeNull();
    await seesText(desk, 'A clinician clears it. Check-in waits.');
    await seesText(desk, 'Check-in opens on');
    expect(await axeViolations(desk)).toEqual([]);
    await openPlate(doctor);
    await press(doctor, 'Clear red flag');
    await seesText(doctor, 'Give a reason.');
    await fill(doctor, 'What you found', 'Spoke to her: a slip of the finger.');
    await press(doctor, 'Clear red flag');
    await seesText(doctor, 'Cleared by Dr. Inés Amaya');
    await desk.goto(`${base()}/identity-review`);
    const made = await desk.waitForSelector(
      '::-p-xpath(//*[@data-waiting][contains(., "Rosa Delgado")]//button[contains(., "New person")])',
    );
    await made?.evaluate((each) => (each as HTMLElement).click());
    await seesText(desk, 'A record was made for');
    // The day of the visit: a quarter of an hour before it.
    const { rows } = await world.sql.query<{ ms: number }>(
      "select extract(epoch from (now() + offset_ms * interval '1 millisecond')) * 1000 as ms from domain_clock",
    );
    await passMinutes(world, Math.round((visit.startsAt.getTime() - Number(rows[0].ms)) / 60_000) - 15);
    await desk.goto(`${base()}/intake`);
    await desk.waitForSelector('[data-board-visit]');
    await press(desk, 'Only visits that are not ready');
    const row = await desk.waitForSelector(`[data-board-visit="${visit.id}"][data-ready="true"] button`);
    expect(await axeViolations(desk)).toEqual([]);
    await row?.click();
  });

  step('checks in with two identifiers, undoes it, and does it again', async () => {
    await desk.waitForSelector('input[name="birth-date"]');
    expect(await desk.$eval('[data-check-in]', (each) => (each as HTMLButtonElement).disabled)).toBe(true);
    await desk.click('input[name="name"]');
    await desk.click('input[name="birth-date"]');
    expect(await axeViolations(desk)).toEqual([]);
    await press(desk, 'Check in');
    await seesText(desk, 'Rosa Delgado is checked in.');
    await seesText(desk, 'Checked in');
    await undoIt(desk);
    await desk.waitForSelector('input[name="birth-date"]');
    expect((await world.sql.query('select status from encounter where appointment_id = $1', [visit.id])).rows).toEqual([
      { status: 'cancelled' },
    ]);
  });

  step('lets something missing through with a reason, or has it filled in at the desk', async () => {
    await desk.goto(`${base()}/intake`);
    const open = await desk.waitForSelector(
      '::-p-xpath(//tr[@data-ready="false"][.//*[@data-missing="needed"]]//button)',
    );
    await open?.click();
    const waive = await desk.waitForSelector('[data-waive]');
    await waive?.click();
    await press(desk, 'Waive');
    await seesText(desk, 'Give a reason.');
    await fill(desk, 'Why is it waived', 'Signs on paper');
    await press(desk, 'Waive');
    await seesText(desk, 'waived by Ines Kessler: “Signs on paper”');
    await undoIt(desk);
    const sign = await desk.waitForSelector('[data-fill="consent"], [data-fill="form"]');
    await sign?.click();
    await seesText(desk, 'Back to the list');
    expect(await axeViolations(desk)).toEqual([]);
  });

  step('gathers messages, forms, consents and who saw them on the patient’s page', async () => {
    const { rows } = await world.sql.query<{ id: string }>('select patient_id as id from appointment where id = $1', [
      visit.id,
    ]);
    await desk.goto(`${base()}/patients/${rows[0].id}`);
    await seesText(desk, 'Forms and consents');
    await press(desk, 'Allergy history');
    await seesText(desk, 'A rash on the arm and the face');
    await seesText(desk, 'signed by Rosa Delgado (the patient), version 1');
    await seesText(desk, 'Confirmation');
    await seesText(desk, 'cleared a red flag');
    expect(await axeViolations(desk)).toEqual([]);
    expect(errors.flat()).toEqual([]);
  });
});
