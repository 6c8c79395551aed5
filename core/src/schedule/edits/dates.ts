import type { DateHours, Subject, TimeOff } from '../../availability/index.ts';
import { addDays, type LocalDate } from '../../time/index.ts';
import type { ScheduleEdit } from '../edits.ts';
import { coverHours } from './cover.ts';
import { type EditContext, isOver, rowOrRefuse } from './context.ts';

type Edit<K extends ScheduleEdit['do']> = Extract<ScheduleEdit, { do: K }>;

export function extraHours(ctx: EditContext, { subject, date, hours, splitTimeOff }: Edit<'extra-hours'>): void {
  if (isOver(ctx, date)) return;
  const away = ctx.rows.timeOff.filter((row) => covers(row, subject, date, hours));
  if (away.length && !splitTimeOff) {
    const { startDate, endDate } = away[0];
    ctx.refuse('inside-time-off', { date, startDate, endDate });
    return;
  }
  for (const row of away) giveWay(ctx, row, date, hours);
  ctx.changes.put('dateChanges', { id: ctx.newId(), subject, workingHoursId: null, date, hours });
}

function covers(row: TimeOff, subject: Subject, date: LocalDate, { siteId, fromMinute, toMinute }: DateHours): boolean {
  if (subject.of !== 'resource' || row.resourceId !== subject.id) return false;
  if (row.siteId !== null && row.siteId !== siteId) return false;
  const starts = `${row.startDate} ${pad(row.startMinute)}`;
  const ends = `${row.endDate} ${pad(row.endMinute)}`;
  return starts < `${date} ${pad(toMinute)}` && ends > `${date} ${pad(fromMinute)}`;
}

function pad(minute: number): string {
  return String(minute).padStart(4, '0');
}

/** Time off with a gap for extra hours: what is left of it before and after. */
function giveWay(
  ctx: EditContext,
  row: EditContext['rows']['timeOff'][number],
  date: LocalDate,
  hours: DateHours,
): void {
  ctx.changes.drop('timeOff', row.id);
  const before = { ...row, id: ctx.newId(), endDate: date, endMinute: hours.fromMinute };
  const after = { ...row, id: ctx.newId(), startDate: date, startMinute: hours.toMinute };
  for (const part of [before, after]) {
    const whole = tidy(part);
    if (`${whole.startDate} ${pad(whole.startMinute)}` < `${whole.endDate} ${pad(whole.endMinute)}`)
      ctx.changes.put('timeOff', whole);
  }
}

/** A span that starts at the very end of a day, or ends at the start of one, told by the neighboring day. */
function tidy<T extends Omit<TimeOff, 'id'>>(span: T): T {
  let { startDate, startMinute, endDate, endMinute } = span;
  if (startMinute === 1440) [startDate, startMinute] = [addDays(startDate, 1), 0];
  if (endMinute === 0) [endDate, endMinute] = [addDays(endDate, -1), 1440];
  return { ...span, startDate, startMinute, endDate, endMinute };
}

export function dropDateChange(ctx: EditContext, { changeId }: Edit<'drop-date-change'>): void {
  if (rowOrRefuse(ctx, 'dateChanges', changeId)) ctx.changes.drop('dateChanges', changeId);
}

export function timeOff(ctx: EditContext, edit: Edit<'time-off'>): void {
  const { siteId, reason, startDate, startMinute, endDate, endMinute } = edit;
  for (const resourceId of new Set(edit.resourceIds)) {
    const away = tidy({ resourceId, siteId, startDate, startMinute, endDate, endMinute });
    ctx.changes.put('timeOff', { id: ctx.newId(), ...away, reason, ...(edit.coverId && { coverId: edit.coverId }) });
    if (edit.coverId) coverHours(ctx, away, edit.coverId);
  }
}

export function dropTimeOff(ctx: EditContext, { id }: Edit<'drop-time-off'>): void {
  if (rowOrRefuse(ctx, 'timeOff', id)) ctx.changes.drop('timeOff', id);
}

export function keepFree(ctx: EditContext, edit: Edit<'keep-free'>): void {
  const { siteId, rule, fromMinute, toMinute, note } = edit;
  for (const resourceId of new Set(edit.resourceIds))
    ctx.changes.put('keptFree', { id: ctx.newId(), resourceId, siteId, rule, fromMinute, toMinute, note });
}

/** From a date on (those days before it stay as they were), or altogether. */
export function dropKeptFree(ctx: EditContext, { id, from }: Edit<'drop-kept-free'>): void {
  const row = rowOrRefuse(ctx, 'keptFree', id);
  if (!row) return;
  const begun = row.rule.effectiveFrom < (from ?? ctx.today);
  if (!begun) ctx.changes.drop('keptFree', id);
  else ctx.changes.put('keptFree', { ...row, rule: { ...row.rule, effectiveUntil: addDays(from ?? ctx.today, -1) } });
}

export function closeSite(ctx: EditContext, edit: Edit<'close-site'>): void {
  const { siteId, reason, startDate, startMinute, endDate, endMinute } = edit;
  ctx.changes.put('closures', { id: ctx.newId(), siteId, reason, startDate, startMinute, endDate, endMinute });
}

export function dropClosure(ctx: EditContext, { id }: Edit<'drop-closure'>): void {
  if (rowOrRefuse(ctx, 'closures', id)) ctx.changes.drop('closures', id);
}
