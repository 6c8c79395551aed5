import type { Code } from '../openings/index.ts';

/**
 * Rules that a role with the right to it may set aside for one visit, with a reason (common practice: overbooking, a
 * closed hour opened for somebody, a limit of the day). Never among them: a time that is over; a visit that is not
 * performed there or has nobody to serve its parts together; one patient in two places; and somebody who must be
 * present for the patient's safety.
 */
const WAIVABLE = new Set<Code>([
  'site-closed',
  'payer-not-accepted',
  'referral-needed',
  'authorization-needed',
  'not-before',
  'no-hours',
  'changed-that-date',
  'time-off',
  'kept-free',
  'type-not-accepted',
  'kind-not-accepted',
  'invited-only',
  'busy',
  'gap-too-short',
  'cap-reached',
  'spacing',
]);

/** Whether a rule can be set aside at all. */
export function mayWaive(code: Code): boolean {
  return WAIVABLE.has(code);
}
