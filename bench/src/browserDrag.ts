import type { Page } from 'puppeteer-core';

const TIMES = 20;

/** Booked visits in sight that can be picked up, from the middle of the board. */
async function places(page: Page): Promise<{ x: number; y: number }[]> {
  return page.$$eval('[data-plate][data-status="booked"]', (all) =>
    all
      .map((each) => each.getBoundingClientRect())
      .filter(({ top, bottom, left }) => top > 200 && bottom < innerHeight - 60 && left > 250)
      .map(({ left, top, height }) => ({ x: left + 6, y: top + height / 2 })),
  );
}

async function pickUp(page: Page, { x, y }: { x: number; y: number }): Promise<void> {
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 8, y + 2, { steps: 2 });
  await page.waitForSelector('[data-dragged]');
}

async function giveUp(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await page.waitForFunction(() => !document.querySelector('[data-dragged]'));
}

/** Milliseconds from the moment in which a visit begins to hang until places are lit for it, as frames show them. */
export async function litAfter(page: Page): Promise<number[]> {
  const found = await places(page);
  const took: number[] = [];
  for (let i = 0; took.length < TIMES && i < TIMES * 4; i++) {
    await page.evaluate(() => {
      const marks: { hangs?: number; lit?: number } = {};
      Object.assign(window, { dragMarks: marks });
      const look = () => {
        const now = performance.now();
        if (document.querySelector('[data-dragged]')) marks.hangs ??= now;
        if (document.querySelector('[data-fits]')) marks.lit ??= now;
        if ((window as unknown as { dragMarks: unknown }).dragMarks === marks && !marks.lit)
          requestAnimationFrame(look);
      };
      look();
    });
    await pickUp(page, found[(i * 7) % found.length]);
    const ms = await page
      .waitForFunction(
        () => {
          const { hangs, lit } = (window as unknown as { dragMarks: { hangs?: number; lit?: number } }).dragMarks;
          return hangs !== undefined && lit !== undefined && { ms: lit - hangs };
        },
        { timeout: 2_000 },
      )
      .then(async (handle) => (await handle.jsonValue()) as { ms: number })
      // Nowhere on this board: not every visit has another place.
      .catch(() => null);
    if (ms) took.push(ms.ms);
    await giveUp(page);
  }
  if (took.length < TIMES) throw new Error(`Only ${took.length} of the visits fit anywhere.`);
  return took;
}

/** Drags a visit all over the board while `move` goes on. */
export async function dragging(page: Page, move: () => Promise<void>): Promise<void> {
  const [place] = await places(page);
  await pickUp(page, place);
  await page.waitForSelector('[data-dragged]');
  await move();
  await giveUp(page);
}
