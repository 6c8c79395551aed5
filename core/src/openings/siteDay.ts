import { CELL_MIN, type LocalDate } from '../time/index.ts';
import type { ClinicIndex } from './clinicIndex.ts';

/** Minutes in which providers have hours at a site on a date, all of them together. */
export function providerMinutes(index: ClinicIndex, siteId: string, date: LocalDate): number {
  let minutes = 0;
  for (const { id, kind } of index.plan.resources)
    if (kind === 'provider')
      for (const { fromCell, toCell } of index.resourceDay(id, siteId, date).stretches)
        minutes += (toCell - fromCell) * CELL_MIN;
  return minutes;
}
