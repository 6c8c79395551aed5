import type { VisitToMove } from '@zaguan/contracts/availability';

type Time = NonNullable<VisitToMove['proposed']>;

/** No other time is chosen. */
export const NONE = '';

/** A time as a select's value. */
export const textOf = (time: Time | null): string =>
  time ? `${time.siteId} ${time.start} ${time.providerId ?? ''}` : NONE;

/** The time a select's value stands for. */
export function timeFrom(text: string): Time {
  const [siteId, start, providerId] = text.split(' ');
  return { siteId, start, providerId: providerId || null };
}

/** No message reaches the patient, and nobody has spoken with them yet. */
export const needsCall = ({ told, call }: VisitToMove): boolean => !told && call?.outcome !== 'spoke';
