import {
  requestTimeOff,
  editSchedule,
  listTimeOffRequests,
  scheduleWeek,
  visitsToMove,
  type WireEdit,
} from '@zaguan/contracts/availability';
import { undo } from '@zaguan/contracts/undo';
import type { HTTPRequest, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, ROOMS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { axeViolations, press, seesText, undoIt } from '../fixtures/browser.ts';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { Effort } from '../fixtures/effort.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';
import type { World } from '../fixtures/world.ts';
import { cell, judged, openWeek } from '../pages/availability.ts';

/** A Monday far enough ahead that nothing is booked in its week. */
const QUIET = '2027-02-01';

describe('hours of several people, cover, and whom to call, on screen', () => {
  let world: World;
  let base: string;
  let page: Page;
  let errors: string[];
  let desk: Client;
  let place: Desk;
  beforeAll(async () => {
    place = await openDesk('hours_of_many', 'coordinator');
    ({ world, base, page, errors, api: desk } = place);
  });
  afterAll(() => place.close());

  /** Hours that hold from this date on. */
  const hoursFrom = async (from: string) =>
    dataOf(await desk.call(scheduleWeek, { from })).hours.filter((row) => (row.effectiveUntil ?? from) >= from);
  const hoursNow = () => hoursFrom(QUIET);

  it('changes the hours of several people in one form, each keeping what was not touched', async () => {
    const before = await hoursNow();
    const [mine] = before.filter((row) => row.subject.id === PROVIDERS.amaya && row.fromMinute === 480);
    const same = before.filter(
      (row) =>
        row.siteId === mine.siteId && row.fromMinute === 480 && row.toMinute === mine.toMinute && row.id !== mine.id,
    );
    expect(same.length).toBeGreaterThan(0);
    await openWeek(page, base, QUIET);
    const effort = new Effort(page);
    await effort.click(`${cell(SITES.canal, PROVIDERS.amaya, 1)} [data-stretch]`);
    await effort.press('These hours from Tue, Feb 2');
    await effort.type('Times', '8:30-12');
    // The impact of the new times comes under the pointer; a person waits for it, too.
    await judged(page);
    await effort.press('Change others in the same way');
    const all8 = `Choose ${same.length === 1 ? 'the' : 'all'} ${same.length}`;
    await effort.pressByKey(all8);
    await seesText(page, `And ${same.length} other`);
    await judged(page);
    expect(await axeViolations(page)).toEqual([]);
    await effort.press('Save');
    await seesText(page, 'Working hours changed.');
    expect(effort.count).toBeLessThanOrEqual(6);
    const from = '2027-02-08';
    const after = await hoursFrom(from);
    for (const was of [mine, ...same])
      expect(
        after.filter((row) => row.subject.id === was.subject.id && row.siteId === was.siteId && row.fromMinute === 510),
      ).toMatchObject([
        { toMinute: 720, weekdays: was.weekdays, accepts: was.accepts, online: was.online, caps: was.caps },
      ]);
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect((await hoursNow()).filter((row) => row.fromMinute === 510)).toEqual([]);
  });

  it('sets several limits and what unused time opens to, and names the one that can’t be read', async () => {
    await openWeek(page, base, QUIET);
    await page.click(`${cell(SITES.mesa, PROVIDERS.dray, 2)} [data-stretch]`);
    await press(page, 'These hours from today on');
    await press(page, 'What they accept');
    const effort = new Effort(page);
    await effort.type('Open to others from', '48');
    await effort.press('Add a limit');
    await effort.press('Add a limit');
    const inputs = await page.$$('[data-limit] input');
    await inputs[0].type('3');
    await inputs[1].type('two');
    await page.select('[data-limit="1"] select', 'new');
    await press(page, 'Save');
    await seesText(page, 'Write a number.');
    await inputs[1].click({ count: 3 });
    await inputs[1].type('1');
    await judged(page);
    await press(page, 'Save');
    await seesText(page, 'Working hours changed.');
    const [dray] = (await hoursNow()).filter((row) => row.subject.id === PROVIDERS.dray && row.fromMinute === 480);
    expect(dray.caps).toEqual([
      { visitTypeId: null, kind: null, max: 3 },
      { visitTypeId: null, kind: 'new', max: 1 },
    ]);
    expect(dray.release).toMatchObject({ beforeMin: 2880, online: true });
    await undoIt(page);
    await seesText(page, 'Undone.');
  });

  it('approves time off with the cover that was suggested, or says why that one can’t', async () => {
    const provider = await signedIn(base, 'provider');
    const span = { siteId: null, startDate: '2027-02-03', startMinute: 0, endDate: '2027-02-03', endMinute: 1440 };
    const asked = dataOf(
      await provider.call(requestTimeOff, { ...span, reason: 'Moving house', coverId: PROVIDERS.dray as never }),
    );
    await openWeek(page, base, QUIET);
    await press(page, 'Time-off requests');
    await seesText(page, 'Moving house');
    await press(page, 'Approve');
    await seesText(page, 'Whoever covers works elsewhere then.');
    const wednesday = (await hoursNow()).filter((row) => row.subject.id === PROVIDERS.dray && row.weekdays.includes(3));
    const free = wednesday.map(
      (row): WireEdit => ({
        do: 'end-hours',
        hoursId: row.id as never,
        version: row.version,
        reach: { of: 'date', date: '2027-02-03' },
      }),
    );
    const freed = dataOf(await desk.call(editSchedule, { edits: free, agreed: true }));
    await press(page, 'Approve');
    await seesText(page, 'Approved. It’s in effect now.');
    await page.waitForFunction(
      (selector) => document.querySelector(selector)?.getAttribute('aria-label')?.includes('8:00 am'),
      {},
      cell(SITES.canal, PROVIDERS.dray, 2),
    );
    await undoIt(page);
    await seesText(page, 'Undone.');
    expect(dataOf(await desk.call(listTimeOffRequests, {})).requests.map(({ id }) => id)).toEqual([asked.id]);
    dataOf(await desk.call(undo, { id: freed.undo.id }));
    dataOf(await provider.call(undo, { id: asked.undo.id }));
  });

  it('puts a room out of use, and keeps its visits at their times in another one', async () => {
    await openWeek(page, base, '2026-11-30');
    await press(page, 'Time off');
    await press(page, 'Rooms and devices');
    await press(page, 'Skin-test room 1, Canal Row');
    await judged(page);
    await seesText(page, 'no longer fit');
    await press(page, 'Save, then move');
    await page.waitForSelector('[data-visit]');
    const waiting = dataOf(await desk.call(visitsToMove, {})).visits;
    const stays = waiting.filter(
      ({ start, proposed, providerId }) => proposed?.start === start && proposed.providerId === providerId,
    );
    expect(stays.length).toBeGreaterThan(0);
    await seesText(page, 'with another room or nurse');
    // What others change meanwhile is being fetched: that takes no press away.
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    let asked = false;
    const holdUp = async (request: HTTPRequest) => {
      const list = request.url().endsWith(visitsToMove.path);
      asked ||= list;
      if (list) await held;
      await request.continue();
    };
    await page.setRequestInterception(true);
    page.on('request', holdUp);
    const [anyHours] = await hoursNow();
    const far: WireEdit = {
      do: 'end-hours',
      hoursId: anyHours.id as never,
      version: anyHours.version,
      reach: { of: 'from', date: '2028-12-04' },
    };
    const ended = dataOf(await desk.call(editSchedule, { edits: [far], agreed: true }));
    await until(async () => asked, 'the list is fetched again');
    await press(page, 'Review and move all');
    await press(page, `Move ${waiting.length} visits`);
    letGo();
    await seesText(page, 'No visit waits to be moved.');
    page.off('request', holdUp);
    await page.setRequestInterception(false);
    dataOf(await desk.call(undo, { id: ended.undo.id }));
    const { rows } = await world.sql.query(
      'select count(*)::int as n from occupancy o join appointment a on a.id = o.appointment_id where a.id = any($1) and o.resource_id = $2',
      [stays.map(({ appointmentId }) => appointmentId), ROOMS[0]],
    );
    expect(rows[0].n).toBe(0);
  });

  it('shows whom no message reached, with the number, and takes down how the call ended', async () => {
    const { requested } = await bookedVisit(base, 3);
    const day = requested.start.slice(0, 10);
    const close: WireEdit = {
      do: 'close-site',
      siteId: SITES.canal,
      reason: 'Water',
      startDate: day,
      startMinute: 0,
      endDate: day,
      endMinute: 1440,
    };
    dataOf(await desk.call(editSchedule, { edits: [close], agreed: true, tell: true }));
    const list = async () => dataOf(await desk.call(visitsToMove, {})).visits;
    const untold = (await list()).filter(({ told }) => !told);
    expect(untold.length).toBeGreaterThan(0);
    await page.goto(`${base}/availability/visits-to-move`);
    await page.waitForSelector('[data-visit]');
    await press(page, `Needs a call (${untold.length})`);
    await page.waitForFunction((n) => document.querySelectorAll('[data-visit]').length === n, {}, untold.length);
    expect(await axeViolations(page)).toEqual([]);
    const [first] = untold;
    const row = `[data-visit="${first.appointmentId}"]`;
    const callEnded = async (words: string) => {
      // The list comes anew after each call: what is pressed must stand still.
      await page.locator(`${row} button[aria-label*="How the call"]`).click();
      await page.locator(`[role="menuitem"] ::-p-text(${words})`).click();
    };
    await callEnded('No answer');
    await seesText(page, 'Noted.');
    await page.waitForFunction(
      (selector) => document.querySelector(selector)?.textContent?.includes('No answer,'),
      {},
      row,
    );
    await callEnded('Spoke with them');
    await page.waitForFunction((selector) => !document.querySelector(selector), {}, row);
    expect((await list()).find(({ appointmentId }) => appointmentId === first.appointmentId)?.call?.outcome).toBe(
      'spoke',
    );
    // Another site is among what can be chosen, by name.
    await press(page, 'Needs a call');
    await page.waitForSelector(row);
    const options = await page.$$eval('[data-visit] select[aria-label^="Another time"] option', (all) =>
      all.map((each) => each.textContent),
    );
    expect(options.some((text) => text?.includes('Mesa Court'))).toBe(true);
    expect(errors).toEqual([]);
  });

  it('moves those that are marked, once their patients’ messages were read, and takes it back a reload later', async () => {
    const list = async () => dataOf(await desk.call(visitsToMove, {})).visits;
    const [told] = (await list()).filter((visit) => visit.told && visit.proposed);
    // One's own change put it here; for somebody else it is another's.
    expect(told.mine).toBe(true);
    const manager = await signedIn(base, 'manager');
    expect(dataOf(await manager.call(visitsToMove, {})).visits.map(({ mine }) => mine)).not.toContain(true);
    await page.goto(`${base}/availability/visits-to-move`);
    const row = `[data-visit="${told.appointmentId}"]`;
    await (await page.waitForSelector(`${row} input[type="checkbox"]`))?.click();
    await press(page, 'Review and move 1 marked visit');
    await page.waitForSelector(`[data-review="${told.appointmentId}"]`);
    await seesText(page, 'your appointment has a new time');
    await seesText(page, '1 text goes out');
    expect(await axeViolations(page)).toEqual([]);
    expect((await list()).map(({ appointmentId }) => appointmentId)).toContain(told.appointmentId);
    await press(page, 'Move 1 visit');
    await page.waitForFunction((selector) => !document.querySelector(selector), {}, row);
    await page.reload();
    await seesText(page, 'You moved 1 visit at');
    await page.click('section[aria-label="What you moved in the last day"] button');
    await page.waitForSelector(row);
    expect((await list()).map(({ appointmentId }) => appointmentId)).toContain(told.appointmentId);
    expect(errors).toEqual([]);
  });

  it('finds another time for a visit by day, site and person, the next day with any, and the usual steps first', async () => {
    const { id, requested } = await bookedVisit(base, 9);
    const day = requested.start.slice(0, 10);
    await page.goto(`${base}/daybook/${day}?visit=${id}`);
    await press(page, 'Move');
    await page.waitForSelector('[data-move-to]');
    const offered = () =>
      page.$$eval('[data-move-to]', (all) =>
        all.map((each) => new Date(each.getAttribute('data-move-to') ?? '').getUTCMinutes()),
      );
    const usual = await offered();
    expect(usual.every((minute) => minute % 10 === 0)).toBe(true);
    await press(page, 'Also');
    await page.waitForFunction((n) => document.querySelectorAll('[data-move-to]').length > n, {}, usual.length);
    expect((await offered()).some((minute) => minute % 10 !== 0)).toBe(true);
    // Nobody works on a Sunday.
    await page.$eval('input[name="moveDay"]', (each) => each.focus());
    await page.keyboard.type('12132026');
    await press(page, 'Next day with times: Mon, Dec 14');
    await page.waitForSelector('[data-move-to]');
    const form = new Effort(page);
    await form.choose('With', 'Teo Lund');
    await page.waitForFunction(() => {
      const names = [...document.querySelectorAll('section[aria-label="Move to another time"] p.text-muted')];
      return (
        names.some((each) => each.textContent?.includes('Lund')) &&
        !names.some((each) => each.textContent?.includes('Amaya'))
      );
    });
    expect(await axeViolations(page)).toEqual([]);
    expect(errors).toEqual([]);
  });
});
