/**
 * A set of five-minute cells of one day as bits: bit `c` stands for cell `c`. Ten words hold 320 cells; the
 * longest day (autumn change) has 300. Every function returns a new mask unless its name ends in `Into`.
 */
export type Mask = Uint32Array<ArrayBuffer>;

const WORDS = 10;

export const emptyMask = (): Mask => new Uint32Array(WORDS);

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

/** Cells from which `length` cells in a row are all in the mask (binary erosion, by doubling). */
export function erode(mask: Mask, length: number): Mask {
  let out = mask.slice();
  let covered = 1;
  while (covered < length) {
    const step = Math.min(covered, length - covered);
    out = and(out, earlier(out, step));
    covered += step;
  }
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
