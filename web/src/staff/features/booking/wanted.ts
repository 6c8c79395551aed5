import type { Part } from '@zaguan/core/visits';
import type { Flow } from './useFlow.ts';

/** What is asked for, as the server is asked: who and what, without when. */
export interface Wanted {
  readonly patientId: string;
  readonly visitTypeId: string;
  readonly parts: readonly Part[] | null;
}

/** `null` while who or what is missing. */
export function wantedOf(flow: Flow): Wanted | null {
  const { patientId, visitTypeId } = flow;
  return patientId && visitTypeId ? { patientId, visitTypeId, parts: null } : null;
}
