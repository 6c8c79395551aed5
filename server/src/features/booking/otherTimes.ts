import { toWire } from '@zaguan/contracts';
import { ClinicIndex, nearestOpenings, type RuleAnswer, type Wish } from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';

const MOST_SHOWN = 5;
const DAYS_AROUND = 7;

export interface Wanted {
  readonly siteId: string;
  readonly visitTypeId: string;
  readonly providerId: string | null;
  readonly start: number;
  readonly kind: Wish['kind'];
  readonly payerId?: string | null;
  readonly hasReferral?: boolean;
}

/** What is wanted, as a patient's wish. */
export function wishOf({ visitTypeId, kind, payerId, hasReferral }: Wanted): Wish {
  return { visitTypeId, kind, channel: 'online', payerId, hasReferral };
}

/** The nearest other times for a lost race, at the same site, with anyone. */
export async function otherTimes(ctx: Ctx, wanted: Wanted): Promise<{ start: string; providerId: string | null }[]> {
  const { date } = epochToWall('UTC', wanted.start);
  const [from, today] = [addDays(date, -DAYS_AROUND), earliestDate(ctx)];
  // Nothing is offered in the past: without it, the dates are among those that this process keeps.
  const store = await ctx.clinic({ from: from < today ? today : from, until: addDays(date, DAYS_AROUND) });
  const index = new ClinicIndex(store, nowMinute(ctx));
  return nearestOpenings(index, wishOf(wanted), wanted.siteId, null, wanted.start, MOST_SHOWN, DAYS_AROUND).map(
    ({ start, providerId }) => ({ start: toWire(start), providerId }),
  );
}

/** Reasons that mean "someone was faster", as against "this was never on offer". */
const LOST_RACE = new Set(['busy', 'gap-too-short', 'cap-reached', 'never-together']);

/** A refusal with its reasons and other times. */
export async function refuseTime(ctx: Ctx, wanted: Wanted, refused: readonly RuleAnswer[]): Promise<Failure> {
  const codes = refused.map((answer) => answer.code);
  return ctx.fail(codes.every((code) => LOST_RACE.has(code)) ? 'TimeTaken' : 'NotOffered', {
    codes,
    nearest: await otherTimes(ctx, wanted),
  });
}
