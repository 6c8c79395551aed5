import type { Ctx } from '../../platform/endpoint/context.ts';

const OPENS_RESTRICTED = new Set(['manager', 'coordinator']);

/** Whether the caller may open a restricted record, and whatever hangs on it. */
export function mayOpenRestricted(ctx: Ctx): boolean {
  return ctx.actor.kind === 'staff' && OPENS_RESTRICTED.has(ctx.actor.role);
}
