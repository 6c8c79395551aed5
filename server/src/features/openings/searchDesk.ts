import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fromWire, type InputOf, toWire } from '@zaguan/contracts';
import type { findOpenings, whyNot } from '@zaguan/contracts/openings';
import {
  ClinicIndex,
  needsProvider,
  searchOpenings,
  type SearchCriteria,
  whyNot as explain,
} from '@zaguan/core/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { namesById } from './openings.sql.ts';

const MAX_SHOWN = 50;

export async function find(ctx: Ctx, input: InputOf<typeof findOpenings>): Promise<AnswerOf<typeof findOpenings>> {
  if (!coversSite(ctx, 'openings.search', input.siteId)) return ctx.fail('NotAllowed');
  const until = addDays(input.from, input.days - 1);
  const store = await ctx.clinic({ from: input.from, until });
  if (
    !store.plan.sites.some((row) => row.id === input.siteId) ||
    !store.plan.visitTypes.some((type) => type.id === input.visitTypeId)
  )
    return ctx.fail('NotFound');
  const criteria: SearchCriteria = {
    visitTypeId: input.visitTypeId,
    kind: input.kind,
    channel: input.channel,
    ignoreVisitId: input.movingId,
    payerId: input.payerId,
  };
  const openings = [];
  const range = {
    siteIds: [input.siteId],
    providerIds: input.providerId ? [input.providerId] : null,
    from: input.from,
    until,
  };
  for (const { siteId, providerId, start } of searchOpenings(new ClinicIndex(store, nowMinute(ctx)), criteria, range)) {
    if (openings.length === MAX_SHOWN) return { openings, more: true };
    openings.push({ siteId, providerId, start: toWire(start) });
  }
  return { openings, more: false };
}

/** Every rule about one start, and the names of what its facts point to. */
export async function explainStart(ctx: Ctx, input: InputOf<typeof whyNot>): Promise<AnswerOf<typeof whyNot>> {
  if (!coversSite(ctx, 'openings.search', input.siteId)) return ctx.fail('NotAllowed');
  const start = fromWire(input.start);
  const { date } = epochToWall('UTC', start);
  const store = await ctx.clinic({ from: addDays(date, -1), until: addDays(date, 1) });
  const type = store.plan.visitTypes.find((row) => row.id === input.visitTypeId);
  const provider = input.providerId ? store.plan.resources.find((row) => row.id === input.providerId) : undefined;
  if (!type || !store.plan.sites.some((row) => row.id === input.siteId) || (input.providerId && !provider))
    return ctx.fail('NotFound');
  if (needsProvider(type) && !provider)
    return ctx.fail('InvalidInput', { issues: [{ path: 'providerId', code: 'provider-needed' }] });
  const criteria: SearchCriteria = {
    visitTypeId: type.id,
    kind: input.kind,
    channel: input.channel,
    payerId: input.payerId,
  };
  const { offered, answers } = explain(
    new ClinicIndex(store, nowMinute(ctx)),
    criteria,
    input.siteId,
    input.providerId ?? null,
    start,
  );
  return {
    offered,
    answers: answers.map((answer) => ({
      ...answer,
      facts: answer.facts.map((facts) =>
        Object.fromEntries(
          Object.entries(facts).map(([key, value]) => [
            key,
            typeof value === 'object' && value !== null ? [...value] : value,
          ]),
        ),
      ),
    })),
    names: await namesById(ctx.em),
  };
}
