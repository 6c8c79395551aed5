import { impactOf, type Impact, noticeShifts } from '@zaguan/core/impact';
import type { ClinicStore } from '@zaguan/core/openings';
import {
  applyChanges,
  changedDays,
  changesNothing,
  replaceable,
  type Resolved,
  resolveReplacing,
  type RowChanges,
  type ScheduleEdit,
  type ScheduleRows,
  touchedBy,
} from '@zaguan/core/schedule';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { mayMakeEdits, referencesExist } from './rights.ts';
import { loadSchedule } from './schedule.repository.ts';
import { lastBookedDate } from './schedule.sql.ts';

/** How far ahead start times are compared: windows do not reach further. Booked visits are judged to the last of them. */
const DAYS_JUDGED = 190;
/** Rows that ended so lately are read too: an undo must find what it wrote. */
const DAYS_BACK = 3;
/** On how many changed days places are counted: each place is a search of its own. */
export const PLACES_ON_DATES = 12;

export interface EvaluatedEdits {
  readonly rows: ScheduleRows;
  readonly resolved: Resolved;
  /** What is in the way and can give way. */
  readonly replaceable: readonly string[];
  /** `null` where the edits can't be done, or change nothing. */
  readonly impact: Impact | null;
  readonly from: LocalDate;
  readonly until: LocalDate;
  readonly days: number;
  /** The clinic as it stands, and as it would be; `null` where nothing was compared. */
  readonly stores: { readonly before: ClinicStore; readonly after: ClinicStore } | null;
}

/** The clinic over all dates that a change is judged on: those that can be booked, and any on which a visit is booked. */
export async function clinicForImpact(ctx: Ctx): Promise<{ store: ClinicStore; from: LocalDate; until: LocalDate }> {
  const from = earliestDate(ctx);
  const ordinary = addDays(from, DAYS_JUDGED);
  const last = await lastBookedDate(ctx.em);
  const until = last !== null && last > ordinary ? last : ordinary;
  return { store: await ctx.clinic({ from, until }), from, until };
}

type Clinic = Awaited<ReturnType<typeof clinicForImpact>>;

/** What some rows of the schedule come to, against those that stand. */
export function computeImpact(
  clinic: Clinic,
  ctx: Ctx,
  rows: ScheduleRows,
  changes: RowChanges,
  placesOnDates: number,
) {
  const { store, from, until } = clinic;
  const before = store.withSchedule(rows);
  const after = store.withSchedule(applyChanges(rows, changes));
  const touched = touchedBy(before, rows, changes);
  const days = changedDays(before, after, touched, from, until);
  const now = nowMinute(ctx);
  const shifted = noticeShifts({ before, after, now }, touched.siteIds, from, until);
  return {
    impact: impactOf({ before, after, days, shifted, now, placesOnDates }),
    from,
    until,
    days: new Set(days.map(({ date }) => date)).size,
    stores: { before, after },
  };
}

/** All rows that hold today or later, and those that ended lately. */
export function currentSchedule(ctx: Ctx): Promise<ScheduleRows> {
  return loadSchedule(ctx.em, addDays(earliestDate(ctx), -DAYS_BACK));
}

/** Makes the edits in thought, after having asked whether the caller may and whether what they name is there. */
export async function evaluateEdits(
  ctx: Ctx,
  edits: readonly ScheduleEdit[],
  {
    placesOnDates,
    replaced = [],
    newId = () => ctx.newId(),
  }: {
    placesOnDates: number;
    /** What may give way to the edits. */
    replaced?: readonly string[];
    newId?: (edit: number) => string;
  },
): Promise<EvaluatedEdits | Failure<'NotAllowed' | 'NotFound'>> {
  const today = earliestDate(ctx);
  const rows = await currentSchedule(ctx);
  if (!(await mayMakeEdits(ctx, edits, rows)))
    return ctx.fail('NotAllowed', { facts: { action: 'availability.edit' } });
  const clinic = await clinicForImpact(ctx);
  const { store, until } = clinic;
  if (!referencesExist(edits, store.plan)) return ctx.fail('NotFound');
  const how = { store, rows, today, newId };
  const resolved = resolveReplacing(edits, replaced, how);
  // What gives way is changed too, and only who may change it can let it.
  if (!(await mayMakeEdits(ctx, resolved.way, rows)))
    return ctx.fail('NotAllowed', { facts: { action: 'availability.edit' } });
  if (resolved.faults.length || changesNothing(resolved.changes))
    return {
      rows,
      resolved,
      replaceable: replaceable(resolved, how),
      impact: null,
      from: today,
      until,
      days: 0,
      stores: null,
    };
  return { rows, resolved, replaceable: [], ...computeImpact(clinic, ctx, rows, resolved.changes, placesOnDates) };
}
