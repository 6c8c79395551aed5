import { randomUUID } from 'node:crypto';
import { invitationsOfPatient, invitationTemplates } from '@zaguan/contracts/invitations';
import { recallPlans } from '@zaguan/contracts/recalls';
import { addMonths } from '@zaguan/core/time';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  axeViolations,
  choose,
  DESK,
  field,
  fill,
  openPage,
  orSay,
  PHONE,
  press,
  seesText,
  undoIt,
} from '../fixtures/browser.ts';
import { dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { tokenOfInvitation } from '../fixtures/invitations.ts';
import { AFTER_FOLLOW_UP, aPatient, aVisit } from '../fixtures/recalls.ts';
import { until } from '../fixtures/until.ts';
import { TEST_DAY } from '../fixtures/world.ts';

const BORN = 'June 15, 1990';

describe('invitations on screen', () => {
  let desk: Desk;
  const planId = randomUUID();
  const people: string[] = [];
  beforeAll(async () => {
    desk = await openDesk('invite_screen', 'coordinator');
    const { sql } = desk.world;
    for (let i = 0; i < 4; i++) {
      const id = await aPatient(sql, `Invitee${i}`);
      await aVisit(sql, id, addMonths(TEST_DAY, -9), 'fulfilled');
      people.push(id);
    }
    const { rows } = await sql.query('select patient_id from patient_contact where patient_id = $1', [people[0]]);
    expect(rows).toHaveLength(1);
    // Two share a number: the second waits until tomorrow.
    await sql.query('delete from patient_contact where patient_id = $1', [people[1]]);
    await sql.query(
      'insert into patient_contact (patient_id, contact_point_id) select $2, contact_point_id from patient_contact where patient_id = $1',
      [people[0], people[1]],
    );
    dataOf(await desk.api.call(recallPlans.save, { records: [{ id: planId, version: 0, doc: AFTER_FOLLOW_UP }] }));
  });
  afterAll(() => desk.close());

  const go = async (path: string, sees: string) => {
    await desk.page.goto(desk.base + path);
    await orSay(desk.page, desk.page.waitForSelector(sees));
  };
  const finds = (page: Page) =>
    page.waitForFunction(() =>
      Number(document.querySelector('aside [data-finds], [data-finds]')?.getAttribute('data-finds')),
    );
  /** As the browser's own calendar does it. */
  const setDate = async (label: string, date: string) =>
    (await field(desk.page, label)).evaluate((each, value) => {
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(each, value);
      each.dispatchEvent(new Event('input', { bubbles: true }));
    }, date);
  const invitationOf = async (patientId: string) =>
    dataOf(await desk.api.call(invitationsOfPatient, { patientId })).invitations[0];
  const tokenOf = async (patientId: string) => tokenOfInvitation(desk.world, (await invitationOf(patientId)).id);

  it('says at once what a template would find, warns of none, and keeps words without a link from being saved', async () => {
    const { page } = desk;
    await go('/outreach', 'h1');
    // The button that comes with the rights moves the links.
    await seesText(page, 'New plan');
    await press(page, 'Invitation templates');
    await seesText(page, 'No invitation template yet.');
    await press(page, 'New template');
    await fill(page, 'Name', 'Back for a follow-up');
    await seesText(page, 'Choose what may be booked to see how many times there are.');
    await press(page, 'Follow-up');
    await finds(page);
    expect(await axeViolations(page)).toEqual([]);
    await setDate('Not before', '2030-01-01');
    await seesText(page, 'Nothing could be booked in the next 3 weeks.');
    await setDate('Not before', '');
    await finds(page);
    await fill(page, 'Text message', 'Please come back soon.');
    await press(page, 'Save');
    await page.waitForSelector('[aria-invalid="true"]');
    await fill(page, 'Text message', '{clinic}: {name}, please come back. {link}');
    await page.waitForFunction(() =>
      document.querySelector('[data-text-preview="en"]')?.textContent?.includes('Ana, please come back.'),
    );
    await press(page, 'Save');
    await until(
      async () => dataOf(await desk.api.call(invitationTemplates.list, {})).records.length === 1,
      'the template is saved',
    );
    await page.waitForSelector('[data-template] [data-finds]');
  });

  it('invites those who are ticked, with each message in sight, and who waits and why', async () => {
    const { page } = desk;
    await go(`/outreach/plans/${planId}`, `[data-listed="${people[0]}"]`);
    for (const id of people.slice(0, 3)) await page.locator(`[data-listed="${id}"] input[type="checkbox"]`).click();
    await press(page, 'Invite 3…');
    await page.waitForSelector(`[data-invites="${people[2]}"]`);
    await seesText(page, 'one invitation a day to a number (47 CFR 64.1200)');
    await page.locator(`[data-invites="${people[0]}"] button`).click();
    await seesText(page, 'Robin, please come back.');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Send 3 invitations');
    await seesText(page, '3 invitations are on their way.');
    await page.waitForFunction((id) => !document.querySelector(`[data-listed="${id}"]`), {}, people[0]);
    await tokenOf(people[0]);
    expect((await invitationOf(people[1])).state).toBe('planned');
  });

  it('invites one in two presses from the record, takes it back, and withdraws', async () => {
    const { page } = desk;
    await go(`/patients/${people[3]}`, 'h1');
    await press(page, 'Invite…');
    await press(page, 'Send 1 invitation');
    await page.waitForSelector('[data-invitation-state]');
    await tokenOf(people[3]);
    await undoIt(page);
    await page.waitForSelector('[data-invitation-state="withdrawn"]');
    await press(page, 'Invite…');
    await press(page, 'Send 1 invitation');
    await page.waitForFunction(() => document.querySelectorAll('[data-invitation]').length === 2);
    expect(await axeViolations(page)).toEqual([]);
    // The first message was out already: a second one would be two on one day.
    expect((await invitationOf(people[3])).state).toBe('planned');
    await press(page, 'Withdraw');
    await page.waitForFunction(() => document.querySelectorAll('[data-invitation-state="withdrawn"]').length === 2);
    await undoIt(page);
    await page.waitForFunction(() => document.querySelectorAll('[data-invitation-state="withdrawn"]').length === 1);
  });

  const onPhone = async (token: string, language = 'en-US') => {
    const { page, errors } = await openPage(desk.browser, PHONE, language);
    await page.goto(`${desk.base}/i/${token}`);
    await page.waitForSelector('main input');
    return { page, errors };
  };
  const showTimes = async (page: Page, birth = BORN) => {
    await page.locator('main input').fill(birth);
    await page.keyboard.press('Enter');
    await orSay(page, page.waitForSelector('main button[data-date]'));
  };

  it('books on a phone of 360 px: narrowed by wishes, asked once more, told where everything is', async () => {
    const { page, errors } = await onPhone(await tokenOf(people[0]));
    expect(await axeViolations(page)).toEqual([]);
    await page.locator('main input').fill('June 15, 1991');
    await page.keyboard.press('Enter');
    await seesText(page, '4 tries left');
    await showTimes(page);
    await seesText(page, 'Hello Robin');
    expect(await axeViolations(page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
    const counted = () =>
      page.$$eval('main button[data-date]', (all) => all.map((each) => each.getAttribute('aria-label')).join());
    const all = await counted();
    const selects = await page.$$('main select');
    await selects[selects.length - 1].select('morning');
    await page.waitForFunction(
      (before) =>
        [...document.querySelectorAll('main button[data-date]')]
          .map((each) => each.getAttribute('aria-label'))
          .join() !== before,
      {},
      all,
    );
    await page.locator('main button[data-date]:not([disabled])').click();
    await page.locator('main [data-start]').click();
    await page.waitForSelector('[data-sure]');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'Another time');
    await page.locator('main button[data-date]:not([disabled])').click();
    await page.locator('main [data-start]').click();
    await press(page, 'Yes, book it');
    await page.waitForSelector('[data-booked]');
    await seesText(page, 'You are booked.');
    expect(await page.$eval('[data-booked] a', (each) => each.getAttribute('href'))).toMatch(/\/v\/[\w-]{16}$/);
    await page.reload();
    await seesText(page, 'A visit was booked with this invitation already.');
    expect(errors).toEqual([]);
    // The desk sees it, with where it came from.
    expect((await invitationOf(people[0])).state).toBe('booked');
  });

  it('takes “done elsewhere” and “no thanks” in Spanish, and says so when it is opened again', async () => {
    const { page } = await onPhone(await tokenOf(people[2]), 'es-MX');
    await showTimes(page, '15/06/1990');
    await press(page, '¿Ahora no?');
    await press(page, 'No me inviten a esto');
    await press(page, 'Volver');
    await press(page, 'Ninguna invitación más');
    await press(page, 'Volver');
    await press(page, 'Ya me lo hicieron en otro lugar');
    expect(await axeViolations(page)).toEqual([]);
    await press(page, 'No me inviten a esto');
    await press(page, 'Sí, no me inviten');
    await seesText(page, 'Ya no le invitamos a esto.');
    await page.reload();
    await seesText(page, 'Usted ya respondió a esta invitación.');
    expect((await invitationOf(people[2])).state).toBe('declined');
  });

  it('shows the plan’s funnel with a table beside it; each number opens its people', async () => {
    const { page } = desk;
    await go(`/outreach/plans/${planId}`, 'h1');
    await press(page, 'What came of it');
    await page.waitForSelector('button[data-step="booked"]');
    await page.waitForSelector('[role="img"] svg');
    expect(await axeViolations(page)).toEqual([]);
    const number = (step: string) => page.$eval(`[data-step="${step}"]`, (each) => Number(each.textContent));
    expect([await number('booked'), await number('declined'), await number('came')]).toEqual([1, 1, 0]);
    await page.locator('button[data-step="booked"]').click();
    await page.waitForSelector('aside [data-invitation-state="booked"]');
    expect(await page.$$eval('aside [data-invitation]', (all) => all.length)).toBe(1);
    expect(await axeViolations(page)).toEqual([]);
  });

  it('explains with *Why not?* what the holder of an invitation is offered', async () => {
    const { page } = desk;
    await go('/daybook', '[data-plate]');
    await press(page, 'Why not?');
    await page.waitForSelector('[data-testid="why-not"]');
    await choose(page, 'Visit type', 'Skin');
    const [{ id }] = dataOf(await desk.api.call(invitationTemplates.list, {})).records;
    await (await field(page, 'With an invitation')).select(id);
    // The template books follow-ups alone.
    await orSay(page, page.waitForSelector('[data-testid="why-not"] [data-code="invitation-type"]'));
    expect(await axeViolations(page)).toEqual([]);
  });

  it('shows who may only read what came of it, and nothing to send', async () => {
    const reader = await openPage(desk.browser, DESK);
    await reader.page.goto(desk.base);
    await press(reader.page, 'Read-only');
    await reader.page.waitForSelector('nav');
    await reader.page.goto(`${desk.base}/outreach/templates`);
    await reader.page.waitForSelector('[data-template]');
    expect(await reader.page.$$eval('button', (all) => all.map((each) => each.textContent))).not.toContain(
      'New template',
    );
    await reader.page.goto(`${desk.base}/outreach/plans/${planId}`);
    await reader.page.waitForSelector('h1');
    expect(await reader.page.$('thead input[type="checkbox"]')).toBeNull();
  });
});
