import type { VisitPlan } from '@zaguan/core/booking';
import type { ClinicIndex, Code } from '@zaguan/core/openings';
import type { LocalDate } from '@zaguan/core/time';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { insertOverride, singleDevices } from './booking.repository.ts';

/** Keeps who booked a visit against which rules, and why; `null` where it breaks none. */
export async function keepOverride(
  ctx: Ctx,
  appointmentId: string,
  rules: readonly Code[],
  reason: string,
): Promise<string | null> {
  if (!rules.length) return null;
  const id = ctx.newId();
  if (ctx.actor.kind !== 'staff') throw new Error('Only the staff book against rules.');
  await insertOverride(ctx.em, {
    id,
    appointmentId,
    accountId: ctx.actor.accountId,
    reason,
    rules: [...rules],
    at: ctx.now,
  });
  return id;
}

/**
 * One device can't be in two places, whatever reason there is: those that a plan would take while another visit has them.
 *
 * @param own the visit's id in `index`, if it stands there
 */
export async function devicesTakenTwice(
  em: SqlEntityManager,
  index: ClinicIndex,
  own: { readonly siteId: string; readonly date: LocalDate; readonly id: string },
  plan: VisitPlan,
): Promise<string[]> {
  const single = await singleDevices(
    em,
    plan.occupancy.map(({ resourceId }) => resourceId),
  );
  const day = index.day(own.siteId, own.date);
  return plan.occupancy.flatMap(({ resourceId, start, end }) => {
    if (!single.has(resourceId)) return [];
    const others = index
      .occupiedOn(resourceId, day)
      .filter((row) => row.visitId !== own.id && row.start < end && row.end > start);
    return others.length ? [resourceId] : [];
  });
}
