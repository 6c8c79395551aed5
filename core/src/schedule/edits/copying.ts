import type { WorkingHours, Subject } from '../../availability/index.ts';
import { addDays, type LocalDate, type Weekday } from '../../time/index.ts';
import type { ScheduleEdit } from '../edits.ts';
import type { EditContext } from './context.ts';

type Edit<K extends ScheduleEdit['do']> = Extract<ScheduleEdit, { do: K }>;

function inForce(ctx: EditContext, subject: Subject, from: LocalDate): WorkingHours[] {
  return ctx.rows.workingHours.filter(
    ({ subject: whose, rule }) =>
      whose.of === subject.of &&
      whose.id === subject.id &&
      (rule.effectiveUntil === null || rule.effectiveUntil >= from),
  );
}

/** Ends hours the day before a date; those that begin later go. Their single-date changes from then on go with them. */
function endBefore(ctx: EditContext, hoursRow: WorkingHours, from: LocalDate): void {
  if (hoursRow.rule.effectiveFrom < from)
    ctx.changes.put('workingHours', { ...hoursRow, rule: { ...hoursRow.rule, effectiveUntil: addDays(from, -1) } });
  else ctx.changes.drop('workingHours', hoursRow.id);
  for (const row of ctx.rows.dateChanges)
    if (row.workingHoursId === hoursRow.id && row.date >= from) ctx.changes.drop('dateChanges', row.id);
}

/** The same hours from a date on, under another id: same weeks on, same end. */
function from(hoursRow: WorkingHours, id: string, date: LocalDate, more: Partial<WorkingHours> = {}): WorkingHours {
  const effectiveFrom = hoursRow.rule.effectiveFrom > date ? hoursRow.rule.effectiveFrom : date;
  return { ...hoursRow, ...more, id, rule: { ...(more.rule ?? hoursRow.rule), effectiveFrom } };
}

/** Copies begin today at the earliest: what was worked before is never rewritten. */
function notBefore(ctx: EditContext, date: LocalDate): LocalDate {
  return date > ctx.today ? date : ctx.today;
}

/** One weekday's hours in place of other weekdays', from a date on. */
export function copyDay(ctx: EditContext, edit: Edit<'copy-day'>): void {
  const since = notBefore(ctx, edit.from);
  const to = edit.to.filter((weekday) => weekday !== edit.weekday);
  const all = inForce(ctx, edit.subject, since);
  const sources = all.filter(({ rule }) => rule.weekdays.includes(edit.weekday));
  if (!sources.length || !to.length) {
    ctx.refuse('nothing-to-copy', { weekday: edit.weekday });
    return;
  }
  for (const hoursRow of all) {
    const left = hoursRow.rule.weekdays.filter((weekday) => !to.includes(weekday));
    if (left.length === hoursRow.rule.weekdays.length) continue;
    endBefore(ctx, hoursRow, since);
    if (left.length) {
      const rest = from(hoursRow, ctx.newId(), since, { rule: { ...hoursRow.rule, weekdays: left } });
      ctx.changes.put('workingHours', rest);
      follow(ctx, hoursRow, rest, since);
    }
  }
  for (const source of sources)
    ctx.changes.put(
      'workingHours',
      from(source, ctx.newId(), since, { rule: { ...source.rule, weekdays: inOrder(to) } }),
    );
}

/** Single-date changes of the weekdays that stay go on with the part that holds them. */
function follow(ctx: EditContext, hoursRow: WorkingHours, heir: WorkingHours, date: LocalDate): void {
  for (const row of ctx.rows.dateChanges)
    if (row.workingHoursId === hoursRow.id && row.date >= date)
      ctx.changes.put('dateChanges', { ...row, workingHoursId: heir.id });
}

function inOrder(weekdays: readonly Weekday[]): Weekday[] {
  return [...new Set(weekdays)].sort((a, b) => a - b);
}

/** One person's recurring week in place of others', from a date on. */
export function copyWeek(ctx: EditContext, edit: Edit<'copy-week'>): void {
  const since = notBefore(ctx, edit.from);
  const sources = inForce(ctx, { of: 'resource', id: edit.of }, since);
  if (!sources.length) {
    ctx.refuse('nothing-to-copy', { resourceId: edit.of });
    return;
  }
  for (const id of edit.to) {
    if (id === edit.of) continue;
    const subject: Subject = { of: 'resource', id };
    for (const hoursRow of inForce(ctx, subject, since)) endBefore(ctx, hoursRow, since);
    for (const source of sources) ctx.changes.put('workingHours', from(source, ctx.newId(), since, { subject }));
  }
}
