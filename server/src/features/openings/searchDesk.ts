import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fromWire, type InputOf, toWire } from '@zaguan/contracts';
import type { findOpenings, whyNot } from '@zaguan/contracts/openings';
import {
  ClinicIndex,
  needsProvider,
  searchOpenings,
  settlePolicy,
  type SearchCriteria,
  type SearchRange,
  whyNot as explain,
} from '@zaguan/core/openings';
import { type NeedsOfVisit, withNeeds } from '@zaguan/core/findTime';
import { addDays, epochToWall, type LocalDate } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { needsOfVisit, partsOfVisit } from '../people/index.ts';
import { namesById } from './openings.sql.ts';
import { rulesOfTemplate } from './openings.repository.ts';

const MAX_SHOWN = 50;
/** A day is shown whole: five-minute steps of everybody at one site. */
const MAX_OF_A_DAY = 2000;
/** How far ahead the next day with times is looked for. */
const DAYS_AHEAD = 90;

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
    parts: input.movingId ? await partsOfVisit(ctx.em, input.movingId) : null,
    kind: input.kind,
    channel: input.channel,
    ignoreVisitId: input.movingId,
    payerId: input.payerId,
  };
  const range = {
    siteIds: [input.siteId],
    providerIds: input.providerId ? [input.providerId] : null,
    from: input.from,
    until,
  };
  const needs = await needsAsked(ctx, input);
  const index = new ClinicIndex(withNeeds(store, needs), nowMinute(ctx));
  const openings = [];
  for (const { siteId, providerId, date, start } of searchOpenings(index, criteria, range)) {
    if (openings.length === (input.days === 1 ? MAX_OF_A_DAY : MAX_SHOWN)) return { openings, more: true, next: null };
    const { gridMin } = settlePolicy(store.plan.policies, input.visitTypeId, siteId, providerId);
    const { minute } = epochToWall(store.day(siteId, date).zone, start);
    openings.push({ siteId, providerId, start: toWire(start), onGrid: minute % gridMin.value === 0 });
  }
  return {
    openings,
    more: false,
    next: openings.length ? null : await nextDay(ctx, criteria, { ...range, until }, needs),
  };
}

/** What the patient of the visit that is to move needs. */
async function needsAsked(
  ctx: Ctx,
  { movingId, visitTypeId }: InputOf<typeof findOpenings>,
): Promise<readonly NeedsOfVisit[]> {
  return movingId ? [{ visitTypeId, needs: await needsOfVisit(ctx.em, movingId) }] : [];
}

/** The first day after a search that has any start; `null` if there is none for long. */
async function nextDay(
  ctx: Ctx,
  criteria: SearchCriteria,
  range: SearchRange,
  needs: readonly NeedsOfVisit[],
): Promise<LocalDate | null> {
  const [from, until] = [addDays(range.until, 1), addDays(range.until, DAYS_AHEAD)];
  const index = new ClinicIndex(withNeeds(await ctx.clinic({ from, until }), needs), nowMinute(ctx));
  const { value } = searchOpenings(index, criteria, { ...range, from, until }).next();
  return value?.date ?? null;
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
  const rules = input.templateId ? await rulesOfTemplate(ctx.em, input.templateId) : null;
  if (input.templateId && !rules) return ctx.fail('NotFound');
  const criteria: SearchCriteria = {
    visitTypeId: type.id,
    kind: input.kind,
    channel: input.channel,
    payerId: input.payerId,
    ...(rules && { channel: 'invited', limits: rules, deskTimesToo: rules.deskTimesToo }),
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
