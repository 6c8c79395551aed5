import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { type InputOf, toWire } from '@zaguan/contracts';
import type { publicDays, publicTimes } from '@zaguan/contracts/openings';
import { ClinicIndex, countByDay, searchOpenings, settlePolicy, type SearchCriteria } from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { longestWindowDays } from './openings.sql.ts';

/** A patient’s search criteria, with whoever pays where that was asked. */
function criteriaOf(input: InputOf<typeof publicDays>): SearchCriteria {
  const { visitTypeId, kind, payerId, hasReferral } = input;
  return { visitTypeId, kind, channel: 'online', payerId, hasReferral };
}

/** The whole booking window: nothing is hidden behind a first page. */
export async function searchDays(ctx: Ctx, input: InputOf<typeof publicDays>): Promise<AnswerOf<typeof publicDays>> {
  const { date } = epochToWall('UTC', nowMinute(ctx));
  // The window's length stands in the policy, which is in the clinic: ask for the longest one offered.
  const days = await longestWindowDays(ctx.em, input.visitTypeId);
  const store = await ctx.clinic({ from: addDays(date, -1), until: addDays(date, days + 1) });
  const site = store.plan.sites.find((row) => row.id === input.siteId);
  if (!site || !store.plan.visitTypes.some((type) => type.id === input.visitTypeId)) return ctx.fail('NotFound');
  const index = new ClinicIndex(store, nowMinute(ctx));
  const criteria = criteriaOf(input);
  const from = epochToWall(site.zone, index.now).date;
  const until = addDays(
    from,
    settlePolicy(store.plan.policies, input.visitTypeId, input.siteId, input.providerId ?? null).windowDays.value,
  );
  const found = countByDay(index, criteria, input.siteId, {
    providerIds: input.providerId ? [input.providerId] : null,
    from,
    until,
  });
  return {
    from,
    until,
    timeZone: site.zone,
    days: found.days,
    first: found.first && { start: toWire(found.first.start), providerId: found.first.providerId },
  };
}

export async function searchTimes(ctx: Ctx, input: InputOf<typeof publicTimes>): Promise<AnswerOf<typeof publicTimes>> {
  const store = await ctx.clinic({ from: input.date, until: input.date });
  const site = store.plan.sites.find((row) => row.id === input.siteId);
  if (!site || !store.plan.visitTypes.some((type) => type.id === input.visitTypeId)) return ctx.fail('NotFound');
  const index = new ClinicIndex(store, nowMinute(ctx));
  const criteria = criteriaOf(input);
  const lanes = new Map<string | null, string[]>();
  for (const opening of searchOpenings(index, criteria, {
    siteIds: [input.siteId],
    providerIds: input.providerId ? [input.providerId] : null,
    from: input.date,
    until: input.date,
  })) {
    const starts = lanes.get(opening.providerId) ?? [];
    starts.push(toWire(opening.start));
    lanes.set(opening.providerId, starts);
  }
  return { timeZone: site.zone, lanes: [...lanes].map(([providerId, starts]) => ({ providerId, starts })) };
}
