import { addDays, type EpochMinute, epochToWall, wallToEpoch, type ZoneId } from '../time/index.ts';

/** Work that waits on Today. */
export const WORK_KINDS = [
  'red-flag',
  'inbox',
  'failed',
  'identity-review',
  'approval',
  'coverage',
  'not-ready',
] as const;
export type WorkKind = (typeof WORK_KINDS)[number];

export interface WorkFacts {
  /** When it came up. */
  readonly since: EpochMinute;
  /** The visit it is about, with its site's zone. */
  readonly visit: { readonly start: EpochMinute; readonly zone: ZoneId } | null;
  /** Somebody would come for nothing: it can't wait at all. */
  readonly urgent?: boolean;
}

/** A red flag is looked at within ten minutes, an answer within two hours, a message that failed within four (policy of ours). */
const WITHIN_MIN = { 'red-flag': 10, inbox: 120, failed: 240, approval: 240 } as const;
/** Whoever is not known is settled within a day; coverage is verified and a visit made ready by four in the afternoon of the day before. */
const VESTIBULE_MIN = 24 * 60;
const READY_BY_MINUTE = 16 * 60;

/** How work with a patient's answer, or a message that did not arrive, ended. */
export const WORK_OUTCOMES = ['spoke', 'left-message', 'not-reached', 'nothing-needed'] as const;
export type WorkOutcome = (typeof WORK_OUTCOMES)[number];

/** A red flag that was assigned to a clinician comes back to the desk if it still stands after so long (policy of ours). */
export const WITH_CLINICIAN_MIN = 30;

/** Whether a red flag is still the clinician's alone: the desk may turn to other work until then. */
export function isWithClinician(assignedAt: EpochMinute | null, now: EpochMinute): boolean {
  return assignedAt !== null && now < assignedAt + WITH_CLINICIAN_MIN;
}

/**
 * Whether the desk may give a red flag to a clinician: while it is nobody's or the reader's own, and again when the one
 * who was given it has had it too long.
 */
export function mayAssign(
  owner: { readonly mine: boolean; readonly assignedAt: EpochMinute | null } | null,
  now: EpochMinute,
): boolean {
  return owner === null || owner.mine || (owner.assignedAt !== null && !isWithClinician(owner.assignedAt, now));
}

/** When a piece of work is due; never after the visit it is about begins. */
export function dueOf(kind: WorkKind, { since, visit, urgent }: WorkFacts): EpochMinute {
  if (urgent) return since;
  const start = visit?.start ?? Infinity;
  switch (kind) {
    case 'red-flag':
      // Danger does not wait for the visit, nor end with its start.
      return since + WITHIN_MIN[kind];
    case 'inbox':
    case 'failed':
    case 'approval':
      return Math.min(since + WITHIN_MIN[kind], Math.max(start, since));
    case 'identity-review':
      return Math.min(since + VESTIBULE_MIN, Math.max(start, since));
    case 'coverage':
    case 'not-ready': {
      if (!visit) return since;
      const wall = epochToWall(visit.zone, visit.start);
      return wallToEpoch(visit.zone, addDays(wall.date, -1), READY_BY_MINUTE);
    }
  }
}
