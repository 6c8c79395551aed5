import { epochToWall } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { type RestrictedVisitRow, restrictedVisits } from './restricted.sql.ts';

const OPENS_RESTRICTED = new Set(['manager', 'coordinator']);

/** Whether the caller may open a restricted record, and whatever hangs on it. */
export function mayOpenRestricted(ctx: Ctx): boolean {
  return ctx.actor.kind === 'staff' && OPENS_RESTRICTED.has(ctx.actor.role);
}

/** Treating staff see whom they treat: the visit's provider, and the desk that checks it in, on the visit's own day. */
function treatsToday(ctx: Ctx, visit: RestrictedVisitRow): boolean {
  if (ctx.actor.kind !== 'staff') return false;
  if (epochToWall(visit.timeZone, nowMinute(ctx)).date !== visit.siteDate) return false;
  return ctx.actor.role === 'provider'
    ? ctx.actor.resourceId !== null && ctx.actor.resourceId === visit.providerId
    : coversSite(ctx, 'intake.check-in', visit.siteId);
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
  const rows = await restrictedVisits(ctx.em, asked);
  return new Set(
    rows.filter((row) => !treatsToday(ctx, row) && !(clears && row.openFlag)).map(({ appointmentId: id }) => id),
  );
}

/** The same for one visit. */
export async function isHidden(ctx: Ctx, appointmentId: string): Promise<boolean> {
  return (await hiddenVisits(ctx, [appointmentId])).has(appointmentId);
}
