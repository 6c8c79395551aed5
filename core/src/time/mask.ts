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

/** Moves every cell `by` places later; what falls off the end is lost. */
export function later(mask: Mask, by: number): Mask {
  const out = emptyMask();
  const words = by >>> 5;
  const bits = by & 31;
  for (let w = words; w < WORDS; w++) {
    const high = mask[w - words] << bits;
    const low = bits && w - words > 0 ? mask[w - words - 1] >>> (32 - bits) : 0;
    out[w] = high | low;
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
 * Writes into `out` those of the `wanted` cells from which `length` cells in a row, the first of them `from` cells
 * later, are all in the mask that lies in `source` from `at` on. Only the words of `range`, in which all wanted cells
 * lie, are read and written. `out` may be `wanted`.
 *
 * @returns whether there are any
 */
export function keepRuns(
  out: Mask,
  wanted: Mask,
  source: Mask,
  at: number,
  length: number,
  from: number,
  range: WordRange,
): boolean {
  let any = 0;
  for (let w = range.first; w <= range.last; w++) {
    const word = wanted[w];
    const kept = word === 0 ? 0 : word & runsAt(source, at, w, length, from);
    out[w] = kept;
    any |= kept;
  }
  return any !== 0;
}

/**
 * Adds to `found` those of the `wanted` cells from which such a run starts.
 *
 * @returns whether all wanted cells are found
 */
export function addRuns(
  found: Mask,
  wanted: Mask,
  source: Mask,
  at: number,
  length: number,
  from: number,
  range: WordRange,
): boolean {
  let missing = 0;
  for (let w = range.first; w <= range.last; w++) {
    const word = wanted[w] & ~found[w];
    if (word === 0) continue;
    const more = word & runsAt(source, at, w, length, from);
    found[w] |= more;
    missing |= word & ~more;
  }
  return missing === 0;
}

/** Word `w` of the cells from which `length` cells in a row, the first `from` cells later, are all in the source. */
function runsAt(source: Mask, at: number, w: number, length: number, from: number): number {
  if (length <= 32) return nearRuns(source, at, w + (from >>> 5), from & 31, length);
  // Longer runs are covered by several of 32 cells.
  let cells = -1;
  for (let shift = 0; shift < length && cells !== 0; shift += 32) {
    const later = from + Math.min(shift, length - 32);
    cells &= nearRuns(source, at, w + (later >>> 5), later & 31, 32);
  }
  return cells;
}

/** Up to 32 cells in a row reach no further than the next word: two words, worked on in registers by doubling. */
function nearRuns(source: Mask, at: number, w: number, bits: number, length: number): number {
  if (w >= WORDS) return 0;
  const place = at + w;
  let low = source[place];
  let high = w + 1 < WORDS ? source[place + 1] : 0;
  if (bits !== 0) {
    low = (low >>> bits) | (high << (32 - bits));
    high = (high >>> bits) | (w + 2 < WORDS ? source[place + 2] << (32 - bits) : 0);
  }
  if (low === 0) return 0;
  for (let covered = 1; covered < length; ) {
    const step = covered + covered <= length ? covered : length - covered;
    low &= (low >>> step) | (high << (32 - step));
    high &= high >>> step;
    covered += step;
  }
  return low;
}

/** Cells from which `length` cells in a row are all in the mask (binary erosion, by doubling). */
export function erode(mask: Mask, length: number): Mask {
  const out = EVERY_CELL.slice();
  keepRuns(out, out, mask, 0, length, 0, EVERY_WORD);
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

/** Stretches of neighboring cells, `[fromCell, toCell)`. */
export function runsOf(mask: Mask): { fromCell: number; toCell: number }[] {
  const runs: { fromCell: number; toCell: number }[] = [];
  for (const cell of cellsOf(mask)) {
    const last = runs.at(-1);
    if (last && last.toCell === cell) last.toCell = cell + 1;
    else runs.push({ fromCell: cell, toCell: cell + 1 });
  }
  return runs;
}
