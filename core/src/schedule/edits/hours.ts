import type { DateChange, DateHours, Session } from '../../availability/index.ts';
import { expandWeekly, occursOn } from '../../recurrence/index.ts';
import { addDays, type LocalDate, wallSpansOf, type Weekday, weekdayOf } from '../../time/index.ts';
import type { HoursTerms, Reach, ScheduleEdit } from '../edits.ts';
import { type EditContext, isOver, rowOrRefuse } from './context.ts';

type Edit<K extends ScheduleEdit['do']> = Extract<ScheduleEdit, { do: K }>;

/** Longest look for a first date: more than a year of every eighth week. */
const DAYS_SEARCHED = 400;

export function sessionOf(id: string, subject: Session['subject'], from: LocalDate, terms: HoursTerms): Session {
  const { weekdays, everyWeeks, effectiveUntil, ...rest } = terms;
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
function everHolds({ rule }: Session): boolean {
  const until = addDays(rule.effectiveFrom, DAYS_SEARCHED);
  return expandWeekly(rule, rule.effectiveFrom, until).length > 0;
}

export function addHours(ctx: EditContext, { subject, from, terms }: Edit<'add-hours'>): void {
  const session = sessionOf(ctx.newId(), subject, from, terms);
  if (!endsAfter(ctx, session)) return;
  if (!everHolds(session)) {
    ctx.refuse('never-holds', { from });
    return;
  }
  ctx.changes.put('sessions', session);
}

/** Hours with other terms. They keep their anchor, and with it which weeks are on. */
function withTerms(session: Session, to: Partial<HoursTerms>): Session {
  const { weekdays, everyWeeks, effectiveUntil, ...rest } = to;
  const rule = {
    ...session.rule,
    ...(weekdays && { weekdays: inOrder(weekdays) }),
    ...(everyWeeks && { everyWeeks }),
    ...(effectiveUntil !== undefined && { effectiveUntil }),
  };
  return { ...session, ...rest, rule };
}

export function changeHours(ctx: EditContext, edit: Edit<'change-hours'>): void {
  const session = rowOrRefuse(ctx, 'sessions', edit.hoursId);
  if (!session) return;
  if (edit.reach.of === 'date') {
    changeOnDate(ctx, session, edit.reach.date, edit.to, edit.onDate);
    return;
  }
  split(ctx, session, edit.reach, (part) => withTerms(part, edit.to));
}

export function endHours(ctx: EditContext, { hoursId, reach }: Edit<'end-hours'>): void {
  const session = rowOrRefuse(ctx, 'sessions', hoursId);
  if (!session) return;
  if (reach.of !== 'date') {
    split(ctx, session, reach, () => null);
    return;
  }
  if (isOver(ctx, reach.date)) return;
  if (!occursOn(session.rule, reach.date)) {
    ctx.refuse('not-on-that-date', { date: reach.date });
    return;
  }
  ctx.changes.put('dateChanges', onDate(ctx, session, reach.date, null));
}

/** The single-date change of these hours on a date: the one that stands there is replaced. */
function onDate(ctx: EditContext, session: Session, date: LocalDate, hours: DateHours | null): DateChange {
  const standing = ctx.rows.dateChanges.find((row) => row.sessionId === session.id && row.date === date);
  return { id: standing?.id ?? ctx.newId(), subject: session.subject, sessionId: session.id, date, hours };
}

function changeOnDate(
  ctx: EditContext,
  session: Session,
  date: LocalDate,
  to: Partial<HoursTerms>,
  otherDate: LocalDate | undefined,
): void {
  if (isOver(ctx, date) || isOver(ctx, otherDate ?? date)) return;
  if (!occursOn(session.rule, date)) {
    ctx.refuse('not-on-that-date', { date });
    return;
  }
  const standing = ctx.rows.dateChanges.find((row) => row.sessionId === session.id && row.date === date);
  const now = standing?.hours ?? session;
  const follows = session.followsSiteHours && !standing?.hours;
  if (follows && to.fromMinute === undefined && to.toMinute === undefined) {
    likeTheSite(ctx, session, date, to, otherDate);
    return;
  }
  const { siteId, fromMinute, toMinute, places, accepts, online } = { ...now, ...to };
  const hours: DateHours = { siteId, fromMinute, toMinute, places, accepts, online };
  if (!endsAfter(ctx, hours)) return;
  if (otherDate === undefined || otherDate === date) {
    ctx.changes.put('dateChanges', onDate(ctx, session, date, hours));
    return;
  }
  ctx.changes.put('dateChanges', onDate(ctx, session, date, null));
  const extra = { id: ctx.newId(), subject: session.subject, sessionId: null, date: otherDate, hours };
  ctx.changes.put('dateChanges', extra);
}

/** A date's own hours for such as follow the site's: its stretches of that date, each with the changed terms. */
function likeTheSite(
  ctx: EditContext,
  session: Session,
  date: LocalDate,
  to: Partial<HoursTerms>,
  otherDate: LocalDate | undefined,
): void {
  const day = ctx.store.day(session.siteId, date);
  const [first, ...others] = wallSpansOf(day, ctx.store.siteDay(session.siteId, date).open);
  if (!first) {
    ctx.refuse('not-on-that-date', { date });
    return;
  }
  changeOnDate(ctx, session, date, { ...to, ...first }, otherDate);
  const { siteId, places, accepts, online } = { ...session, ...to };
  for (const span of others) {
    const hours: DateHours = { siteId, ...span, places, accepts, online };
    const extra = { id: ctx.newId(), subject: session.subject, sessionId: null, date: otherDate ?? date, hours };
    ctx.changes.put('dateChanges', extra);
  }
}

/**
 * Takes hours apart where a change begins: what was before it ends the day before, what is not meant goes on as it
 * was, what is meant becomes what `change` makes of it. Single-date changes follow the part that holds on their date.
 */
function split(
  ctx: EditContext,
  session: Session,
  reach: Exclude<Reach, { of: 'date' }>,
  change: (part: Session) => Session | null,
): void {
  const wanted = reach.of === 'from' && reach.date > ctx.today ? reach.date : ctx.today;
  const from = wanted > session.rule.effectiveFrom ? wanted : session.rule.effectiveFrom;
  if (session.rule.effectiveUntil !== null && from > session.rule.effectiveUntil) {
    ctx.refuse('not-on-that-date', { date: from });
    return;
  }
  const begun = from > session.rule.effectiveFrom;
  const others =
    reach.weekday === undefined ? [] : session.rule.weekdays.filter((weekday) => weekday !== reach.weekday);
  const later = (weekdays: readonly Weekday[], id: string): Session => ({
    ...session,
    id,
    rule: { ...session.rule, weekdays, effectiveFrom: from },
  });
  const meant = reach.weekday === undefined ? session.rule.weekdays : [reach.weekday];
  if (!meant.every((weekday) => session.rule.weekdays.includes(weekday))) {
    ctx.refuse('not-on-that-date', { date: from });
    return;
  }
  // The id stays with the past if there is one, else with the other weekdays, else with what changes.
  const rest = others.length ? later(others, begun ? ctx.newId() : session.id) : null;
  const changed = change(later(meant, begun || rest ? ctx.newId() : session.id));
  if (changed && !endsAfter(ctx, changed)) return;
  if (changed && !everHolds(changed)) {
    ctx.refuse('never-holds', { from });
    return;
  }
  if (begun) ctx.changes.put('sessions', { ...session, rule: { ...session.rule, effectiveUntil: addDays(from, -1) } });
  if (rest) ctx.changes.put('sessions', rest);
  if (changed) ctx.changes.put('sessions', changed);
  if (!begun && !rest && !changed) ctx.changes.drop('sessions', session.id);
  for (const row of ctx.rows.dateChanges) {
    if (row.sessionId !== session.id || row.date < from) continue;
    const heir = meant.includes(weekdayOf(row.date)) ? changed : rest;
    if (!heir) ctx.changes.drop('dateChanges', row.id);
    else if (heir.id !== session.id) ctx.changes.put('dateChanges', { ...row, sessionId: heir.id });
    if (heir && !occursOn(heir.rule, row.date)) ctx.warn('change-without-hours', { date: row.date });
  }
}
