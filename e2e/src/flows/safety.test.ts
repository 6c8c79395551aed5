import { cancelVisit, placeHold } from '@zaguan/contracts/booking';
import { todaysWork } from '@zaguan/contracts/today';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TYPES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, DESK, field, fill, openPage, press, seesText, undoIt } from '../fixtures/browser.ts';
import { Client, dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { bookedVisit, FOLLOW_UP, freeTime, MARTA } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';

describe('what nobody at the desk may miss, on screen', () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await openDesk('safety', 'manager');
  });
  afterAll(async () => {
    expect(desk.errors).toEqual([]);
    await desk.close();
  });
  const go = (path: string) => desk.page.goto(`${desk.base}${path}`);
  const text = () => desk.page.evaluate(() => document.body.innerText);
  const statusOf = async (id: string) =>
    (await desk.world.sql.query<{ status: string }>('select status from appointment where id = $1', [id])).rows[0]
      .status;

  it('keeps a red flag in Today when its visit is cancelled, with the answer, the advice and a phone that dials', async () => {
    const { work } = dataOf(await desk.api.call(todaysWork, {}));
    const flag = work.find((row) => row.kind === 'red-flag');
    if (flag?.kind !== 'red-flag' || !flag.visit) throw new Error('The demo has a red flag.');
    await go('/today');
    await seesText(desk.page, '1 red flag');
    const { rows } = await desk.world.sql.query<{ version: number }>('select version from appointment where id = $1', [
      flag.visit.appointmentId,
    ]);
    dataOf(
      await desk.api.call(cancelVisit, {
        id: flag.visit.appointmentId as never,
        reason: 'patient-asked',
        note: '',
        version: rows[0].version,
      }),
    );
    // The open page says so by itself, and the flag stays.
    await seesText(desk.page, 'the visit was canceled');
    const seen = await text();
    expect(seen).toContain('1 red flag');
    expect(seen).toContain('Have you started a beta-blocker');
    expect(seen).toContain('The page told the patient:');
    expect(await desk.page.$eval('a[href^="tel:"]', (link) => link.getAttribute('href'))).toMatch(/^tel:\+1\d{10}$/);
    expect(await axeViolations(desk.page)).toEqual([]);
  });

  it('shows a time that is being booked, and gives it back when asked', async () => {
    const requested = await freeTime(desk.base, FOLLOW_UP, 0);
    const stranger = new Client(desk.base);
    dataOf(await stranger.call(placeHold, requested));
    await go(`/daybook/${requested.start.slice(0, 10)}`);
    const plate = await desk.page.waitForSelector(
      '::-p-xpath(//*[@data-plate][.//*[contains(@class, "sr-only")][contains(., "Being booked")]])',
    );
    await plate?.click();
    await seesText(desk.page, 'Held for an online booking');
    await press(desk.page, 'Release the time');
    await until(
      async () => (await desk.world.sql.query('select 1 from hold')).rows.length === 0,
      'the hold is given back',
    );
    expect((await new Client(desk.base).call(placeHold, requested)).status).toBe(200);
    await desk.world.sql.query('delete from hold');
  });

  it('discards what looks like one person by one press, and brings it back by one', async () => {
    const made: string[] = [];
    for (let n = 0; n < 4; n++)
      made.push((await bookedVisit(desk.base, n, { ...MARTA, givenName: `Fake ${n}`, contact: '(312) 555-0160' })).id);
    await go('/identity-review');
    await seesText(desk.page, '4 bookings look like they came from one person');
    await press(desk.page, 'Discard all 4');
    await seesText(desk.page, '4 bookings discarded');
    expect(new Set(await Promise.all(made.map(statusOf)))).toEqual(new Set(['cancelled']));
    await desk.page.waitForFunction(() => !document.body.innerText.includes('look like they came from one person'));
    await undoIt(desk.page);
    await seesText(desk.page, '4 bookings look like they came from one person');
    expect(new Set(await Promise.all(made.map(statusOf)))).toEqual(new Set(['booked']));
    expect(await axeViolations(desk.page)).toEqual([]);
  });

  it('approves and declines what waits in the second tab, with words and undo', async () => {
    await desk.world.sql.query("update online_policy set approval = 'all' where visit_type_id = $1", [TYPES.follow]);
    const first = await bookedVisit(desk.base, 5, { ...MARTA, givenName: 'Agreed', contact: '(312) 555-0161' });
    const second = await bookedVisit(desk.base, 7, { ...MARTA, givenName: 'Declined', contact: '(312) 555-0162' });
    await go('/identity-review?tab=approve');
    await seesText(desk.page, 'To approve (2)');
    expect(await axeViolations(desk.page)).toEqual([]);
    const within = (id: string, button: string) =>
      desk.page.$eval(
        `[data-request="${id}"]`,
        (article, label) => [...article.querySelectorAll('button')].find((each) => each.textContent === label)?.click(),
        button,
      );
    await within(first.id, 'Approve');
    await seesText(desk.page, 'Agreed Ruiz is booked and was told.');
    expect(await statusOf(first.id)).toBe('booked');
    // The list is fetched after the notice: undone before that, it would come and go under the next press.
    await seesText(desk.page, 'To approve (1)');
    await undoIt(desk.page);
    await seesText(desk.page, 'To approve (2)');
    await within(first.id, 'Approve');
    await seesText(desk.page, 'To approve (1)');

    await within(second.id, 'Decline');
    await press(desk.page, 'Decline and tell the patient');
    // Without words it is not sent, and stays open.
    expect(await statusOf(second.id)).toBe('pending');
    await fill(desk.page, 'Reason (sent to the patient)', 'Please call us first.');
    // Closed and opened again, it still says what was typed.
    await press(desk.page, 'Don’t decline');
    await within(second.id, 'Decline');
    await seesText(desk.page, 'Reason (sent to the patient)');
    await press(desk.page, 'Decline and tell the patient');
    await seesText(desk.page, 'Declined Ruiz was told, and the time is free again.');
    expect(await statusOf(second.id)).toBe('cancelled');
    await seesText(desk.page, 'Nothing is waiting for approval.');
    const { rows } = await desk.world.sql.query<{ body: string }>(
      "select body from message where appointment_id = $1 and kind = 'declined'",
      [second.id],
    );
    expect(rows[0].body).toContain('Please call us first.');
  });

  it('tells a patient whose booking waits that it does, and gives no calendar entry yet', async () => {
    const { id } = await bookedVisit(desk.base, 9, { ...MARTA, givenName: 'Waiting', contact: '(312) 555-0163' });
    const token = await until(async () => {
      const { rows } = await desk.world.sql.query<{ body: string }>(
        "select body from simulated.sms where number = '+13125550163' and body like '%/v/%'",
      );
      return /\/v\/([\w-]{16})(?![\w-])/.exec(rows[0]?.body ?? '')?.[1];
    }, 'the text');
    const { page } = await openPage(desk.browser, { ...DESK, width: 360, height: 760 });
    await page.goto(`${desk.base}/book/v/${token}`);
    await fill(page, 'Date of birth', '3/4/1987');
    await page.keyboard.press('Enter');
    await seesText(page, 'The clinic will review it');
    expect(await statusOf(id)).toBe('pending');
    expect(await axeViolations(page)).toEqual([]);
  });

  it.each(['2199-12-31', 'foo', '2026-02-31'])('says that there is no day %s, and leads to today', async (date) => {
    await go(`/daybook/${date}`);
    await seesText(desk.page, 'There is no such day');
    await press(desk.page, 'Open the Daybook of today');
    await desk.page.waitForSelector('[data-plate]');
  });

  it('sets what happens at night and how many codes go out, and says what can’t be', async () => {
    await go('/setup/clinic');
    await fill(desk.page, 'Codes per day, at most', '5');
    await press(desk.page, 'Save');
    await desk.page.waitForSelector('[aria-invalid="true"]');
    await fill(desk.page, 'Codes per day, at most', '450');
    await press(desk.page, 'Canada');
    await (await field(desk.page, 'Visit within 12 hours')).select('call');
    await press(desk.page, 'Save');
    await until(async () => {
      const { rows } = await desk.world.sql.query('select codes_per_day, urgent_at_night, text_countries from clinic');
      return rows[0].codes_per_day === 450 && rows[0].urgent_at_night === 'call' && rows[0].text_countries.length === 2;
    }, 'saved');
  });
});
