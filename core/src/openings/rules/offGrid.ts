import { addRangeInto, emptyMask, type Mask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

const ORDINARY_DAY_MIN = 1440;
/** By the clock readings of a day's cells; days without a change of clocks all share one. */
const ordinary = {};
const known = new WeakMap<object, Map<number, Mask>>();

/** Online starts lie on the visit type's grid, counted on the wall clock from midnight. */
export const offGrid: StartRule = {
  code: 'off-grid',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ day, policy }) => {
    const gridMin = policy.gridMin.value;
    const clock = day.end - day.start === ORDINARY_DAY_MIN ? ordinary : day.wallOfCell;
    let byGrid = known.get(clock);
    if (!byGrid) {
      byGrid = new Map();
      known.set(clock, byGrid);
    }
    let mask = byGrid.get(gridMin);
    if (!mask) {
      mask = emptyMask();
      for (let cell = 0; cell < day.cells; cell++)
        if (day.wallOfCell[cell] % gridMin !== 0) addRangeInto(mask, cell, cell + 1);
      byGrid.set(gridMin, mask);
    }
    return mask;
  },
  facts: ({ policy }) => [{ gridMin: policy.gridMin.value, level: policy.gridMin.level }],
};
