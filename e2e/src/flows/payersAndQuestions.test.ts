import { randomUUID } from 'node:crypto';
import * as setup from '@zaguan/contracts/setup';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import {
  axeViolations,
  DESK,
  field,
  fill,
  openPage,
  PHONE,
  press,
  type RunningBrowser,
  seesText,
  startBrowser,
  undoIt,
} from '../fixtures/browser.ts';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';
import { story } from '../fixtures/story.ts';
import { bookIt, takeTime, typePerson, ROSA } from '../pages/patientPages.ts';

const PAYERS = { plain: randomUUID(), referral: randomUUID(), elsewhere: randomUUID(), strict: randomUUID() };
const rule = (change: object) => ({
  visitTypeId: null,
  siteId: null,
  providerId: null,
  accepted: true,
  referral: null,
  authorization: null,
  ...change,
});

describe('who pays, and what the clinic asks for itself', () => {
  let world: World;
  let base: string;
  let browser: RunningBrowser;
  let manager: Client;
  let phone: Page;
  let desk: Page;
  beforeAll(async () => {
    world = await makeWorld('payers');
    base = world.servers[0].url;
    browser = await startBrowser();
    manager = await signedIn(base, 'manager');
    const payer = (id: string, name: string, rules: object[], sortOrder: number) => ({
      id,
      version: 0,
      doc: { name, rules, sortOrder } as setup.PayerDoc,
    });
    dataOf(
      await manager.call(setup.payers.save, {
        records: [
          payer(PAYERS.plain, 'Plain Health', [rule({})], 1),
          payer(
            PAYERS.referral,
            'Asking Health',
            [rule({ visitTypeId: TYPES.follow, accepted: null, referral: true }), rule({})],
            2,
          ),
          payer(PAYERS.elsewhere, 'Elsewhere Health', [rule({ siteId: SITES.mesa })], 3),
          payer(PAYERS.strict, 'Strict Health', [rule({ authorization: true })], 4),
        ],
      }),
    );
    const [clinic] = dataOf(await manager.call(setup.clinic.list, {})).records;
    dataOf(
      await manager.call(setup.clinic.save, {
        records: [{ id: clinic.id, version: clinic.version, doc: { ...clinic.doc, asksPayerOnline: true } }],
      }),
    );
    const question = (
      labelEn: string,
      kind: setup.FieldDoc['kind'],
      required: boolean,
      visitTypeIds: string[] | null,
    ) => ({
      id: randomUUID(),
      version: 0,
      doc: {
        of: 'booking' as const,
        kind,
        labelEn,
        labelEs: `${labelEn} (es)`,
        required,
        choices: [],
        visitTypeIds,
        sortOrder: 1,
      },
    });
    dataOf(
      await manager.call(setup.fields.save, {
        records: [
          question('Are you allergic to latex?', 'yes-no', true, null),
          question('How many steps can you climb?', 'number', false, [TYPES.follow]),
          question('Only before the first visit', 'text', true, [TYPES.consult]),
        ],
      }),
    );
    ({ page: phone } = await openPage(browser, PHONE));
    ({ page: desk } = await openPage(browser, DESK));
    for (const page of [phone, desk]) page.setDefaultTimeout(12_000);
  });
  afterAll(async () => {
    await browser.stop();
    await world.close();
  });

  const toPay = async () => {
    await phone.goto(`${base}/book`);
    await press(phone, 'Yes');
    await press(phone, 'Brindlewood at Canal Row');
    await press(phone, 'Follow-up visit');
    await seesText(phone, 'How will the visit be paid for?');
  };

  it('says at once who is not accepted here, and who wants to approve the visit first', async () => {
    await toPay();
    expect(await axeViolations(phone)).toEqual([]);
    await press(phone, 'Elsewhere Health');
    await seesText(phone, 'Elsewhere Health does not pay for this visit here');
    await seesText(phone, 'Self-pay');
    await phone.click('section > button');
    await press(phone, 'Strict Health');
    await seesText(phone, 'wants to approve this visit first');
    await phone.click('section > button');
    await press(phone, 'My insurance is not in this list');
    await seesText(phone, 'We may still be able to bill it');
    await phone.click('section > button');
    await press(phone, 'Asking Health');
    await press(phone, 'I have none yet');
    await seesText(phone, 'Ask your doctor for a referral first');
    expect(await axeViolations(phone)).toEqual([]);
  });

  const step = story();

  step(
    'asks the clinic’s own questions of this visit type, and keeps what was typed until they are answered',
    async () => {
      await toPay();
      await press(phone, 'Asking Health');
      await press(phone, 'I have a referral');
      await press(phone, 'Anyone');
      await phone.waitForSelector('[data-date]');
      await takeTime(phone, 2);
      await typePerson(phone, ROSA);
      expect(await phone.evaluate(() => document.body.innerText)).not.toContain('Only before the first visit');
      await fill(phone, 'How many steps', 'many');
      await press(phone, 'Book this visit');
      await seesText(phone, 'Please answer this.');
      await seesText(phone, 'Please write a number.');
      expect(await axeViolations(phone)).toEqual([]);
      await (await field(phone, 'Are you allergic to latex?')).select('no');
      // A point on the way to a fraction stays on screen.
      await fill(phone, 'How many steps', '12.50');
      expect(await (await field(phone, 'How many steps')).evaluate((each) => (each as HTMLInputElement).value)).toBe(
        '12.50',
      );
      expect(await (await field(phone, 'First name')).evaluate((each) => (each as HTMLInputElement).value)).toBe(
        'Rosa',
      );
      await bookIt(phone, world.sql);
    },
  );

  step('shows the desk who pays and what was answered, and lets it verify and take that back', async () => {
    const { rows } = await world.sql.query<{ id: string; date: string }>(
      `select a.id, a.site_date::text as date from appointment a join visit_coverage c on c.appointment_id = a.id`,
    );
    expect(rows.length).toBe(1);
    await desk.goto(base);
    await press(desk, 'Coordinator');
    await desk.waitForSelector('[data-plate]');
    await press(desk, 'Today');
    await seesText(desk, '1 coverage to verify');
    await seesText(desk, 'Asking Health says there is a referral');
    expect(await axeViolations(desk)).toEqual([]);
    await press(desk, 'Verified');
    await seesText(desk, 'Coverage verified.');
    await desk.waitForFunction(() => !document.body.innerText.includes('coverage to verify'));
    await undoIt(desk);
    await seesText(desk, '1 coverage to verify');
    await press(desk, 'Not covered');
    await seesText(desk, 'Marked as not covered.');
    await desk.goto(`${base}/daybook/${rows[0].date}`);
    await desk.waitForSelector(`[data-plate="${rows[0].id}"]`);
    await desk.$eval(`[data-plate="${rows[0].id}"]`, (each) => (each as HTMLElement).click());
    await desk.waitForSelector('[data-extras]');
    const extras = await desk.$eval('[data-extras]', (each) => (each as HTMLElement).innerText);
    expect(extras).toMatch(/Asking Health \(not covered\)/);
    expect(extras).toMatch(/latex\?\s+No/);
    expect(extras).toMatch(/climb\?\s+12\.5\b/);
  });

  it('answers Why not? for a payer', async () => {
    await desk.goto(`${base}/daybook/2026-12-03`);
    await desk.waitForSelector('[data-plate]');
    await press(desk, 'Why not?');
    const select = await field(desk, 'Payer');
    await select.select(PAYERS.elsewhere);
    await desk.waitForSelector('[data-code="payer-not-accepted"]');
    await seesText(desk, 'Elsewhere Health is not accepted at Canal Row');
  });

  it('keeps every tab live, also the eighth of one browser', async () => {
    const { rows } = await world.sql.query<{ id: string; site: string }>(
      "select id, site_id as site from appointment where site_date = '2026-12-01' and status = 'booked' and identity = 'sure' order by starts_at desc limit 1",
    );
    const [{ id, site }] = rows;
    const pages = [desk];
    for (let i = 0; i < 7; i++) {
      const page = await desk.browserContext().newPage();
      page.setDefaultTimeout(12_000);
      await page.goto(`${base}/daybook?site=${site}`);
      await page.waitForSelector('html[data-live="open"] [data-plate]');
      pages.push(page);
    }
    await desk.goto(`${base}/daybook?site=${site}`);
    await desk.waitForSelector('html[data-live="open"] [data-plate]');
    const change = async (reason: string) => {
      await world.sql.query('update appointment set reason_text = $2 where id = $1', [id, reason]);
      await world.sql.query(
        `insert into domain_event (at, type, payload) values (clock_timestamp(), 'visit-changed', $1)`,
        [JSON.stringify({ type: 'visit-changed', siteId: site, date: '2026-12-01' })],
      );
    };
    const all = (reason: string) =>
      Promise.all(
        pages.map((page) =>
          page.waitForFunction(
            (wanted) =>
              [...document.querySelectorAll('[data-plate] .sr-only')].some((each) =>
                each.textContent?.includes(wanted),
              ),
            { polling: 300 },
            reason,
          ),
        ),
      );
    await change('Heard by all');
    await all('Heard by all');
    // Whoever keeps the line closes: another one takes it over, and all go on hearing.
    await pages[1].close();
    pages.splice(1, 1);
    await desk.close();
    pages.shift();
    await new Promise((resolve) => setTimeout(resolve, 500));
    await change('Heard by who is left');
    await all('Heard by who is left');
  });
});
