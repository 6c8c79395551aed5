import { addRangeInto, emptyMask, type Mask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

const ORDINARY_DAY_MIN = 1440;
/** Days without a change of clocks all have the same starts off a grid, of which there are few. */
const ofOrdinaryDays = new Map<number, Mask>();

/** Online starts lie on the visit type's grid, counted on the wall clock from midnight. */
export const offGrid: StartRule = {
  code: 'off-grid',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ day, policy }) => {
    const gridMin = policy.gridMin.value;
    const ordinary = day.end - day.start === ORDINARY_DAY_MIN;
    const known = ordinary ? ofOrdinaryDays.get(gridMin) : undefined;
    if (known) return known;
    const mask = emptyMask();
    for (let cell = 0; cell < day.cells; cell++)
      if (day.wallOfCell[cell] % gridMin !== 0) addRangeInto(mask, cell, cell + 1);
    if (ordinary) ofOrdinaryDays.set(gridMin, mask);
    return mask;
  },
  facts: ({ policy }) => [{ gridMin: policy.gridMin.value, level: policy.gridMin.level }],
};
