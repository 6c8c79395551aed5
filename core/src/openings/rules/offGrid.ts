import { addRangeInto, emptyMask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** Online starts lie on the visit type's grid, counted on the wall clock from midnight. */
export const offGrid: StartRule = {
  code: 'off-grid',
  scope: 'start',
  binds: 'online',
  hide: ({ day, policy }) => {
    const mask = emptyMask();
    for (let cell = 0; cell < day.cells; cell++)
      if (day.wallOfCell[cell] % policy.gridMin.value !== 0) addRangeInto(mask, cell, cell + 1);
    return mask;
  },
  facts: ({ policy }) => [{ gridMin: policy.gridMin.value, level: policy.gridMin.level }],
};
