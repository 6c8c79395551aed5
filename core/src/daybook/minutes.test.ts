import fc from 'fast-check';
import { expect, it } from 'vitest';
import { minutesOf, minutesWithout } from './minutes.ts';

const stretch = fc.record({ from: fc.integer({ min: 0, max: 90 }), length: fc.integer({ min: 0, max: 30 }) });
const stretches = fc.array(
  stretch.map(({ from, length }) => ({ from, to: from + length })),
  { maxLength: 8 },
);
/** Minute by minute. */
const covered = (list: readonly { from: number; to: number }[]) =>
  new Set(list.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, i) => from + i)));

it('counts each minute once, and only those that nothing else takes', () => {
  expect(minutesOf([])).toBe(0);
  expect(
    minutesOf([
      { from: 540, to: 600 },
      { from: 570, to: 630 },
    ]),
  ).toBe(90);
  expect(
    minutesWithout(
      [{ from: 540, to: 720 }],
      [
        { from: 500, to: 550 },
        { from: 600, to: 620 },
      ],
    ),
  ).toBe(150);
});

it('agrees with a count of every minute', () => {
  fc.assert(
    fc.property(stretches, stretches, (list, others) => {
      const taken = covered(others);
      expect(minutesOf(list)).toBe(covered(list).size);
      expect(minutesWithout(list, others)).toBe([...covered(list)].filter((minute) => !taken.has(minute)).length);
    }),
  );
});
