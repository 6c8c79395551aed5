import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  addRangeInto,
  addRuns,
  andNot,
  cellsOf,
  countCells,
  earlier,
  emptyMask,
  erode,
  fullMask,
  hasCell,
  keepRuns,
  or,
  rangeMask,
  runsOf,
  touchedWithin,
  WORDS,
  wordRange,
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

it('keeps, or finds, of some wanted cells those from which a run starts a little later, anywhere in a longer memory', () => {
  let kept = 0;
  const runs = fc.array(fc.tuple(fc.nat(319), fc.integer({ min: 1, max: 120 })), { maxLength: 6 });
  const asked = [runs, runs, runs, fc.integer({ min: 1, max: 70 }), fc.nat(70), fc.nat(3)] as const;
  fc.assert(
    fc.property(...asked, (stretches, wantedRuns, foundRuns, length, from, ahead) => {
      const maskOfRuns = (list: readonly (readonly [number, number])[]) => {
        const mask = emptyMask();
        for (const [first, more] of list) addRangeInto(mask, first, first + more);
        return mask;
      };
      const source = maskOfRuns(stretches);
      const wanted = maskOfRuns(wantedRuns);
      const found = maskOfRuns(foundRuns);
      // The words before and after are set: reading beyond the mask would show.
      const memory = new Int32Array(ahead + WORDS + 2).fill(-1);
      memory.set(source, ahead);
      const starts = (cell: number) =>
        Array.from({ length }, (_, i) => cell + from + i).every((each) => hasCell(source, each));
      const expected = cellsOf(wanted).filter(starts);
      const range = wordRange(wanted);
      const left = wanted.slice();
      expect(keepRuns(left, wanted, memory, ahead, length, from, range)).toBe(expected.length > 0);
      expect(cellsOf(left)).toEqual(expected);
      const before = cellsOf(found);
      const all = addRuns(found, wanted, memory, ahead, length, from, range);
      expect(cellsOf(found)).toEqual(sorted(new Set([...before, ...expected])));
      expect(all).toBe(cellsOf(wanted).every((cell) => hasCell(found, cell)));
      kept += expected.length;
    }),
    { numRuns: 400 },
  );
  expect(kept).toBeGreaterThan(1000);
});

it('shifts over word borders and drops what falls off', () => {
  expect(cellsOf(earlier(maskOf([31, 32, 64, 300]), 32))).toEqual([0, 32, 268]);
  expect(cellsOf(earlier(maskOf([5]), 6))).toEqual([]);
  expect(countCells(fullMask(276))).toBe(276);
  expect(cellsOf(rangeMask(-5, 2))).toEqual([0, 1]);
  expect(cellsOf(rangeMask(318, 400))).toEqual([318, 319]);
});
