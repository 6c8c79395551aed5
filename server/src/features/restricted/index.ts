import { epochToWall } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { openedUntil } from './restricted.repository.ts';
import { type RestrictedVisitRow, restrictedVisits } from './restricted.sql.ts';

export { insertOpening, openedUntil, setSeen, unseenOpenings } from './restricted.repository.ts';

const OPENS_RESTRICTED = new Set(['manager', 'coordinator']);

/** Whether the caller's role opens every restricted record, and whatever hangs on it. */
export function mayOpenRestricted(ctx: Ctx): boolean {
  return ctx.actor.kind === 'staff' && OPENS_RESTRICTED.has(ctx.actor.role);
}

/**
 * The one rule of "may open this record": the role opens all, the record is not restricted, or this account has opened it
 * with a reason within the hour.
 */
export async function mayOpenRecord(
  ctx: Ctx,
  { id, restricted }: { readonly id: string; readonly restricted: boolean },
): Promise<boolean> {
  if (!restricted || mayOpenRestricted(ctx)) return true;
  return ctx.actor.kind === 'staff' && (await openedUntil(ctx.em, id, ctx.actor.accountId, ctx.now)) !== null;
}

/** Treating staff see whom they treat: the visit's provider, and the desk that checks it in, on the visit's own day. */
function treatsToday(ctx: Ctx, visit: RestrictedVisitRow): boolean {
  if (ctx.actor.kind !== 'staff') return false;
  if (epochToWall(visit.timeZone, nowMinute(ctx)).date !== visit.siteDate) return false;
  return ctx.actor.role === 'provider'
    ? ctx.actor.resourceId !== null && ctx.actor.resourceId === visit.providerId
    : coversSite(ctx, 'intake.check-in', visit.siteId);
}

/** Which of these visits are of somebody restricted, whoever asks: for what leaves the application. */
export async function restrictedAmong(ctx: Ctx, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = ids.length ? await restrictedVisits(ctx.em, ids, null, ctx.now) : [];
  return new Set(rows.map(({ appointmentId }) => appointmentId));
}

/**
 * The one rule of "may see this person" where a visit tells whose it is: which of these visits belong to somebody whom the
 * caller may not see. They are shown as "Restricted" with initials, and nothing else of the person. A clinician sees whom
 * an open red flag is about: what must be seen for safety never disappears.
 */
export async function hiddenVisits(ctx: Ctx, ids: readonly (string | null)[]): Promise<ReadonlySet<string>> {
  const asked = [...new Set(ids.filter((id) => id !== null))];
  if (!asked.length || ctx.actor.kind === 'system' || mayOpenRestricted(ctx)) return new Set();
  const clears = ctx.scope('red-flag.clear') !== 'no';
  const account = ctx.actor.kind === 'staff' ? ctx.actor.accountId : null;
  const rows = await restrictedVisits(ctx.em, asked, account, ctx.now);
  return new Set(
    rows
      .filter((row) => !row.opened && !treatsToday(ctx, row) && !(clears && row.openFlag))
      .map(({ appointmentId: id }) => id),
  );
}

/** The same for one visit. */
export async function isHidden(ctx: Ctx, appointmentId: string): Promise<boolean> {
  return (await hiddenVisits(ctx, [appointmentId])).has(appointmentId);
}
