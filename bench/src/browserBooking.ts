import type { Page } from 'puppeteer-core';
import type pg from 'pg';

const TIMES = 20;

/** Milliseconds from an act on the page to the frame in which something is painted that was not there before. */
function paintedAfter(
  page: Page,
  act: { click: string } | { select: string; value: string },
  shown: string,
): Promise<number> {
  return page.evaluate(
    (what, selector) =>
      new Promise<number>((resolve) => {
        const from = performance.now();
        const look = () => {
          if (document.querySelector(selector))
            requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - from), 0));
          else requestAnimationFrame(look);
        };
        if ('click' in what) document.querySelector<HTMLElement>(what.click)?.click();
        else {
          const select = document.querySelector<HTMLSelectElement>(what.select);
          if (!select) throw new Error('There is no such choice.');
          select.value = what.value;
          select.dispatchEvent(new Event('change', { bubbles: true }));
        }
        look();
      }),
    act,
    shown,
  );
}

/** Sites are loaded one by one: what is measured here begins when all that is in sight is drawn. */
async function standsStill(page: Page): Promise<void> {
  await page.waitForFunction(() => !document.querySelector('[data-axis] section[aria-busy="true"]'));
}

/**
 * How soon the booking panel stands beside a full Daybook after "Book" is pressed, and how soon the three best times for
 * a known patient stand in it once the visit type is chosen.
 */
export async function bookingPanel(
  page: Page,
  base: string,
  sql: pg.Pool,
): Promise<{ panel: number[]; proposal: number[] }> {
  const { rows: types } = await sql.query<{ id: string }>("select id from visit_type where name = 'Follow-up'");
  const { rows: people } = await sql.query<{ id: string }>(
    `select id from patient where not restricted and status = 'active' and birth_date < '2000-01-01' order by id limit ${TIMES + 3}`,
  );
  const [panel, proposal]: [number[], number[]] = [[], []];
  for (const [i, { id }] of people.entries()) {
    await page.goto(`${base}/daybook?site=all`);
    await page.waitForSelector('html[data-live="open"] [data-plate]');
    await standsStill(page);
    const opened = await paintedAfter(page, { click: '[data-open-book]' }, '[data-testid="book"]');
    await page.goto(`${base}/daybook?site=all&book=new&for=${id}`);
    await page.waitForSelector('html[data-live="open"] [data-plate]');
    await standsStill(page);
    await page.waitForSelector(`[data-who="${id}"]`);
    await page.waitForSelector(`select[name="visitType"] option[value="${types[0].id}"]`);
    const proposed = await paintedAfter(
      page,
      { select: 'select[name="visitType"]', value: types[0].id },
      '[data-proposal]',
    );
    // The first ones let the compiler settle.
    if (i < 3) continue;
    panel.push(opened);
    proposal.push(proposed);
  }
  return { panel, proposal };
}
