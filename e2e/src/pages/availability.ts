import type { Page } from 'puppeteer-core';

/** One day of somebody's lane at a site; Monday is 0. */
export const cell = (siteId: string, resourceId: string, day: number) =>
  `[data-lane="${siteId}:${resourceId}"] [role="gridcell"]:nth-of-type(${day + 1})`;

/** Opens the week that begins on this Monday. */
export async function openWeek(page: Page, base: string, monday: string): Promise<void> {
  await page.goto(`${base}/availability?week=${monday}`);
  await page.waitForSelector('[data-cell]');
}

/** Waits until what the edits would do has been told. */
export async function judged(page: Page): Promise<void> {
  await page.waitForFunction(
    () =>
      document.querySelector('[aria-label="Impact"]')?.getAttribute('aria-busy') === 'false' ||
      !document.querySelector('[aria-label="Impact"]'),
  );
}
