/**
 * A set of five-minute cells of one day as bits: bit `c` stands for cell `c`. Ten words hold 320 cells; the
 * longest day (autumn change) has 300. Every function returns a new mask unless its name ends in `Into`.
 */
export type Mask = Int32Array<ArrayBuffer>;

/** Numbers of a mask. */
export const WORDS = 10;

export const emptyMask = (): Mask => new Int32Array(WORDS);

/** Shared answers of rules that hide nothing, or pass everything. Never written to: whoever joins masks makes a new one. */
export const NO_CELLS: Mask = new Int32Array(WORDS);
export const EVERY_CELL: Mask = new Int32Array(WORDS).fill(0xffffffff);

export const EVERY_WORD: WordRange = { first: 0, last: WORDS - 1 };

/** Cells 0 to `cells - 1`. */
export function fullMask(cells: number): Mask {
  const mask = emptyMask();
  addRangeInto(mask, 0, cells);
  return mask;
}

/** Adds `[from, to)`; out-of-day parts are ignored. */
export function addRangeInto(mask: Mask, from: number, to: number): void {
  const first = Math.max(0, from);
  const last = Math.min(WORDS * 32, to);
  for (let cell = first; cell < last; ) {
    const word = cell >>> 5;
    const low = cell & 31;
    const high = Math.min(32, last - (word << 5));
    const ones = high - low === 32 ? 0xffffffff : ((1 << (high - low)) - 1) << low;
    mask[word] |= ones;
    cell = (word << 5) + high;
  }
}

export function rangeMask(from: number, to: number): Mask {
  const mask = emptyMask();
  addRangeInto(mask, from, to);
  return mask;
}

export function orInto(mask: Mask, other: Mask): void {
  for (let w = 0; w < WORDS; w++) mask[w] |= other[w];
}

export function andInto(mask: Mask, other: Mask): void {
  for (let w = 0; w < WORDS; w++) mask[w] &= other[w];
}

/** Takes the cells of `other` off. */
export function andNotInto(mask: Mask, other: Mask): void {
  for (let w = 0; w < WORDS; w++) mask[w] &= ~other[w];
}

export function copyInto(mask: Mask, other: Mask): void {
  for (let w = 0; w < WORDS; w++) mask[w] = other[w];
}

export function and(a: Mask, b: Mask): Mask {
  const out = emptyMask();
  for (let w = 0; w < WORDS; w++) out[w] = a[w] & b[w];
  return out;
}

export function or(a: Mask, b: Mask): Mask {
  const out = emptyMask();
  for (let w = 0; w < WORDS; w++) out[w] = a[w] | b[w];
  return out;
}

/** Every cell that is not in the mask. */
export function allBut(mask: Mask): Mask {
  return mask === NO_CELLS ? EVERY_CELL : andNot(EVERY_CELL, mask);
}

/** Cells of `a` that are not in `b`. */
export function andNot(a: Mask, b: Mask): Mask {
  const out = emptyMask();
  for (let w = 0; w < WORDS; w++) out[w] = a[w] & ~b[w];
  return out;
}

export function isEmpty(mask: Mask): boolean {
  for (let w = 0; w < WORDS; w++) if (mask[w]) return false;
  return true;
}

export function hasCell(mask: Mask, cell: number): boolean {
  return cell >= 0 && cell < WORDS * 32 && (mask[cell >>> 5] & (1 << (cell & 31))) !== 0;
}

/** Moves every cell `by` places earlier; what falls off the start is lost. */
export function earlier(mask: Mask, by: number): Mask {
  const out = emptyMask();
  const words = by >>> 5;
  const bits = by & 31;
  for (let w = 0; w + words < WORDS; w++) {
    const low = mask[w + words] >>> bits;
    const high = bits && w + words + 1 < WORDS ? mask[w + words + 1] << (32 - bits) : 0;
    out[w] = low | high;
  }
  return out;
}

/** Which numbers of a mask hold cells, `[first, last]`; `last < first` for none. Work on a mask can be kept to them. */
export interface WordRange {
  first: number;
  last: number;
}

export function wordRange(mask: Mask): WordRange {
  let first = 0;
  while (first < WORDS && mask[first] === 0) first++;
  let last = WORDS - 1;
  while (last >= first && mask[last] === 0) last--;
  return { first, last };
}

/**
 * Writes into the numbers `range` of `out` the cells from which `length` cells in a row, the first of them `from` cells
 * later, are all in the mask that lies in `source` from `at` on. The other numbers of `out` are left as they were.
 */
export function erodeFrom(
  out: Mask,
  source: Mask,
  at: number,
  length: number,
  from: number,
  { first, last }: WordRange,
): void {
  erodeNear(out, source, at, Math.min(length, 32), from, first, last);
  // Longer stretches are covered by several of 32 cells.
  for (let shift = 32; shift < length; shift += 32) {
    erodeNear(further, source, at, 32, from + Math.min(shift, length - 32), first, last);
    for (let w = first; w <= last; w++) out[w] &= further[w];
  }
}

const further: Mask = new Int32Array(WORDS);

/** Up to 32 cells in a row reach no further than the next word, so that two words are worked on in registers. */
function erodeNear(
  out: Mask,
  source: Mask,
  at: number,
  length: number,
  from: number,
  first: number,
  last: number,
): void {
  const skip = from >>> 5;
  const bits = from & 31;
  let next = wordLater(source, at, last + 1 + skip, bits);
  for (let w = last; w >= first; w--) {
    const here = wordLater(source, at, w + skip, bits);
    let low = here;
    if (low !== 0) {
      let high = next;
      for (let covered = 1; covered < length; ) {
        const step = covered + covered <= length ? covered : length - covered;
        low &= (low >>> step) | (high << (32 - step));
        high &= high >>> step;
        covered += step;
      }
    }
    out[w] = low;
    next = here;
  }
}

/** Thirty-two cells from `bits` cells into a word of the mask that lies in `source` from `at` on. */
function wordLater(source: Mask, at: number, word: number, bits: number): number {
  if (word >= WORDS) return 0;
  if (bits === 0) return source[at + word];
  return (source[at + word] >>> bits) | (word + 1 < WORDS ? source[at + word + 1] << (32 - bits) : 0);
}

/** Cells from which `length` cells in a row are all in the mask (binary erosion, by doubling). */
export function erode(mask: Mask, length: number): Mask {
  const out = emptyMask();
  erodeFrom(out, mask, 0, length, 0, EVERY_WORD);
  return out;
}

/** Cells `from` which at least one of the next `length` cells is in the mask (the opposite of `erode`). */
export function touchedWithin(mask: Mask, length: number): Mask {
  let out = mask.slice();
  let covered = 1;
  while (covered < length) {
    const step = Math.min(covered, length - covered);
    out = or(out, earlier(out, step));
    covered += step;
  }
  return out;
}

/** The cells in ascending order. */
export function cellsOf(mask: Mask): number[] {
  const cells: number[] = [];
  for (let w = 0; w < WORDS; w++) {
    let word = mask[w];
    while (word) {
      const low = 31 - Math.clz32(word & -word);
      cells.push((w << 5) + low);
      word &= word - 1;
    }
  }
  return cells;
}

/** How many cells. */
export function countCells(mask: Mask): number {
  let count = 0;
  for (let w = 0; w < WORDS; w++) {
    let word = mask[w];
    while (word) {
      word &= word - 1;
      count++;
    }
  }
  return count;
}

/** Stretches of neighbouring cells, `[fromCell, toCell)`. */
export function runsOf(mask: Mask): { fromCell: number; toCell: number }[] {
  const runs: { fromCell: number; toCell: number }[] = [];
  for (const cell of cellsOf(mask)) {
    const last = runs.at(-1);
    if (last && last.toCell === cell) last.toCell = cell + 1;
    else runs.push({ fromCell: cell, toCell: cell + 1 });
  }
  return runs;
}
