import { CELL_MIN, epochOfCell, NO_CELLS, rangeMask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** A start before now. A start exactly now is still allowed. */
export const past: StartRule = {
  code: 'past',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: ({ day, index }) =>
    index.now <= day.start ? NO_CELLS : rangeMask(0, Math.ceil((index.now - day.start) / CELL_MIN)),
  facts: ({ day, index }, cell) => [{ now: index.now, start: epochOfCell(day, cell) }],
};
