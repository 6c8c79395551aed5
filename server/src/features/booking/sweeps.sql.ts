import { type Sweep, sweepOf } from '../../platform/jobs/sweeps.sql.ts';

/** Holds that ran out: their times are free in every search, and after this in every table. */
export const bookingSweeps: readonly Sweep[] = [sweepOf('holds', 'hold', 'id', 'expires_at <= :now')];
