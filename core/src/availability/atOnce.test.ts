import fc from 'fast-check';
import { expect, it } from 'vitest';
import { zoneDay } from '../time/index.ts';
import { mostAtOnce } from './atOnce.ts';

const DAY = zoneDay('America/Chicago', '2026-12-01');
const at = (minute: number) => DAY.start + minute;

it('counts two that follow each other inside a cell as one at a time', () => {
  const counted = mostAtOnce(DAY, [
    { start: at(540), end: at(547) },
    { start: at(547), end: at(560) },
    { start: at(548), end: at(550) },
  ]);
  expect([...counted.slice(107, 113)]).toEqual([0, 1, 2, 1, 1, 0]);
});

it('counts what counting minute by minute counts, over the edges of the day too', () => {
  const stretch = fc
    .record({ from: fc.integer({ min: -100, max: 1450 }), length: fc.integer({ min: 1, max: 200 }) })
    .map(({ from, length }) => ({ start: at(from), end: at(from + length) }));
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 12 }), (all) => {
      const counted = mostAtOnce(DAY, all);
      for (let cell = 0; cell < DAY.cells; cell++) {
        const minutes = [0, 1, 2, 3, 4].map((minute) => at(cell * 5 + minute));
        const most = Math.max(
          ...minutes.map((minute) => all.filter(({ start, end }) => start <= minute && minute < end).length),
        );
        expect(counted[cell]).toBe(most);
      }
    }),
    { numRuns: 60 },
  );
});
