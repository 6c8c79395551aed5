import { type Sweep, sweepOf } from '../../platform/jobs/sweeps.sql.ts';

/**
 * Holds that ran out: their times are free in every search, and after this in every table. And what one press of "Book"
 * came to, once nobody can press it again.
 */
export const bookingSweeps: readonly Sweep[] = [
  sweepOf('holds', 'hold', 'id', 'expires_at <= :now'),
  // Row by row: of two who have a visit open, one may have left it long ago.
  sweepOf('looking', 'visit_looking', 'ctid', "seen_at < clock_timestamp() - interval '1 hour'"),
  sweepOf('presses', 'desk_booking', 'key', "at < :now::timestamptz - interval '2 days'"),
];
