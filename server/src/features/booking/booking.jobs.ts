import { type Sweep, sweepRows } from '../../platform/jobs/sweeper.ts';

/** Holds that ran out: their times are free in every search, and after this in every table. */
export const bookingSweeps: readonly Sweep[] = [
  { name: 'holds', run: (em, now) => sweepRows(em, 'hold', 'id', 'expires_at <= ?', [now]) },
];
