import { addDays } from '@zaguan/core/time';
import { cancelVisit } from '@zaguan/contracts/booking';
import { putOnBench } from '@zaguan/contracts/desk';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import type { HTTPRequest } from 'puppeteer-core';
import { axeViolations, DESK, fill, openPage, orSay, press, seesText } from '../fixtures/browser.ts';
import { dataOf } from '../fixtures/client.ts';
import { type Desk, openDesk } from '../fixtures/desk.ts';
import { until } from '../fixtures/until.ts';
import { TEST_DAY } from '../fixtures/world.ts';

const TOMORROW = addDays(TEST_DAY, 1);

const REFUSED = JSON.stringify({ error: { tag: 'NotAllowed', requestId: 'r', facts: {} } });

interface Row {
  id: string;
  start: string;
  version: number;
}

describe('a visit dragged over the Daybook', () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await openDesk('drag_visit', 'coordinator');
  });
  afterAll(() => desk.close());
  afterEach(async () => {
    // What a failed test still holds.
    await desk.page.mouse.reset();
  });
  beforeEach(() => open(TOMORROW));

  const open = async (date: string) => {
    await desk.page.goto(`${desk.base}/daybook/${date}?site=${SITES.canal}`);
    await desk.page.waitForSelector('[data-plate][data-status="booked"]');
    await desk.page.waitForFunction(() => !document.querySelector('[data-site][aria-busy="true"]'));
  };
  const rows = async (where = 'true') =>
    (
      await desk.world.sql.query<Row>(
        `select id, starts_at as start, version from appointment where site_id = $1 and site_date = $2 and status = 'booked'
           and provider_id = $3 and group_id is null and ${where} order by starts_at`,
        [SITES.canal, TOMORROW, PROVIDERS.amaya],
      )
    ).rows.map((row) => ({ ...row, start: new Date(row.start).toISOString() }));
  const startOf = async (id: string) =>
    new Date(
      (await desk.world.sql.query('select starts_at as start from appointment where id = $1', [id])).rows[0].start,
    ).toISOString();
  const LANE = `[data-lane="${SITES.canal}:${PROVIDERS.amaya}"]`;
  const plate = (id: string) => `${LANE} [data-plate="${id}"]`;
  /** The place of an element on the page: its left edge and its middle's height. */
  const placeOf = (selector: string) =>
    desk.page.$eval(selector, (each) => {
      const { left, top, height } = each.getBoundingClientRect();
      return { x: left, y: top + height / 2 };
    });
  /** Picks a visit up by its beginning, so that the pointer stands where the start does. */
  const pickUp = async (id: string) => {
    const { x, y } = await placeOf(plate(id));
    await desk.page.mouse.move(x + 4, y);
    await desk.page.mouse.down();
    await desk.page.mouse.move(x + 14, y, { steps: 3 });
    await desk.page.waitForSelector('[data-dragged]');
    await desk.page.waitForSelector(`${LANE} [data-fits-from]`);
  };
  const verdict = (is: string) => orSay(desk.page, desk.page.waitForSelector(`[data-drop-at][data-verdict="${is}"]`));
  const calls = () => {
    const seen: string[] = [];
    const note = (request: { url(): string }) => {
      if (request.url().includes('/api/') && !request.url().includes('/api/events')) seen.push(request.url());
    };
    desk.page.on('request', note);
    return { seen, stop: () => desk.page.off('request', note) };
  };

  it('lights every place where it fits, asks nothing of the server from move to move, and goes where it is put', async () => {
    const [row] = await rows();
    const asked = calls();
    await pickUp(row.id);
    const from = (await desk.page.$$eval(`${LANE} [data-fits-from]`, (all) =>
      all.map((each) => Number((each as HTMLElement).dataset.fitsFrom)),
    )) as number[];
    const to = from.find((minute) => minute * 60_000 !== Date.parse(row.start)) ?? 0;
    const { x, y } = await placeOf(`${LANE} [data-fits-from="${to}"]`);
    await desk.page.mouse.move(x + 5, y, { steps: 60 });
    await verdict('fits');
    await seesText(desk.page, 'Fits here');
    expect(asked.seen.filter((url) => url.includes('move-snapshot'))).toHaveLength(1);
    expect(asked.seen).toHaveLength(1);
    asked.stop();
    await desk.page.mouse.up();
    await seesText(desk.page, 'Undo');
    const moved = Date.parse(await startOf(row.id)) / 60_000;
    expect(Math.abs(moved - to)).toBeLessThanOrEqual(5);
    // Nothing opened: putting down is no click.
    expect(new URL(desk.page.url()).searchParams.get('visit')).toBeNull();
    await press(desk.page, 'Undo');
    await until(async () => (await startOf(row.id)) === row.start, 'taken back');
  });

  it('says why it can’t be put somewhere, and puts it there with a reason', async () => {
    const [row, other] = await rows();
    await pickUp(row.id);
    const { x, y } = await placeOf(plate(other.id));
    await desk.page.mouse.move(x + 5, y, { steps: 10 });
    await verdict('refused');
    await seesText(desk.page, 'Drop here to move anyway');
    await desk.page.mouse.up();
    await seesText(desk.page, 'this time breaks a rule');
    expect(await axeViolations(desk.page)).toEqual([]);
    expect(await startOf(row.id)).toBe(row.start);
    await press(desk.page, 'Move anyway');
    await desk.page.waitForSelector('[role="dialog"] [aria-invalid="true"]');
    await desk.page.type('[name="waive.reason"]', 'They are sisters');
    await press(desk.page, 'Move anyway');
    await until(async () => (await startOf(row.id)) === other.start, 'moved against the rule');
    await press(desk.page, 'Undo');
    await until(async () => (await startOf(row.id)) === row.start, 'taken back');
  });

  it('stays where it was at Escape, and where it is put down on what is over', async () => {
    const [row] = await rows();
    await pickUp(row.id);
    await desk.page.keyboard.press('Escape');
    await desk.page.waitForFunction(() => !document.querySelector('[data-dragged]'));
    await desk.page.mouse.up();
    expect(await startOf(row.id)).toBe(row.start);
  });

  it('is dragged by keys alone: picked up, to the next place that fits, put down', async () => {
    const [row] = await rows();
    await desk.page.focus(plate(row.id));
    await desk.page.keyboard.press('m');
    await desk.page.waitForSelector('[data-dragged]');
    await desk.page.keyboard.press('ArrowRight');
    await desk.page.waitForSelector(`${LANE} [data-fits-from]`);
    await desk.page.waitForSelector('[data-drop-at]:not([data-verdict="asking"])');
    await desk.page.keyboard.down('Shift');
    await desk.page.keyboard.press('ArrowRight');
    await desk.page.keyboard.up('Shift');
    await verdict('fits');
    await desk.page.keyboard.press('Enter');
    await seesText(desk.page, 'Undo');
    expect(Date.parse(await startOf(row.id))).toBeGreaterThan(Date.parse(row.start));
    await press(desk.page, 'Undo');
    await until(async () => (await startOf(row.id)) === row.start, 'taken back');
  });

  it('comes to another day that it is held over, and is put down there', async () => {
    const [row] = await rows(`visit_type_id = '${TYPES.follow}'`);
    const next = addDays(TOMORROW, 1);
    await pickUp(row.id);
    const chip = await placeOf(`[data-drop-day="${next}"]`);
    await desk.page.mouse.move(chip.x + 20, chip.y, { steps: 6 });
    await desk.page.waitForFunction((date) => location.pathname.endsWith(date), {}, next);
    await orSay(desk.page, desk.page.waitForSelector(`[data-day-start^="${next}"] ${LANE} [data-hours]`));
    // The first place of the other day that is lit, with whomever.
    const { x, y } = await placeOf(`${LANE} [data-hours]`);
    await desk.page.mouse.move(x + 40, y, { steps: 6 });
    await orSay(desk.page, desk.page.waitForSelector('[data-fits-from]'));
    const lit = await placeOf('[data-fits-from]');
    await desk.page.mouse.move(lit.x + 5, lit.y, { steps: 6 });
    await verdict('fits');
    await desk.page.mouse.up();
    await until(async () => (await startOf(row.id)) !== row.start, 'moved');
    expect((await startOf(row.id)).slice(0, 10)).toBe(next);
    await press(desk.page, 'Undo');
    await until(async () => (await startOf(row.id)) === row.start, 'taken back');
  });

  it('goes onto the Bench and keeps its time', async () => {
    const [row] = await rows();
    await pickUp(row.id);
    const { x, y } = await placeOf('[data-drop-bench]');
    await desk.page.mouse.move(x + 20, y, { steps: 6 });
    await desk.page.waitForSelector('[data-drop-bench][data-under]');
    await desk.page.mouse.up();
    await seesText(desk.page, 'Undo');
    const { rows: benched } = await desk.world.sql.query(
      'select 1 from unplaced_visit where appointment_id = $1 and ended_at is null',
      [row.id],
    );
    expect(benched).toHaveLength(1);
    expect(await startOf(row.id)).toBe(row.start);
    await press(desk.page, 'Undo');
  });

  it('keeps the focus on what is dragged, and is dragged on the lane of its room, where it stays with its provider', async () => {
    await desk.page.goto(`${desk.base}/daybook/${TOMORROW}?site=${SITES.canal}&lanes=places`);
    await orSay(desk.page, desk.page.waitForSelector('[data-plate][data-status="booked"]'));
    const inRooms = await desk.page.$$eval('[data-plate][data-status="booked"]', (all) =>
      all.map((each) => (each as HTMLElement).dataset.plate),
    );
    const row = (await rows()).find(({ id }) => inRooms.includes(id));
    if (!row) throw new Error('No visit of theirs takes a room.');
    const inRoom = `[data-plate="${row.id}"]`;
    await desk.page.focus(inRoom);
    await desk.page.keyboard.press('m');
    await desk.page.waitForSelector('[data-dragged]');
    await desk.page.keyboard.press('ArrowRight');
    await desk.page.waitForSelector('[data-drop-at]:not([data-verdict="asking"])');
    expect(await desk.page.evaluate(() => document.activeElement?.getAttribute('data-plate'))).toBe(row.id);
    await desk.page.waitForSelector('[data-fits-from]');
    await desk.page.keyboard.down('Shift');
    await desk.page.keyboard.press('ArrowRight');
    await desk.page.keyboard.up('Shift');
    await verdict('fits');
    await desk.page.keyboard.press('Enter');
    await until(async () => (await startOf(row.id)) > row.start, 'moved');
    const { rows: now } = await desk.world.sql.query('select provider_id as provider from appointment where id = $1', [
      row.id,
    ]);
    expect(now).toEqual([{ provider: PROVIDERS.amaya }]);
    await press(desk.page, 'Undo');
    await until(async () => (await startOf(row.id)) === row.start, 'taken back');
  });

  it('is dragged by a finger that holds it, and scrolls under one that does not', async () => {
    const [row] = await rows(`visit_type_id = '${TYPES.follow}'`);
    const { x, y } = await placeOf(plate(row.id));
    await desk.page.touchscreen.touchStart(x + 6, y);
    await desk.page.touchscreen.touchMove(x + 60, y);
    await desk.page.touchscreen.touchEnd();
    expect(await desk.page.$('[data-dragged]')).toBeNull();
    await desk.page.touchscreen.touchStart(x + 6, y);
    await desk.page.waitForSelector('[data-dragged]');
    await desk.page.waitForSelector(`${LANE} [data-fits-from]`);
    await desk.page.touchscreen.touchMove(x + 40, y);
    await desk.page.waitForSelector('[data-drop-at]');
    await desk.page.keyboard.press('Escape');
    await desk.page.touchscreen.touchEnd();
    await desk.page.waitForFunction(() => !document.querySelector('[data-dragged]'));
    expect(await startOf(row.id)).toBe(row.start);
  });

  it('asks once, and says so, where what it depends on can’t be had', async () => {
    const [row] = await rows();
    let asked = 0;
    await desk.page.setRequestInterception(true);
    const refuse = (request: HTTPRequest) => {
      if (!request.url().includes('move-snapshot')) return void request.continue();
      asked++;
      void request.respond({ status: 403, contentType: 'application/json', body: REFUSED });
    };
    desk.page.on('request', refuse);
    try {
      const { x, y } = await placeOf(plate(row.id));
      await desk.page.mouse.move(x + 4, y);
      await desk.page.mouse.down();
      await desk.page.mouse.move(x + 160, y, { steps: 20 });
      await verdict('elsewhere');
      await desk.page.mouse.up();
      expect(asked).toBe(1);
      expect(await startOf(row.id)).toBe(row.start);
    } finally {
      desk.page.off('request', refuse);
      await desk.page.setRequestInterception(false);
    }
  });

  it('comes from the Bench: one that keeps its time is moved, one without a time is booked where it is dropped', async () => {
    const { page } = desk;
    const [keeps, freed] = await rows();
    const bench = async (row: Row, freeNow: boolean) =>
      dataOf(
        await desk.api.call(putOnBench, {
          ...{ appointmentId: row.id as never, version: row.version, freeNow, note: '' },
        }),
      );
    const { id: keepsId } = await bench(keeps, false);
    const { id: freedId } = await bench(freed, true);
    await open(TOMORROW);
    await press(page, '▸ 2 on the Bench');
    const drop = async (benchId: string) => {
      const chip = await placeOf(`[data-bench-chip="${benchId}"]`);
      await page.mouse.move(chip.x + 6, chip.y);
      await page.mouse.down();
      await page.mouse.move(chip.x + 12, chip.y - 30, { steps: 4 });
      await page.waitForSelector('[data-dragged]');
      await page.waitForSelector(`${LANE} [data-fits-from]`);
      const lit = (await page.$$eval(`${LANE} [data-fits-from]`, (all) =>
        all.map((each) => Number((each as HTMLElement).dataset.fitsFrom)),
      )) as number[];
      const to = lit.find((minute) => minute * 60_000 !== Date.parse(keeps.start)) ?? 0;
      const target = await placeOf(`${LANE} [data-fits-from="${to}"]`);
      await page.mouse.move(target.x + 8, target.y, { steps: 30 });
      await verdict('fits');
      await page.mouse.up();
      return to;
    };
    const to = await drop(keepsId);
    await until(async () => Math.abs(Date.parse(await startOf(keeps.id)) / 60_000 - to) <= 5, 'moved off the Bench');
    // Moved, it waits no longer.
    await seesText(page, '1 on the Bench');
    await drop(freedId);
    await page.waitForFunction(() => window.location.search.includes('book='));
    await seesText(page, 'Kept for you');
    await page.keyboard.press('Escape');
  });

  it('is dragged by nobody who may not move visits', async () => {
    const reader = await openPage(desk.browser, DESK);
    await reader.page.goto(desk.base);
    await press(reader.page, 'Read-only');
    await reader.page.waitForSelector('nav');
    await reader.page.goto(`${desk.base}/daybook/${TOMORROW}?site=${SITES.canal}`);
    const found = await reader.page.waitForSelector('[data-plate][data-status="booked"]');
    const box = await found?.boundingBox();
    if (!box) throw new Error('The visit has no place.');
    await reader.page.mouse.move(box.x + 4, box.y + 8);
    await reader.page.mouse.down();
    await reader.page.mouse.move(box.x + 60, box.y + 8, { steps: 6 });
    expect(await reader.page.$('[data-dragged]')).toBeNull();
    await reader.page.mouse.up();
  });

  it('is pulled longer and shorter by its end, which says what stands against more', async () => {
    const [row] = await rows(`visit_type_id = '${TYPES.follow}'`);
    const next = (await rows()).find(({ start }) => start > row.start);
    if (!next) throw new Error('Nothing comes after it.');
    const { page } = desk;
    const minutes = async () =>
      (
        await desk.world.sql.query(
          'select (extract(epoch from ends_at - starts_at) / 60)::int as n from appointment where id = $1',
          [row.id],
        )
      ).rows[0].n;
    const before = await minutes();
    const pxPerMin = await page.$eval('[data-px-per-min]', (each) => Number((each as HTMLElement).dataset.pxPerMin));
    const { x, y } = await placeOf(plate(row.id));
    const barLeft = await page.$eval(plate(row.id), (each) => Number((each as HTMLElement).dataset.barLeft));
    const end = x + barLeft + before * pxPerMin - 4;
    await page.mouse.move(end, y);
    await page.waitForFunction(
      (selector) => (document.querySelector(selector) as HTMLElement).style.cursor === 'ew-resize',
      {},
      plate(row.id),
    );
    const pull = async (by: number, is: string) => {
      await page.mouse.move(end, y);
      await page.mouse.down();
      await page.mouse.move(end + by * pxPerMin, y, { steps: 6 });
      await page.waitForSelector('[data-dragged]');
      await verdict(is);
    };
    // Into the next visit: the rule is named, and at Escape it is as long as it was.
    const into = (Date.parse(next.start) - Date.parse(row.start)) / 60_000 + 10 - before;
    await pull(into, 'refused');
    await seesText(page, 'Drop here to move anyway');
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[data-dragged]'));
    await page.mouse.up();
    expect(await minutes()).toBe(before);
    await pull(-5, 'fits');
    await page.mouse.up();
    await seesText(page, `takes ${before - 5} minutes`);
    expect([await minutes(), await startOf(row.id)]).toEqual([before - 5, row.start]);
    await press(page, 'Undo');
    await until(async () => (await minutes()) === before, 'as long as before');
  });

  it('is made longer or shorter in its panel, says what stands against more, and is taken back', async () => {
    const [row] = await rows(`visit_type_id = '${TYPES.follow}'`);
    const minutes = async () =>
      (
        await desk.world.sql.query(
          'select (extract(epoch from ends_at - starts_at) / 60)::int as n from appointment where id = $1',
          [row.id],
        )
      ).rows[0].n;
    const before = await minutes();
    await desk.page.goto(`${desk.base}/daybook/${TOMORROW}?site=${SITES.canal}&visit=${row.id}`);
    await press(desk.page, 'Length…');
    await fill(desk.page, 'Minutes', '3');
    await press(desk.page, 'Change length');
    await desk.page.waitForSelector('aside [aria-invalid="true"]');
    // Longer than the day has room for: the rule is named, and what was typed stays.
    await fill(desk.page, 'Minutes', '600');
    await press(desk.page, 'Change length');
    await desk.page.waitForSelector('aside [role="alert"], aside [aria-live="assertive"]');
    expect(await minutes()).toBe(before);
    await fill(desk.page, 'Minutes', String(before - 5));
    await press(desk.page, 'Change length');
    await seesText(desk.page, `${before - 5} minutes now`);
    expect(await minutes()).toBe(before - 5);
    await press(desk.page, 'Undo');
    await until(async () => (await minutes()) === before, 'taken back');
  });

  it('says so where somebody else canceled it meanwhile', async () => {
    const [row] = (await rows()).slice(-1);
    await pickUp(row.id);
    dataOf(await desk.api.call(cancelVisit, { id: row.id, version: row.version, reason: 'other', note: '' } as never));
    const lit = await placeOf(`${LANE} [data-fits-from]`);
    await desk.page.mouse.move(lit.x + 5, lit.y, { steps: 6 });
    await verdict('fits');
    await desk.page.mouse.up();
    await seesText(desk.page, 'changed');
    expect(desk.errors).toEqual([]);
  });
});
