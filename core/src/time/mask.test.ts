import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  addRangeInto,
  andNot,
  cellsOf,
  countCells,
  earlier,
  emptyMask,
  erode,
  fullMask,
  hasCell,
  or,
  rangeMask,
  runsOf,
  touchedWithin,
} from './index.ts';

const cells = fc.uniqueArray(fc.integer({ min: 0, max: 319 }), { maxLength: 320 });
const maskOf = (list: readonly number[]) => {
  const mask = emptyMask();
  for (const cell of list) addRangeInto(mask, cell, cell + 1);
  return mask;
};
const sorted = (list: Iterable<number>) => [...list].sort((a, b) => a - b);

it('behaves as a set of cells', () => {
  fc.assert(
    fc.property(cells, cells, (a, b) => {
      const inB = new Set(b);
      expect(cellsOf(or(maskOf(a), maskOf(b)))).toEqual(sorted(new Set([...a, ...b])));
      expect(cellsOf(andNot(maskOf(a), maskOf(b)))).toEqual(sorted(a.filter((cell) => !inB.has(cell))));
      expect(countCells(maskOf(a))).toBe(a.length);
      expect(runsOf(maskOf(a)).flatMap((run) => cellsOf(rangeMask(run.fromCell, run.toCell)))).toEqual(sorted(a));
    }),
  );
});

it('erodes to the cells from which a whole stretch fits, and widens to those from which one is touched', () => {
  fc.assert(
    fc.property(cells, fc.integer({ min: 1, max: 80 }), (list, length) => {
      const mask = maskOf(list);
      const eroded = erode(mask, length);
      const touched = touchedWithin(mask, length);
      for (let cell = 0; cell < 320; cell++) {
        const stretch = Array.from({ length }, (_, i) => cell + i);
        expect(hasCell(eroded, cell)).toBe(stretch.every((each) => hasCell(mask, each)));
        expect(hasCell(touched, cell)).toBe(stretch.some((each) => hasCell(mask, each)));
      }
    }),
    { numRuns: 60 },
  );
});

it('shifts over word borders and drops what falls off', () => {
  expect(cellsOf(earlier(maskOf([31, 32, 64, 300]), 32))).toEqual([0, 32, 268]);
  expect(cellsOf(earlier(maskOf([5]), 6))).toEqual([]);
  expect(countCells(fullMask(276))).toBe(276);
  expect(cellsOf(rangeMask(-5, 2))).toEqual([0, 1]);
  expect(cellsOf(rangeMask(318, 400))).toEqual([318, 319]);
});
