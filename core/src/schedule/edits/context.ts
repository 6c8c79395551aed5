import type { ClinicStore } from '../../openings/index.ts';
import type { LocalDate } from '../../time/index.ts';
import type { EditFacts, FaultCode, WarningCode } from '../edits.ts';
import type { ChangeSet, RowKind, RowOf, ScheduleRows } from '../rows.ts';

/** What an edit is resolved with: the rows as the edits before it left them, and where it says what it does. */
export interface EditContext {
  readonly rows: ScheduleRows;
  /** The clinic those rows make. */
  readonly store: ClinicStore;
  readonly today: LocalDate;
  readonly changes: ChangeSet;
  newId(): string;
  refuse(code: FaultCode, facts?: EditFacts): void;
  warn(code: WarningCode, facts?: EditFacts): void;
}

/** A row, or `null` after having refused. */
export function rowOrRefuse<K extends RowKind>(ctx: EditContext, kind: K, id: string): RowOf<K> | null {
  const rows: readonly RowOf<K>[] = ctx.rows[kind];
  const row = rows.find((each) => each.id === id) ?? null;
  if (!row) ctx.refuse('gone', { what: kind });
  return row;
}

/** Refuses to rewrite a date that is over at every site. */
export function isOver(ctx: EditContext, date: LocalDate): boolean {
  if (date >= ctx.today) return false;
  ctx.refuse('over', { date });
  return true;
}
