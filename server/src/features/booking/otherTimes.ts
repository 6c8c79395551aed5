import { toWire } from '@zaguan/contracts';
import { ClinicIndex, nearestOpenings, type RuleAnswer, type SearchCriteria } from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';

const MAX_SHOWN = 5;
const DAYS_AROUND = 7;

export interface RequestedTime {
  readonly siteId: string;
  readonly visitTypeId: string;
  readonly providerId: string | null;
  readonly start: number;
  readonly kind: SearchCriteria['kind'];
  readonly payerId?: string | null;
  readonly hasReferral?: boolean;
}

/** The search criteria of a patient who asks for this time. */
export function criteriaOf({ visitTypeId, kind, payerId, hasReferral }: RequestedTime): SearchCriteria {
  return { visitTypeId, kind, channel: 'online', payerId, hasReferral };
}

/** The nearest other times for a lost race, at the same site, with anyone. */
export async function otherTimes(
  ctx: Ctx,
  requested: RequestedTime,
): Promise<{ start: string; providerId: string | null }[]> {
  const { date } = epochToWall('UTC', requested.start);
  const [from, today] = [addDays(date, -DAYS_AROUND), earliestDate(ctx)];
  // Nothing is offered in the past: without it, the dates are among those that this process keeps.
  const store = await ctx.clinic({ from: from < today ? today : from, until: addDays(date, DAYS_AROUND) });
  const index = new ClinicIndex(store, nowMinute(ctx));
  return nearestOpenings(
    index,
    criteriaOf(requested),
    requested.siteId,
    null,
    requested.start,
    MAX_SHOWN,
    DAYS_AROUND,
  ).map(({ start, providerId }) => ({ start: toWire(start), providerId }));
}

/** Reasons that mean "someone was faster", as against "this was never on offer". */
const LOST_RACE = new Set(['busy', 'gap-too-short', 'cap-reached', 'never-together']);

/** A refusal with its reasons and other times. */
export async function refuseTime(
  ctx: Ctx,
  requested: RequestedTime,
  refused: readonly RuleAnswer[],
): Promise<Failure<'TimeTaken' | 'NotOffered'>> {
  const codes = refused.map((answer) => answer.code);
  return ctx.fail(codes.every((code) => LOST_RACE.has(code)) ? 'TimeTaken' : 'NotOffered', {
    codes,
    nearest: await otherTimes(ctx, requested),
  });
}
