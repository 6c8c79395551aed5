import type { CDPSession, Page } from 'puppeteer-core';
import { bookHeld, placeHold } from '@zaguan/contracts/booking';
import { publicDays } from '@zaguan/contracts/openings';
import pg from 'pg';
import { DESK, openPage, PHONE, press, startBrowser } from '../../e2e/src/fixtures/browser.ts';
import { dataOf } from '../../e2e/src/fixtures/client.ts';
import { legibleNames } from '../../e2e/src/fixtures/legibility.ts';
import { MARTA, provedBrowser } from '../../e2e/src/fixtures/patient.ts';
import { toWhen } from '../../e2e/src/pages/patientPages.ts';
import { bookingPanel } from './browserBooking.ts';
import { dragging, litAfter } from './browserDrag.ts';
import { BENCH_DAY, benchServer, demoDatabase } from './clinicDatabase.ts';
import { median, percentile, type Result, rounded } from './measure.ts';

interface TraceEvent {
  readonly name: string;
  readonly ts: number;
  readonly dur?: number;
  /** What of it the thread really ran: the software renderer's own threads share the processors. */
  readonly tdur?: number;
  readonly pid: number;
  readonly tid: number;
  readonly args?: { readonly data?: { readonly type?: string }; readonly name?: string };
}

const busyMs = ({ tdur, dur = 0 }: TraceEvent) => (tdur ?? dur) / 1000;

const STEPS = 150;
const PAUSE_MS = 40;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Main-thread work for each input of a kind, and the longest task, in milliseconds, from the browser's own trace. */
async function traced(page: Page, type: 'mousemove' | 'wheel', act: () => Promise<void>) {
  await page.tracing.start({ categories: ['devtools.timeline', 'disabled-by-default-devtools.timeline'] });
  await act();
  const raw = await page.tracing.stop();
  if (!raw) throw new Error('The browser gave no trace.');
  const { traceEvents } = JSON.parse(Buffer.from(raw).toString('utf8')) as { traceEvents: TraceEvent[] };
  const inputs = traceEvents
    .filter((event) => event.name === 'EventDispatch' && event.args?.data?.type === type)
    .sort((a, b) => a.ts - b.ts);
  if (inputs.length < STEPS / 3) throw new Error(`Only ${inputs.length} inputs stand in the trace.`);
  const { pid, tid } = inputs[0];
  const tasks = traceEvents
    .filter((event) => event.pid === pid && event.tid === tid && event.dur && event.name === 'RunTask')
    .sort((a, b) => a.ts - b.ts);
  // The task that dispatched an input began a moment before it; each task belongs to one input.
  const starts = inputs.map((input) => tasks.filter((task) => task.ts <= input.ts).at(-1)?.ts ?? input.ts);
  const work = starts.map((from, i) => {
    const until = starts[i + 1] ?? from + PAUSE_MS * 1000;
    return tasks.reduce((sum, task) => (task.ts >= from && task.ts < until ? sum + busyMs(task) : sum), 0);
  });
  return { p95: percentile(work, 0.95), longest: Math.max(...tasks.map(busyMs)) };
}

/** The middle of three rounds, so that what else runs on the machine for a moment does not count; the longest task of all. */
async function middleOfThree(page: Page, type: 'mousemove' | 'wheel', act: () => Promise<void>) {
  const rounds = [];
  for (let i = 0; i < 3; i++) rounds.push(await traced(page, type, act));
  return { p95: median(rounds.map(({ p95 }) => p95)), longest: Math.max(...rounds.map(({ longest }) => longest)) };
}

async function pointer(page: Page): Promise<void> {
  for (let i = 0; i < STEPS; i++) {
    await page.mouse.move(250 + ((i * 37) % 1000), 120 + ((i * 13) % 640));
    await pause(PAUSE_MS);
  }
}

async function wheel(page: Page, cdp: CDPSession): Promise<void> {
  const { width, height } = page.viewport() ?? DESK;
  for (let i = 0; i < STEPS; i++) {
    await cdp.send('Input.dispatchMouseEvent', {
      type: 'mouseWheel',
      x: width / 2,
      y: height / 2,
      deltaX: 0,
      deltaY: i % 40 < 20 ? 60 : -60,
    });
    await pause(PAUSE_MS);
  }
}

/** Milliseconds from the last byte of a day's data to the frame in which its plates are painted. */
async function paintedAfterData(page: Page): Promise<number> {
  return page.evaluate(async () => {
    performance.clearResourceTimings();
    const title = document.querySelector('h1')?.textContent;
    const painted = new Promise<number>((resolve) => {
      const look = () => {
        // On a day off there are no plates: the page then says so.
        if (document.querySelector('h1')?.textContent !== title && document.querySelector('section[aria-busy="false"]'))
          requestAnimationFrame(() => setTimeout(() => resolve(performance.now()), 0));
        else requestAnimationFrame(look);
      };
      look();
    });
    document.dispatchEvent(new KeyboardEvent('keydown', { key: '.' }));
    const at = await painted;
    const data = performance
      .getEntriesByType('resource')
      .filter(({ name }) => name.includes('/api/daybook/')) as PerformanceResourceTiming[];
    return at - Math.max(...data.map(({ responseEnd }) => responseEnd));
  });
}

/** Milliseconds from a patient's last click (their booking sent) to its plate painted in an open Daybook. */
async function live(page: Page, base: string, sql: pg.Pool, times: number): Promise<number[]> {
  const { rows } = await sql.query<{ site: string; type: string }>(
    `select s.id as site, t.id as type from site s, visit_type t where t.name = 'Follow-up' order by s.sort_order limit 1`,
  );
  const criteria = { siteId: rows[0].site, visitTypeId: rows[0].type, kind: 'established' as const };
  const client = await provedBrowser(base, MARTA.contact, sql);
  const took: number[] = [];
  for (let i = 0; i < times; i++) {
    const { first } = dataOf(await client.call(publicDays, criteria));
    if (!first) throw new Error('There is no time left to book.');
    const requested = { ...criteria, ...first };
    const { hold } = dataOf(await client.call(placeHold, requested));
    const date = new Intl.DateTimeFormat('en-CA', { timeZone: 'America/Chicago' }).format(new Date(first.start));
    if (!page.url().includes(date)) {
      await page.goto(`${base}/daybook/${date}?site=all`);
      await page.waitForSelector('html[data-live="open"] [data-plate]');
    }
    // The plate's own id is known only with the answer; the page notes every new plate with its time of painting.
    await page.evaluate(() => {
      const seen = new Map<string, number>();
      Object.assign(window, { seenPlates: seen });
      const look = () => {
        for (const plate of document.querySelectorAll('[data-plate]')) {
          const id = plate.getAttribute('data-plate') ?? '';
          if (!seen.has(id)) seen.set(id, performance.timeOrigin + performance.now());
        }
        if ((window as unknown as { seenPlates: unknown }).seenPlates === seen) requestAnimationFrame(look);
      };
      look();
    });
    const sent = Date.now();
    const { visit } = dataOf(
      await client.call(bookHeld, {
        holdId: hold.id,
        requested,
        language: 'en',
        person: { ...MARTA, reason: `n ${i}` },
      }),
    );
    await page.waitForSelector(`[data-plate="${visit.id}"]`);
    await pause(20);
    const at = await page.evaluate(
      (id) => (window as unknown as { seenPlates: Map<string, number> }).seenPlates.get(id) ?? 0,
      visit.id,
    );
    took.push(at - sent);
  }
  return took;
}

/** What the pages cost the browser's main thread at the demo clinic's full density, and how soon a booking is seen. */
export async function browser(serverUrl: string): Promise<Result> {
  const url = await demoDatabase(serverUrl);
  const server = await benchServer(url);
  const running = await startBrowser();
  const sql = new pg.Pool({ connectionString: url, max: 2 });
  try {
    const { page } = await openPage(running, DESK);
    // The loader names functions by a helper of its own, which a page does not have.
    await page.evaluateOnNewDocument('globalThis.__name = (each) => each');
    await page.goto(server.url);
    await press(page, 'Coordinator');
    await page.waitForSelector('[data-plate]');
    // As much as there is: all sites.
    await page.goto(`${server.url}/daybook?site=all`);
    await page.waitForSelector('[data-plate]');
    await pause(500);
    const cdp = await page.createCDPSession();
    const moves = await middleOfThree(page, 'mousemove', () => pointer(page));
    const scrolls = await middleOfThree(page, 'wheel', () => wheel(page, cdp));
    // A day on which nobody has come yet.
    await page.keyboard.press('.');
    await page.waitForSelector('[data-plate][data-status="booked"]');
    await pause(1500);
    const lit = await litAfter(page);
    const drags = await middleOfThree(page, 'mousemove', () => dragging(page, () => pointer(page)));
    const painted: number[] = [];
    for (let i = 0; i < 20; i++) painted.push(await paintedAfterData(page));
    await page.goto(`${server.url}/daybook/${BENCH_DAY}?site=all`);
    await page.waitForSelector('[data-plate]');
    await pause(500);
    const names = await legibleNames(page);
    const seen = await live(page, server.url, sql, 100);
    const booking = await bookingPanel(page, server.url, sql);
    const { page: phone } = await openPage(running, PHONE);
    await toWhen(phone, server.url);
    const phoneScrolls = await middleOfThree(phone, 'wheel', async () => wheel(phone, await phone.createCDPSession()));
    return {
      pointerP95Ms: rounded(moves.p95),
      dragP95Ms: rounded(drags.p95),
      dragLitMs: rounded(median(lit)),
      dragLitP95Ms: rounded(percentile(lit, 0.95)),
      scrollP95Ms: rounded(scrolls.p95),
      bookingScrollP95Ms: rounded(phoneScrolls.p95),
      longestTaskMs: rounded(Math.max(moves.longest, drags.longest, scrolls.longest, phoneScrolls.longest)),
      platesPaintedP95Ms: rounded(percentile(painted, 0.95)),
      livePlateP95Ms: rounded(percentile(seen, 0.95)),
      bookPanelMs: rounded(median(booking.panel)),
      bookPanelP95Ms: rounded(percentile(booking.panel, 0.95)),
      proposalMs: rounded(median(booking.proposal)),
      proposalP95Ms: rounded(percentile(booking.proposal, 0.95)),
      legibleShare: rounded(names.share),
      unit: 'ms of the main thread for an input, the middle of three rounds; ms from data to paint; ms from a patient’s booking to its plate',
      peer: 'bounds: 12 ms an input, a drag’s too, places lit within 100 ms of picking up, no task over 50 ms, plates within 300 ms, live within 1,000 ms, the booking panel within 100 ms, its proposals within 300 ms; legibleShare at least 0.98 of all names on the board',
      n: STEPS,
    };
  } finally {
    await running.stop();
    await server.stop();
    await sql.end();
  }
}
