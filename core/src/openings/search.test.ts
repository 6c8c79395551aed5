import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { epochOfCell, cellsOf } from '../time/index.ts';
import { Oracle } from '../../tests/oracle.ts';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { ClinicIndex, frameOf, openStarts, whyNot } from './index.ts';

/** ZAGUAN_SEED repeats a run; the seed in use is printed with any failure by fast-check. */
const SEED = process.env.ZAGUAN_SEED ? Number(process.env.ZAGUAN_SEED) : undefined;
const RUNS = Number(process.env.ZAGUAN_RUNS ?? 300);

describe('openings search against a brute-force oracle', () => {
  it(`gives the same starts on ${RUNS} random clinics`, () => {
    let withOpenings = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const c = randomCase(drawFrom(gen));
        const index = new ClinicIndex(c.snapshot, c.now);
        const frame = frameOf(index, c.criteria, c.siteId, c.providerId, c.date);
        const found = cellsOf(openStarts(index, c.criteria, c.siteId, c.providerId, c.date)).map((cell) =>
          epochOfCell(frame.day, cell),
        );
        if (found.length) withOpenings++;
        expect(found).toEqual(new Oracle(c).openStarts());
      }),
      { numRuns: RUNS, seed: SEED, unbiased: true },
    );
    // The cases must not all be empty days, or the comparison would say nothing.
    expect(withOpenings).toBeGreaterThan(RUNS / 20);
  }, 600_000);
});

describe('Why not? against the same oracle', () => {
  it('names rules whose lifting together frees the start, and of which none can be left out', () => {
    const counted = new Map<string, number>();
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const index = new ClinicIndex(c.snapshot, c.now);
        const frame = frameOf(index, c.criteria, c.siteId, c.providerId, c.date);
        const start = epochOfCell(frame.day, draw.int(0, 200));
        const { offered, answers } = whyNot(index, c.criteria, c.siteId, c.providerId, start);
        expect(offered).toBe(new Oracle(c).open(start));
        const needKeys = frame.needs.map((need) => `${need.need.key} in ${need.part}`);
        // Conditions on a member are lifted for the need they were named for, others as a whole.
        const names = answers
          .filter((a) => !a.passed)
          .flatMap((a) => {
            counted.set(a.code, (counted.get(a.code) ?? 0) + 1);
            const needs = new Set(
              a.facts.flatMap((f) => (typeof f.need === 'string' ? [needKeys.indexOf(`${f.need} in ${f.part}`)] : [])),
            );
            return needs.size ? [...needs].map((i) => `${a.code}#${i}`) : [a.code];
          });
        for (const a of answers) if (!a.passed) expect(a.facts.length).toBeGreaterThan(0);
        expect({ names, open: new Oracle(c, new Set(names)).open(start) }).toEqual({ names, open: true });
        // Lifting more never hides a start, so leaving out one at a time covers every proper subset.
        for (const left of names)
          expect({ names, left, open: new Oracle(c, new Set(names.filter((n) => n !== left))).open(start) }).toEqual({
            names,
            left,
            open: false,
          });
      }),
      { numRuns: RUNS, seed: SEED, unbiased: true },
    );
    expect(counted.size).toBeGreaterThanOrEqual(25);
  }, 600_000);
});
