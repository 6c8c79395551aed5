import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, it } from 'vitest';
import { ROOT } from '../fixtures/cluster.ts';

/** What a phone loads before the first question can be answered, in bytes of gzipped JavaScript. */
const MAX_BYTES = 140_000;

it('keeps the booking page’s first entry light', () => {
  const folder = join(ROOT, 'web/dist/patient');
  const html = readFileSync(join(folder, 'index.html'), 'utf8');
  const scripts = [...html.matchAll(/(?:src|href)="\/book\/(assets\/[^"]+\.js)"/g)].map(([, file]) => file);
  expect(scripts.length).toBeGreaterThan(1);
  const bytes = scripts.reduce((sum, file) => sum + gzipSync(readFileSync(join(folder, file))).length, 0);
  expect(bytes).toBeGreaterThan(50_000);
  expect(bytes).toBeLessThanOrEqual(MAX_BYTES);
  // Whatever the entry loads at once is in that sum: nothing is fetched by a chain of imports.
  for (const file of scripts)
    for (const [, other] of readFileSync(join(folder, file), 'utf8').matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g))
      expect(scripts).toContain(`assets/${other}`);
});
