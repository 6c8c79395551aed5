import type { PatientKind } from '../availability/index.ts';
import type { OnlinePolicy } from './snapshot.ts';

/** The level at which a policy value was set, narrowest last. */
export type PolicyLevel = 'default' | 'type' | 'type+site' | 'type+provider' | 'type+site+provider';

/** A value and the level it came from, so that *Why not?* can name it. */
export interface Settled<T> {
  readonly value: T;
  readonly level: PolicyLevel;
}

export interface SettledPolicy {
  readonly offered: Settled<boolean>;
  readonly kinds: Settled<readonly PatientKind[]>;
  readonly leadMin: Settled<number>;
  readonly leadBy: Settled<{ workingDays: number; byMinute: number } | null>;
  readonly windowDays: Settled<number>;
  readonly gridMin: Settled<number>;
  /** Whose self-bookings wait until somebody of the clinic has agreed. */
  readonly approval: Settled<Approval>;
  /** Whether patients are told how long it takes. */
  readonly showLength: Settled<boolean>;
}

export type Approval = 'none' | 'new' | 'all';

/** Whether a self-booking waits for approval. */
export function needsApproval({ approval }: Pick<SettledPolicy, 'approval'>, kind: PatientKind): boolean {
  return approval.value === 'all' || (approval.value === 'new' && kind === 'new');
}

const DEFAULTS = { windowDays: 90, gridMin: 10 } as const;

function levelOf(row: OnlinePolicy): PolicyLevel {
  if (row.siteId && row.providerId) return 'type+site+provider';
  if (row.providerId) return 'type+provider';
  return row.siteId ? 'type+site' : 'type';
}

const RANK: Record<PolicyLevel, number> = {
  default: 0,
  type: 1,
  'type+site': 2,
  'type+provider': 3,
  'type+site+provider': 4,
};

/**
 * Resolves each scalar by itself: type < type+site < type+provider < type+site+provider. Without any row a visit
 * type is not offered online.
 */
export function settlePolicy(
  policies: readonly OnlinePolicy[],
  visitTypeId: string,
  siteId: string,
  providerId: string | null,
): SettledPolicy {
  const rows = policies
    .filter(
      (row) =>
        row.visitTypeId === visitTypeId &&
        (row.siteId === null || row.siteId === siteId) &&
        (row.providerId === null || row.providerId === providerId),
    )
    .sort((a, b) => RANK[levelOf(b)] - RANK[levelOf(a)]);
  const settle = <T>(read: (row: OnlinePolicy) => T | null, otherwise: T): Settled<T> => {
    for (const row of rows) {
      const value = read(row);
      if (value !== null) return { value, level: levelOf(row) };
    }
    return { value: otherwise, level: 'default' };
  };
  return {
    offered: settle((row) => row.offered, false),
    kinds: settle<readonly PatientKind[]>((row) => row.kinds, ['new', 'established']),
    leadMin: settle((row) => row.leadMin, 0),
    leadBy: settle<{ workingDays: number; byMinute: number } | null>(
      (row) =>
        row.leadWorkingDays !== null && row.leadByMinute !== null
          ? { workingDays: row.leadWorkingDays, byMinute: row.leadByMinute }
          : null,
      null,
    ),
    windowDays: settle<number>((row) => row.windowDays, DEFAULTS.windowDays),
    gridMin: settle<number>((row) => row.gridMin, DEFAULTS.gridMin),
    approval: settle<Approval>((row) => row.approval ?? null, 'none'),
    showLength: settle<boolean>((row) => row.showLength ?? null, true),
  };
}
