import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addRangeInto, emptyMask } from '../time/index.ts';
import { oneAfterAnother } from './oneAfterAnother.ts';

const CELLS = 288;
const maskOf = (cells: readonly number[]) => {
  const mask = emptyMask();
  for (const cell of cells) addRangeInto(mask, cell, cell + 1);
  return mask;
};

/** The most by trying every choice: take a start or leave it. */
function most(starts: readonly number[], taken: number): number {
  const [first, ...rest] = starts;
  if (first === undefined) return 0;
  return Math.max(
    most(rest, taken),
    1 +
      most(
        rest.filter((cell) => cell >= first + taken),
        taken,
      ),
  );
}

describe('visits one after another', () => {
  it('are as many as fit', () => {
    expect(oneAfterAnother(emptyMask(), 4)).toBe(0);
    expect(oneAfterAnother(maskOf([10, 11, 12, 13]), 4)).toBe(1);
    expect(oneAfterAnother(maskOf([10, 11, 12, 13, 14]), 4)).toBe(2);
    expect(oneAfterAnother(maskOf([0, CELLS - 1]), 12)).toBe(2);
  });

  it('are never fewer than by any other choice', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { maxLength: 12 }),
        fc.integer({ min: 1, max: 8 }),
        (cells, taken) => {
          const starts = cells.toSorted((a, b) => a - b);
          expect(oneAfterAnother(maskOf(starts), taken)).toBe(most(starts, taken));
        },
      ),
    );
  });
});
