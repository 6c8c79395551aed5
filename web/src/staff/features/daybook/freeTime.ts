import type { Lane } from '@zaguan/contracts/daybook';

const GRID_MS = 300_000;

/**
 * The first free time of a lane from an instant on: within its hours, behind whatever stands there, on five minutes.
 *
 * @param from an instant, ISO in UTC
 * @returns an instant; `null` where the lane's hours are full or over
 */
export function freeTimeFrom({ hoursBands, plates, away }: Lane, from: string): string | null {
  const taken = [...plates.map(({ drawn }) => drawn), ...away].sort((a, b) => a.start.localeCompare(b.start));
  for (const band of hoursBands.toSorted((a, b) => a.start.localeCompare(b.start))) {
    let free = onGrid(from > band.start ? from : band.start);
    for (const { start, end } of taken) if (start <= free && free < end) free = onGrid(end);
    if (free < band.end) return free;
  }
  return null;
}

function onGrid(instant: string): string {
  return new Date(Math.ceil(Date.parse(instant) / GRID_MS) * GRID_MS).toISOString();
}
