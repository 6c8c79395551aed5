import type { Session, Subject } from '../../availability/index.ts';
import { addDays, type LocalDate, type Weekday } from '../../time/index.ts';
import type { ScheduleEdit } from '../edits.ts';
import type { EditContext } from './context.ts';

type Edit<K extends ScheduleEdit['do']> = Extract<ScheduleEdit, { do: K }>;

function inForce(ctx: EditContext, subject: Subject, from: LocalDate): Session[] {
  return ctx.rows.sessions.filter(
    ({ subject: whose, rule }) =>
      whose.of === subject.of &&
      whose.id === subject.id &&
      (rule.effectiveUntil === null || rule.effectiveUntil >= from),
  );
}

/** Ends hours the day before a date; those that begin later go. Their single-date changes from then on go with them. */
function endBefore(ctx: EditContext, session: Session, from: LocalDate): void {
  if (session.rule.effectiveFrom < from)
    ctx.changes.put('sessions', { ...session, rule: { ...session.rule, effectiveUntil: addDays(from, -1) } });
  else ctx.changes.drop('sessions', session.id);
  for (const row of ctx.rows.dateChanges)
    if (row.sessionId === session.id && row.date >= from) ctx.changes.drop('dateChanges', row.id);
}

/** The same hours from a date on, under another id: same weeks on, same end. */
function from(session: Session, id: string, date: LocalDate, more: Partial<Session> = {}): Session {
  const effectiveFrom = session.rule.effectiveFrom > date ? session.rule.effectiveFrom : date;
  return { ...session, ...more, id, rule: { ...(more.rule ?? session.rule), effectiveFrom } };
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
  for (const session of all) {
    const left = session.rule.weekdays.filter((weekday) => !to.includes(weekday));
    if (left.length === session.rule.weekdays.length) continue;
    endBefore(ctx, session, since);
    if (left.length) {
      const rest = from(session, ctx.newId(), since, { rule: { ...session.rule, weekdays: left } });
      ctx.changes.put('sessions', rest);
      follow(ctx, session, rest, since);
    }
  }
  for (const source of sources)
    ctx.changes.put('sessions', from(source, ctx.newId(), since, { rule: { ...source.rule, weekdays: inOrder(to) } }));
}

/** Single-date changes of the weekdays that stay go on with the part that holds them. */
function follow(ctx: EditContext, session: Session, heir: Session, date: LocalDate): void {
  for (const row of ctx.rows.dateChanges)
    if (row.sessionId === session.id && row.date >= date)
      ctx.changes.put('dateChanges', { ...row, sessionId: heir.id });
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
    for (const session of inForce(ctx, subject, since)) endBefore(ctx, session, since);
    for (const source of sources) ctx.changes.put('sessions', from(source, ctx.newId(), since, { subject }));
  }
}
