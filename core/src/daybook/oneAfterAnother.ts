import { cellsOf, type Mask } from '../time/index.ts';

/**
 * How many visits of one length fit one after another with one provider: the earliest start first, the next at the
 * first start after its end. With one resource and one length no other choice holds more (interval scheduling, earliest
 * end first; Kleinberg and Tardos, Algorithm Design, 4.1). What visits of several providers share (rooms, caps) is not
 * counted: together they may be fewer.
 *
 * @param starts cells at which one can begin
 * @param takenCells cells from a visit's start until the provider is free again
 */
export function oneAfterAnother(starts: Mask, takenCells: number): number {
  let count = 0;
  let free = 0;
  for (const cell of cellsOf(starts)) {
    if (cell < free) continue;
    count++;
    free = cell + takenCells;
  }
  return count;
}
