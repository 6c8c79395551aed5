import type { AppointmentStatus } from '@zaguan/core/visits';

/** The shapes of the arch. Status is never color alone. */
export type ArchShape =
  | 'outline'
  | 'threshold'
  | 'half'
  | 'figure'
  | 'filled'
  | 'dotted'
  | 'question'
  | 'struck'
  | 'leaning';

/** Which arch stands for a visit: one table for every place that draws one. */
export function archFor(visit: {
  status: AppointmentStatus;
  confirmed: boolean;
  identity: 'sure' | 'unknown';
  kind: 'visit' | 'hold';
  approval: string;
}): ArchShape {
  if (visit.status === 'cancelled' || visit.status === 'entered-in-error') return 'struck';
  if (visit.status === 'noshow') return 'leaning';
  if (visit.kind === 'hold' || visit.approval === 'waiting') return 'dotted';
  if (visit.status === 'fulfilled') return 'filled';
  if (visit.status === 'checked-in') return 'figure';
  if (visit.status === 'arrived') return 'half';
  if (visit.identity === 'unknown') return 'question';
  return visit.confirmed ? 'threshold' : 'outline';
}
