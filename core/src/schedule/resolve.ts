import type { ClinicStore } from '../openings/index.ts';
import type { LocalDate } from '../time/index.ts';
import { collisions } from './collisions.ts';
import type { EditKind, Fault, ScheduleEdit, Warning } from './edits.ts';
import { brush } from './edits/brush.ts';
import type { EditContext } from './edits/context.ts';
import { copyDay, copyWeek } from './edits/copying.ts';
import * as dates from './edits/dates.ts';
import * as hours from './edits/hours.ts';
import { applyChanges, ChangeSet, ROW_KINDS, type RowChanges, type ScheduleRows } from './rows.ts';
import { warningsOf } from './warnings.ts';

/** How each edit is done. Leaving one out does not compile. */
const RESOLVERS: { readonly [K in EditKind]: (ctx: EditContext, edit: Extract<ScheduleEdit, { do: K }>) => void } = {
  'add-hours': hours.addHours,
  'change-hours': hours.changeHours,
  'end-hours': hours.endHours,
  'extra-hours': dates.extraHours,
  'drop-date-change': dates.dropDateChange,
  'time-off': dates.timeOff,
  'drop-time-off': dates.dropTimeOff,
  'keep-free': dates.keepFree,
  'drop-kept-free': dates.dropKeptFree,
  brush,
  'copy-day': copyDay,
  'copy-week': copyWeek,
  'close-site': dates.closeSite,
  'drop-closure': dates.dropClosure,
};

export interface Resolved {
  readonly changes: RowChanges;
  /** The rows after the change; the present ones if anything was refused. */
  readonly rows: ScheduleRows;
  readonly faults: readonly Fault[];
  readonly warnings: readonly Warning[];
}

export interface ResolveWith {
  /** The clinic; its schedule rows are taken from `rows`. */
  readonly store: ClinicStore;
  /** All rows of the schedule that hold today or later, complete. */
  readonly rows: ScheduleRows;
  /** The earliest date it is at any site: nothing before it is rewritten. */
  readonly today: LocalDate;
  /** @param edit which edit the row is made by, counted from 0 */
  newId(edit: number): string;
}

/**
 * What some edits of the schedule come to, as rows: each is done on what the ones before it left, and all of them or
 * none. Nothing is read or written here.
 *
 * @returns the change and what is worth knowing; with any fault, nothing may be saved
 */
export function resolveEdits(edits: readonly ScheduleEdit[], { store, rows, today, newId }: ResolveWith): Resolved {
  const faults: Fault[] = [];
  const warnings: Warning[] = [];
  const total = new ChangeSet();
  let now = rows;
  edits.forEach((edit, i) => {
    const changes = new ChangeSet();
    const ctx: EditContext = {
      rows: now,
      store: store.withSchedule(now),
      today,
      changes,
      newId: () => newId(i),
      refuse: (code, facts = {}) => void faults.push({ code, edit: i, facts }),
      warn: (code, facts = {}) => void warnings.push({ code, edit: i, facts }),
    };
    (RESOLVERS[edit.do] as (ctx: EditContext, edit: ScheduleEdit) => void)(ctx, edit);
    const done = changes.against(now);
    now = applyChanges(now, done);
    faults.push(...collisions(store.withSchedule(now), done, i, today));
    warnings.push(...warningsOf(store.withSchedule(now), done, i, today));
    add(total, done);
  });
  if (faults.length) return { changes: {}, rows, faults, warnings };
  return { changes: total.against(rows), rows: now, faults, warnings };
}

function add(total: ChangeSet, changes: RowChanges): void {
  for (const kind of ROW_KINDS) {
    for (const row of changes[kind]?.put ?? []) total.put(kind, row);
    for (const id of changes[kind]?.drop ?? []) total.drop(kind, id);
  }
}
