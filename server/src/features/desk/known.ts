import type { ClinicPlan } from '@zaguan/core/openings';
import { type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import { knowsPayer, knowsReason } from './desk.repository.ts';

/** What a call may name besides patients; `null` and left out: nothing. */
interface Names {
  readonly visitTypeId?: string;
  readonly siteId?: string | null;
  readonly providerId?: string | null;
  readonly reasonId?: string | null;
  readonly payerId?: string | null;
}

const NOTHING = { visitTypes: [], sites: [], resources: [] } as unknown as ClinicPlan;

/** Whether everything is there that is named. */
export async function areKnown(ctx: Ctx, names: readonly Names[]): Promise<boolean> {
  const ofPlan = names.some(({ visitTypeId, siteId, providerId }) => visitTypeId || siteId || providerId);
  const today = earliestDate(ctx);
  const plan = ofPlan ? (await ctx.clinic({ from: today, until: today })).plan : NOTHING;
  for (const { visitTypeId, siteId, providerId, reasonId, payerId } of names) {
    if (visitTypeId && !plan.visitTypes.some(({ id }) => id === visitTypeId)) return false;
    if (siteId && !plan.sites.some(({ id }) => id === siteId)) return false;
    if (providerId && !plan.resources.some(({ id, kind }) => id === providerId && kind === 'provider')) return false;
    if (reasonId && !(await knowsReason(ctx.em, reasonId))) return false;
    if (payerId && !(await knowsPayer(ctx.em, payerId))) return false;
  }
  return true;
}
