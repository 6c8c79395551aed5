import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import type { Page } from 'puppeteer-core';
import { loadDemo } from '../../demo/src/index.ts';
import { prepareDatabase } from '../../server/src/prepare.ts';
import { DESK, fill, openPage, PHONE, press, seesText, startBrowser, undoIt } from './fixtures/browser.ts';
import { databaseUrl, onServer, ROOT, testCluster } from './fixtures/cluster.ts';
import { bookedVisit, MARTA } from './fixtures/patient.ts';
import { startServer } from './fixtures/server.ts';
import { until } from './fixtures/until.ts';
import { sayCode, takeTime, toWhen, typePerson } from './pages/patientPages.ts';

const FOLDER = process.argv[2] ?? join(ROOT, 'docs/screenshots');
const DAY = '2026-12-01';

/** Takes one picture of each main view from the demo's data: `npm run screenshots`. */
const cluster = await testCluster('pictures');
await onServer(cluster, 'drop database if exists pictures with (force)', 'create database pictures');
const orm = await prepareDatabase(databaseUrl(cluster, 'pictures'));
await loadDemo(orm, DAY);
await orm.close(true);
const server = await startServer(databaseUrl(cluster, 'pictures'), { ZAGUAN_PROOF: 'no' });
const browser = await startBrowser();
mkdirSync(FOLDER, { recursive: true });

const settle = () => new Promise((resolve) => setTimeout(resolve, 400));
async function shoot(page: Page, name: string): Promise<void> {
  await settle();
  await page.screenshot({ path: join(FOLDER, `${name}.png`) as `${string}.png` });
}

/** The page behind a patient's invitation, with a day's times. */
async function openInvitation(patientId: string): Promise<Page> {
  const demo = new pg.Pool({ connectionString: databaseUrl(cluster, 'pictures'), max: 1 });
  const token = await until(async () => {
    const { rows } = await demo.query<{ body: string }>(
      'select s.body from simulated.sms s join message m on m.id::text = s.id join invitation i on i.id = m.invitation_id where i.patient_id = $1',
      [patientId],
    );
    return /\/i\/([\w-]{16})/.exec(rows[0]?.body ?? '')?.[1];
  }, 'the invitation arrives');
  const { rows } = await demo.query<{ born: string }>('select birth_date::text as born from patient where id = $1', [
    patientId,
  ]);
  await demo.end();
  const { page } = await openPage(browser, PHONE);
  await page.goto(`${server.url}/i/${token}`);
  await page.locator('main input').fill(rows[0].born);
  await page.keyboard.press('Enter');
  await page.locator('main button[data-date]:not([disabled])').click();
  await page.waitForSelector('[data-start]');
  await settle();
  await page.evaluate(() => window.scrollTo(0, 0));
  return page;
}

const { page: phone } = await openPage(browser, PHONE);
await toWhen(phone, server.url);
await phone.evaluate(() => (document.querySelectorAll('[data-date]')[1] as HTMLElement).click());
await phone.waitForSelector('[data-start]');
await settle();
await phone.evaluate(() => window.scrollTo(0, 0));
await shoot(phone, 'patient-when-360');
await takeTime(phone, 1);
await typePerson(phone, {
  given: 'Rosa',
  family: 'Delgado',
  birth: 'March 4, 1987',
  phone: '312 555 0177',
  reason: 'Hives after lunch',
});
await press(phone, 'Book this visit');
await seesText(phone, 'Is this your number?');
const sql = new pg.Pool({ connectionString: databaseUrl(cluster, 'pictures'), max: 1 });
await sayCode(phone, sql);
await seesText(phone, 'You are booked');
await bookedVisit(server.url, 3, { ...MARTA, contact: 'marta@example.com' }, sql);
const {
  rows: [filledIn],
} = await sql.query<{ patient_id: string }>(
  `select a.patient_id from form_response r join appointment a on a.id = r.appointment_id join patient p on p.id = a.patient_id
   where not p.restricted and p.fields <> '{}' group by 1 order by count(*) desc, 1 limit 1`,
);
await sql.end();

/** The follow-up among the visit types of a select. */
const followUpOf = (page: Page) =>
  page.$$eval(
    'select[name="visitType"] option',
    (options) => options.find((each) => each.textContent === 'Follow-up')?.value ?? '',
  );

const { page: desk } = await openPage(browser, DESK);
await desk.goto(server.url);
await seesText(desk, 'Demo only');
await press(desk, 'Coordinator');
await desk.waitForSelector('[data-plate]');
await shoot(desk, 'daybook');
await desk.goto(`${server.url}/daybook/2026-12-02`);
const plate = await desk.waitForSelector('[data-plate][data-origin="self"] ::-p-text(Rosa Delgado)');
await plate?.evaluate((each) => (each.closest('button') as HTMLElement).click());
await seesText(desk, 'Hives after lunch');
await shoot(desk, 'daybook-visit');
// A visit hangs over a time that is taken: where it fits is lit, and why not here stands beside it.
await desk.goto(`${server.url}/daybook/2026-12-02`);
const dragged = await (await desk.waitForSelector('[data-plate] ::-p-text(Underhill)'))?.boundingBox();
if (!dragged) throw new Error('There is no visit to drag.');
await desk.mouse.move(dragged.x + 4, dragged.y + 6);
await desk.mouse.down();
await desk.mouse.move(dragged.x + 14, dragged.y + 8, { steps: 3 });
await desk.waitForSelector('[data-fits]');
await desk.mouse.move(dragged.x + 8, dragged.y + 126, { steps: 8 });
await desk.waitForSelector('[data-verdict="refused"]');
await shoot(desk, 'daybook-drag');
await desk.keyboard.press('Escape');
await desk.mouse.up();
await press(desk, 'Why not?');
await desk.waitForSelector('[data-code], [role="status"]');
await shoot(desk, 'why-not');
await press(desk, 'Availability');
await desk.waitForSelector('[data-cell]');
// The brush takes two afternoons of several people off the patients' page in one stroke.
await press(desk, 'Desk only');
const [first, last] = await Promise.all(['1 3', '3 4'].map((cell) => desk.$(`[data-cell="${cell}"]`)));
const [start, end] = [await first?.boundingBox(), await last?.boundingBox()];
if (!start || !end) throw new Error('The week has these days.');
await desk.mouse.move(start.x + start.width * 0.5, start.y + start.height / 2);
await desk.mouse.down();
await desk.mouse.move(end.x + end.width * 0.9, end.y + end.height / 2, { steps: 8 });
await desk.mouse.up();
await seesText(desk, 'Online setting changed.');
await shoot(desk, 'availability');
await undoIt(desk);
await seesText(desk, 'Undone.');
await desk.goto(`${server.url}/availability/visits-to-move`);
await desk.waitForSelector('[data-visit]');
await shoot(desk, 'visits-to-move');
await desk.goto(`${server.url}/find`);
await desk.waitForSelector('[role="tab"]');
await shoot(desk, 'find-a-time');

await press(desk, 'Vestibule');
await desk.waitForSelector('[data-waiting]');
await shoot(desk, 'vestibule');
await press(desk, 'Postroom');
await desk.waitForSelector('[data-phone]');
await fill(desk, 'Answer as +1', 'Is there parking for a van?');
await desk.click('[data-phone] button[type="submit"]');
await seesText(desk, 'we read your message');
await press(desk, 'Today');
await seesText(desk, 'parking');
await shoot(desk, 'today');
await press(desk, 'Postroom');
await desk.waitForSelector('[data-phone] a');
const link = await desk.$eval('[data-phone] a', (each) => (each as HTMLAnchorElement).href);
await phone.goto(link);
await fill(phone, 'Date of birth', 'March 4, 1987');
await press(phone, 'Show the visit');
await seesText(phone, 'Confirm visit');
await (await phone.waitForSelector('[data-document="form"]'))?.click();
await seesText(phone, 'How are you?');
await phone.click('input[name="breathing"][value="true"]');
await seesText(phone, 'Call 911 now');
await shoot(phone, 'patient-form-360');

await press(desk, 'Intake');
await desk.waitForSelector('[data-board-visit]');
await shoot(desk, 'intake-board');
await desk.goto(`${server.url}/patients/${filledIn.patient_id}`);
await desk.waitForSelector('[data-history]');
await press(desk, 'Forms and consents');
await desk.click('[data-form] summary');
await shoot(desk, 'patient');
await desk.goto(`${server.url}/outreach`);
await press(desk, 'Fall checkup for asthma');
await desk.waitForSelector('[data-listed]');
await desk.click('[data-listed] button');
await desk.waitForSelector('aside [data-rule]');
await shoot(desk, 'recalls');

await desk.goto(`${server.url}/outreach/templates`);
await desk.waitForSelector('[data-template] [data-finds]');
await desk.evaluate(() => {
  const row = [...document.querySelectorAll('[data-template]')].find((each) => each.textContent?.includes('Breathing'));
  [...(row?.querySelectorAll('button') ?? [])].find(({ textContent }) => textContent === 'Edit template')?.click();
});
await desk.waitForSelector('aside [data-finds]');
await shoot(desk, 'invitation-template');
await desk.goto(`${server.url}/outreach`);
await press(desk, 'Asthma review');
await desk.waitForSelector('[data-listed] input');
const invitee = await desk.$eval('[data-listed]', (each) => each.getAttribute('data-listed') ?? '');
await desk.click('[data-listed] input');
await press(desk, 'Invite 1…');
await press(desk, 'Send 1 invitation');
await seesText(desk, 'is on its way');
const invitedPhone = await openInvitation(invitee);
await shoot(invitedPhone, 'invitation-360');
// Another page, without the notice that the invitation is on its way.
await desk.goto(`${desk.url().split('?')[0]}/invited`);
await desk.waitForSelector('button[data-step="booked"]');
await desk.waitForSelector('[role="img"] svg');
await desk.click('button[data-step="booked"]');
await desk.waitForSelector('aside [data-invitation]');
await shoot(desk, 'funnel');

await desk.goto(`${server.url}/daybook?book=new&for=${filledIn.patient_id}`);
await desk.waitForSelector('[data-who]');
await desk.select('select[name="visitType"]', await followUpOf(desk));
await fill(desk, 'Reason', 'Rash came back');
await desk.waitForSelector('[data-proposal="1"]');
await desk.click('[data-proposal="1"]');
await desk.waitForSelector('[data-held]');
await shoot(desk, 'book');
await desk.keyboard.press('Escape');
await desk.goto(`${server.url}/daybook`);
await desk.waitForSelector('[data-plate]');
// A Lens being made from another one: fees in the lanes' heads, colors by readiness.
await press(desk, 'Lens');
await press(desk, 'Edit Lenses');
await press(desk, 'Day in figures');
await press(desk, 'Copy');
await desk.waitForSelector('[data-sample] [data-plate]');
await fill(desk, 'Name', 'Readiness and fees');
await shoot(desk, 'lens-editor');
await browser.stop();
await server.stop();
cluster.stop();
console.log(`Pictures are in ${FOLDER}.`);
process.exit(0);
