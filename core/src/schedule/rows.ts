import type { BrushStroke, Closure, DateChange, KeptFree, WorkingHours, TimeOff } from '../availability/index.ts';

/** Everything of the schedule that is edited day by day, as rows. The words beside a row decide nothing. */
export interface ScheduleRows {
  readonly workingHours: readonly WorkingHours[];
  readonly dateChanges: readonly DateChange[];
  readonly timeOff: readonly (TimeOff & { readonly reason?: string })[];
  readonly keptFree: readonly (KeptFree & { readonly note?: string })[];
  readonly brush: readonly BrushStroke[];
  readonly closures: readonly (Closure & { readonly reason?: string })[];
}

export type RowKind = keyof ScheduleRows;
export type RowOf<K extends RowKind> = ScheduleRows[K][number];

export const ROW_KINDS = ['workingHours', 'dateChanges', 'timeOff', 'keptFree', 'brush', 'closures'] as const;

/** What becomes of the rows of one kind: whole rows put in the place of those with their id, and ids taken out. */
export interface KindChange<Row> {
  readonly put: readonly Row[];
  readonly drop: readonly string[];
}

/** A change of the schedule, whatever asked for it. */
export type RowChanges = { readonly [K in RowKind]?: KindChange<RowOf<K>> };

/** Collects a change row by row; the last word on a row counts. */
export class ChangeSet {
  private readonly rows = new Map<RowKind, Map<string, RowOf<RowKind> | null>>();

  put<K extends RowKind>(kind: K, row: RowOf<K>): void {
    this.of(kind).set(row.id, row);
  }

  drop(kind: RowKind, id: string): void {
    this.of(kind).set(id, null);
  }

  /** The change against rows that stand: what would be dropped but never stood is left out. */
  against(standing: ScheduleRows): RowChanges {
    const changes: Record<string, KindChange<RowOf<RowKind>>> = {};
    for (const [kind, rows] of this.rows) {
      const known = new Set(standing[kind].map(({ id }) => id));
      const put = [...rows.values()].filter((row) => row !== null);
      const drop = [...rows].filter(([id, row]) => row === null && known.has(id)).map(([id]) => id);
      if (put.length || drop.length) changes[kind] = { put, drop };
    }
    return changes as RowChanges;
  }

  private of(kind: RowKind): Map<string, RowOf<RowKind> | null> {
    let rows = this.rows.get(kind);
    if (!rows) {
      rows = new Map();
      this.rows.set(kind, rows);
    }
    return rows;
  }
}

/** The rows after a change. */
export function applyChanges(rows: ScheduleRows, changes: RowChanges): ScheduleRows {
  const after = (kind: RowKind): readonly RowOf<RowKind>[] => {
    const change: KindChange<RowOf<RowKind>> | undefined = changes[kind];
    if (!change) return rows[kind];
    const gone = new Set(change.drop);
    const put = new Map(change.put.map((row) => [row.id, row]));
    // Rows keep their place: where hours lie over each other, the later row wins, and the past must stay as it was.
    const kept = rows[kind].filter(({ id }) => !gone.has(id)).map((row) => put.get(row.id) ?? row);
    const known = new Set(rows[kind].map(({ id }) => id));
    return [...kept, ...change.put.filter(({ id }) => !known.has(id))];
  };
  return Object.fromEntries(ROW_KINDS.map((kind) => [kind, after(kind)])) as unknown as ScheduleRows;
}

/** The change that brings the rows back to what they were. */
export function inverseOf(rows: ScheduleRows, changes: RowChanges): RowChanges {
  const inverse: Record<string, KindChange<RowOf<RowKind>>> = {};
  for (const kind of ROW_KINDS) {
    const change: KindChange<RowOf<RowKind>> | undefined = changes[kind];
    if (!change) continue;
    const stood = new Map<string, RowOf<RowKind>>(rows[kind].map((row) => [row.id, row]));
    const touched = [...change.drop, ...change.put.map(({ id }) => id)];
    inverse[kind] = {
      put: touched.flatMap((id) => stood.get(id) ?? []),
      drop: change.put.map(({ id }) => id).filter((id) => !stood.has(id)),
    };
  }
  return inverse as RowChanges;
}

/** Whether nothing changes. */
export function changesNothing(changes: RowChanges): boolean {
  return ROW_KINDS.every((kind) => !changes[kind]?.put.length && !changes[kind]?.drop.length);
}
