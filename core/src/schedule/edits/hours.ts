import type { DateChange, DateHours, WorkingHours } from '../../availability/index.ts';
import { expandWeekly, occursOn } from '../../recurrence/index.ts';
import { addDays, type LocalDate, wallSpansOf, type Weekday, weekdayOf } from '../../time/index.ts';
import type { HoursPattern, Reach, ScheduleEdit } from '../edits.ts';
import { type EditContext, isOver, rowOrRefuse } from './context.ts';

type Edit<K extends ScheduleEdit['do']> = Extract<ScheduleEdit, { do: K }>;

/** Longest look for a first date: more than a year of every eighth week. */
const DAYS_SEARCHED = 400;

export function hoursRowOf(
  id: string,
  subject: WorkingHours['subject'],
  from: LocalDate,
  pattern: HoursPattern,
): WorkingHours {
  const { weekdays, everyWeeks, effectiveUntil, ...rest } = pattern;
  const rule = { weekdays: inOrder(weekdays), everyWeeks, anchorDate: from, effectiveFrom: from, effectiveUntil };
  return { id, subject, rule, ...rest };
}

function inOrder(weekdays: readonly Weekday[]): Weekday[] {
  return [...new Set(weekdays)].sort((a, b) => a - b);
}

/** Refuses a stretch that does not end after it begins. */
function endsAfter(
  ctx: EditContext,
  hours: { fromMinute: number; toMinute: number; followsSiteHours?: boolean },
): boolean {
  const { fromMinute, toMinute, followsSiteHours } = hours;
  if (followsSiteHours || fromMinute < toMinute) return true;
  ctx.refuse('across-midnight', { fromMinute, toMinute });
  return false;
}

/** Whether hours hold on any date from their first on. */
function everHolds({ rule }: WorkingHours): boolean {
  const until = addDays(rule.effectiveFrom, DAYS_SEARCHED);
  return expandWeekly(rule, rule.effectiveFrom, until).length > 0;
}

export function addHours(ctx: EditContext, { subject, from, pattern }: Edit<'add-hours'>): void {
  const hoursRow = hoursRowOf(ctx.newId(), subject, from, pattern);
  if (!endsAfter(ctx, hoursRow)) return;
  if (!everHolds(hoursRow)) {
    ctx.refuse('never-holds', { from });
    return;
  }
  ctx.changes.put('workingHours', hoursRow);
}

/** Hours with other terms. They keep their anchor, and with it which weeks are on. */
function withTerms(hoursRow: WorkingHours, to: Partial<HoursPattern>): WorkingHours {
  const { weekdays, everyWeeks, effectiveUntil, ...rest } = to;
  const rule = {
    ...hoursRow.rule,
    ...(weekdays && { weekdays: inOrder(weekdays) }),
    ...(everyWeeks && { everyWeeks }),
    ...(effectiveUntil !== undefined && { effectiveUntil }),
  };
  return { ...hoursRow, ...rest, rule };
}

export function changeHours(ctx: EditContext, edit: Edit<'change-hours'>): void {
  const hoursRow = rowOrRefuse(ctx, 'workingHours', edit.hoursId);
  if (!hoursRow) return;
  if (edit.reach.of === 'date') {
    changeOnDate(ctx, hoursRow, edit.reach.date, edit.to, edit.onDate);
    return;
  }
  split(ctx, hoursRow, edit.reach, (part) => withTerms(part, edit.to));
}

export function endHours(ctx: EditContext, { hoursId, reach }: Edit<'end-hours'>): void {
  const hoursRow = rowOrRefuse(ctx, 'workingHours', hoursId);
  if (!hoursRow) return;
  if (reach.of !== 'date') {
    split(ctx, hoursRow, reach, () => null);
    return;
  }
  if (isOver(ctx, reach.date)) return;
  if (!occursOn(hoursRow.rule, reach.date)) {
    ctx.refuse('not-on-that-date', { date: reach.date });
    return;
  }
  ctx.changes.put('dateChanges', onDate(ctx, hoursRow, reach.date, null));
}

/** The single-date change of these hours on a date: the one that stands there is replaced. */
function onDate(ctx: EditContext, hoursRow: WorkingHours, date: LocalDate, hours: DateHours | null): DateChange {
  const standing = ctx.rows.dateChanges.find((row) => row.workingHoursId === hoursRow.id && row.date === date);
  return { id: standing?.id ?? ctx.newId(), subject: hoursRow.subject, workingHoursId: hoursRow.id, date, hours };
}

function changeOnDate(
  ctx: EditContext,
  hoursRow: WorkingHours,
  date: LocalDate,
  to: Partial<HoursPattern>,
  otherDate: LocalDate | undefined,
): void {
  if (isOver(ctx, date) || isOver(ctx, otherDate ?? date)) return;
  if (!occursOn(hoursRow.rule, date)) {
    ctx.refuse('not-on-that-date', { date });
    return;
  }
  const standing = ctx.rows.dateChanges.find((row) => row.workingHoursId === hoursRow.id && row.date === date);
  const now = standing?.hours ?? hoursRow;
  const follows = hoursRow.followsSiteHours && !standing?.hours;
  if (follows && to.fromMinute === undefined && to.toMinute === undefined) {
    applySiteHours(ctx, hoursRow, date, to, otherDate);
    return;
  }
  const { siteId, fromMinute, toMinute, places, accepts, online } = { ...now, ...to };
  const hours: DateHours = { siteId, fromMinute, toMinute, places, accepts, online };
  if (!endsAfter(ctx, hours)) return;
  if (otherDate === undefined || otherDate === date) {
    ctx.changes.put('dateChanges', onDate(ctx, hoursRow, date, hours));
    return;
  }
  ctx.changes.put('dateChanges', onDate(ctx, hoursRow, date, null));
  const extra = { id: ctx.newId(), subject: hoursRow.subject, workingHoursId: null, date: otherDate, hours };
  ctx.changes.put('dateChanges', extra);
}

/** A date's own hours for such as follow the site's: its stretches of that date, each with the changed terms. */
function applySiteHours(
  ctx: EditContext,
  hoursRow: WorkingHours,
  date: LocalDate,
  to: Partial<HoursPattern>,
  otherDate: LocalDate | undefined,
): void {
  const day = ctx.store.day(hoursRow.siteId, date);
  const [first, ...others] = wallSpansOf(day, ctx.store.siteDay(hoursRow.siteId, date).open);
  if (!first) {
    ctx.refuse('not-on-that-date', { date });
    return;
  }
  changeOnDate(ctx, hoursRow, date, { ...to, ...first }, otherDate);
  const { siteId, places, accepts, online } = { ...hoursRow, ...to };
  for (const span of others) {
    const hours: DateHours = { siteId, ...span, places, accepts, online };
    const extra = { id: ctx.newId(), subject: hoursRow.subject, workingHoursId: null, date: otherDate ?? date, hours };
    ctx.changes.put('dateChanges', extra);
  }
}

/**
 * Takes hours apart where a change begins: what was before it ends the day before, what is not meant goes on as it
 * was, what is meant becomes what `change` makes of it. Single-date changes follow the part that holds on their date.
 */
function split(
  ctx: EditContext,
  hoursRow: WorkingHours,
  reach: Exclude<Reach, { of: 'date' }>,
  change: (part: WorkingHours) => WorkingHours | null,
): void {
  const wanted = reach.of === 'from' && reach.date > ctx.today ? reach.date : ctx.today;
  const from = wanted > hoursRow.rule.effectiveFrom ? wanted : hoursRow.rule.effectiveFrom;
  if (hoursRow.rule.effectiveUntil !== null && from > hoursRow.rule.effectiveUntil) {
    ctx.refuse('not-on-that-date', { date: from });
    return;
  }
  const begun = from > hoursRow.rule.effectiveFrom;
  const meant = reach.weekdays ? inOrder(reach.weekdays) : hoursRow.rule.weekdays;
  const others = hoursRow.rule.weekdays.filter((weekday) => !meant.includes(weekday));
  const later = (weekdays: readonly Weekday[], id: string): WorkingHours => ({
    ...hoursRow,
    id,
    rule: { ...hoursRow.rule, weekdays, effectiveFrom: from },
  });
  if (!meant.every((weekday) => hoursRow.rule.weekdays.includes(weekday))) {
    ctx.refuse('not-on-that-date', { date: from });
    return;
  }
  // The id stays with the past if there is one, else with the other weekdays, else with what changes.
  const rest = others.length ? later(others, begun ? ctx.newId() : hoursRow.id) : null;
  const changed = change(later(meant, begun || rest ? ctx.newId() : hoursRow.id));
  if (changed && !endsAfter(ctx, changed)) return;
  if (changed && !everHolds(changed)) {
    ctx.refuse('never-holds', { from });
    return;
  }
  if (begun)
    ctx.changes.put('workingHours', { ...hoursRow, rule: { ...hoursRow.rule, effectiveUntil: addDays(from, -1) } });
  if (rest) ctx.changes.put('workingHours', rest);
  if (changed) ctx.changes.put('workingHours', changed);
  if (!begun && !rest && !changed) ctx.changes.drop('workingHours', hoursRow.id);
  for (const row of ctx.rows.dateChanges) {
    if (row.workingHoursId !== hoursRow.id || row.date < from) continue;
    const heir = meant.includes(weekdayOf(row.date)) ? changed : rest;
    if (!heir) ctx.changes.drop('dateChanges', row.id);
    else if (heir.id !== hoursRow.id) ctx.changes.put('dateChanges', { ...row, workingHoursId: heir.id });
    if (heir && !occursOn(heir.rule, row.date)) ctx.warn('change-without-hours', { date: row.date });
  }
}
