import type { ClinicStore } from '../openings/index.ts';
import type { LocalDate } from '../time/index.ts';
import { type Collision, collisionsOf, faultOf } from './collisions.ts';
import type { EditKind, Fault, ScheduleEdit, Warning } from './edits.ts';
import { brush } from './edits/brush.ts';
import type { EditContext } from './edits/context.ts';
import { copyDay, copyWeek } from './edits/copying.ts';
import * as dates from './edits/dates.ts';
import * as hours from './edits/hours.ts';
import { makeWay } from './replacing.ts';
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
  /** What can't be worked besides something else, with all dates; each of them is a fault too. */
  readonly collisions: readonly Collision[];
  /** What was done before the edits so that hours in their way give way. */
  readonly way: readonly ScheduleEdit[];
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
  const met: Collision[] = [];
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
    const found = collisionsOf(store.withSchedule(now), done, today);
    met.push(...found);
    faults.push(...found.map((collision) => faultOf(collision, i)));
    warnings.push(...warningsOf(store.withSchedule(now), done, i, today));
    add(total, done);
  });
  if (faults.length) return { changes: {}, rows, faults: eachOnce(faults), warnings, collisions: met, way: [] };
  return { changes: total.against(rows), rows: now, faults, warnings, collisions: [], way: [] };
}

function add(total: ChangeSet, changes: RowChanges): void {
  for (const kind of ROW_KINDS) {
    for (const row of changes[kind]?.put ?? []) total.put(kind, row);
    for (const id of changes[kind]?.drop ?? []) total.drop(kind, id);
  }
}

/**
 * Two stretches of one edit may meet the same hours, or leave no time to get to them on other days: that is said once, by
 * its first date, and being in two places before being late.
 */
function eachOnce(faults: readonly Fault[]): Fault[] {
  const found = new Map<string, Fault>();
  for (const fault of faults) {
    const { sourceId, resourceId } = fault.facts;
    const key = sourceId ? `${resourceId} ${sourceId}` : `${found.size}`;
    const known = found.get(key);
    if (!known || comesBefore(fault, known)) found.set(key, { ...fault, edit: known?.edit ?? fault.edit });
  }
  return [...found.values()];
}

function comesBefore(a: Fault, b: Fault): boolean {
  if (a.code !== b.code) return a.code === 'overlap';
  return (a.facts.date ?? '') < (b.facts.date ?? '');
}

/** Faults of the edits alone, without those that were put before them. */
const ofEdits = <T extends { edit: number }>(told: readonly T[], before: number): T[] =>
  told.map((each) => ({ ...each, edit: Math.max(0, each.edit - before) }));

/**
 * What some edits come to if hours that stand in their way give way.
 *
 * @param replaced ids of hours and single-date changes that may give way; what else is in the way stays a fault
 * @returns as `resolveEdits`; where some of it can't give way, the faults as they are without
 */
export function resolveReplacing(
  edits: readonly ScheduleEdit[],
  replaced: readonly string[],
  how: ResolveWith,
): Resolved {
  const plain = resolveEdits(edits, how);
  const way = wayFor(plain, replaced, how);
  if (!way?.length) return plain;
  const resolved = resolveEdits([...way, ...edits], how);
  return {
    ...resolved,
    way,
    faults: ofEdits(resolved.faults, way.length),
    warnings: ofEdits(resolved.warnings, way.length),
  };
}

/** The ids of what stands in the way and can give way. */
export function replaceable(resolved: Resolved, how: ResolveWith): string[] {
  const ids = new Set(resolved.collisions.map(({ other }) => other.sourceId));
  return [...ids].filter((id) => wayFor(resolved, [id], how)?.length);
}

function wayFor(
  { collisions }: Resolved,
  replaced: readonly string[],
  { rows, today }: ResolveWith,
): ScheduleEdit[] | null {
  const inTheWay = collisions.filter(({ other }) => replaced.includes(other.sourceId));
  return inTheWay.length ? makeWay(inTheWay, rows, today) : null;
}
