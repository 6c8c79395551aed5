import { CELL_MIN, type EpochMinute, WORDS, type ZoneDay } from '../time/index.ts';
import type { ResourceDay } from './resourceDay.ts';

/** A stretch in which something is taken. */
export interface TakenStretch {
  readonly start: EpochMinute;
  readonly end: EpochMinute;
}

/**
 * How many stretches lie over each other at most in each cell of a day. Judged by the minute: two that follow each
 * other inside a cell are one at a time.
 *
 * @returns one number for each cell
 */
export function mostAtOnce(day: ZoneDay, stretches: readonly TakenStretch[]): Uint16Array {
  const cells = new Uint16Array(WORDS * 32);
  const changes = stretches.flatMap(({ start, end }) => [
    { at: Math.max(start, day.start), by: 1 },
    { at: Math.min(end, day.end), by: -1 },
  ]);
  // Whoever leaves at a minute makes room for whoever comes at it.
  changes.sort((a, b) => a.at - b.at || a.by - b.by);
  let now = 0;
  changes.forEach(({ at, by }, i) => {
    now += by;
    const until = changes[i + 1]?.at ?? at;
    if (until === at) return;
    const last = Math.ceil((until - day.start) / CELL_MIN);
    for (let cell = Math.floor((at - day.start) / CELL_MIN); cell < last; cell++)
      cells[cell] = Math.max(cells[cell], now);
  });
  return cells;
}

/** How many visits at once a resource's plan allows in a cell. Where it has no hours, that alone is the reason: one. */
export function placesIn({ stretches, stretchOfCell, placesWithoutHours }: ResourceDay, cell: number): number {
  const stretch = stretchOfCell[cell] ?? -1;
  return Math.max(1, stretch < 0 ? placesWithoutHours : stretches[stretch].places);
}
