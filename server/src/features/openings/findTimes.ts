import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import { type FoundTime, findTimes as contract } from '@zaguan/contracts/openings';
import {
  type Answers,
  type Budget,
  budgetOf,
  countsByDate,
  faultOfParts,
  firstPerProvider,
  firstTimes,
  householdTimes,
  minimalRelaxations,
  type NeedsOfVisit,
  linkedTimes,
  MAX_TRIED,
  seriesTimes,
  type Time,
  type Where,
  withAccess,
  withNeeds,
} from '@zaguan/core/findTime';
import { ClinicIndex, type ClinicStore, type SearchCriteria } from '@zaguan/core/openings';
import { NO_NEEDS } from '@zaguan/core/patients';
import { addDays, type EpochMinute } from '@zaguan/core/time';
import type { Part } from '@zaguan/core/visits';
import { coversSite, type Ctx, nowMinute, sitesFor, siteList } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { handleHeavy } from '../../platform/endpoint/handler.ts';
import { type HeavyTask, isRefusal } from '../../platform/heavy/heavyTask.ts';
import { needsOf } from '../people/index.ts';
import { heldIds } from './openings.repository.ts';

const MAX_SHOWN = 60;
/** Answers that hold together take longer to find, and to read. */
const MAX_TOGETHER = 12;
/** Linked visits and what relaxing "later" looks at reach beyond the asked dates. */
const DAYS_BEYOND = 62;

type TimesInput = InputOf<typeof contract>;
type Found = OutputOf<typeof contract>;

/** A search, with what the thread that does it can't know by itself. */
interface Question {
  readonly input: TimesInput;
  /** The sites that "any site" means to the caller; `null`: all. */
  readonly sites: readonly string[] | null;
  readonly now: Date;
  /** What the booking that asks holds itself. */
  readonly held: readonly string[];
  /** What those who come need, where their records say so. */
  readonly needs: readonly NeedsOfVisit[];
}

/** Nobody waits longer for an answer; what was found by then is shown, and said to be not all. */
const DEADLINE_MS = 6_000;

export const findTimesTask: HeavyTask<Question, Found | 'unknown'> = {
  name: 'find-times',
  threads: 'search',
  deadlineMs: DEADLINE_MS,
  run: async ({ input, sites, now, needs, held }, { clinic, stop }) => {
    const until = addDays(input.from, input.days - 1);
    const weeks = input.series ? input.series.everyWeeks * input.series.count : 0;
    const whole = await clinic.keptStore({ from: input.from, until: addDays(until, DAYS_BEYOND + 7 * weeks) }, now);
    if (!known(whole, input)) return 'unknown';
    const access = [...new Set([...(input.access ?? []), ...needs.flatMap((each) => each.needs.access)])];
    return whole.without(held, () => {
      // What was asked by hand may be given up; how long a visit takes may not.
      const long = withNeeds(
        whole,
        needs.map(({ visitTypeId, needs: { extraMin } }) => ({ visitTypeId, needs: { access: [], extraMin } })),
      );
      return search({ store: withAccess(long, access), whole: long, sites, now: nowMinute({ now }) }, input, stop);
    });
  },
};

/** One search at a time for each account: a new one ends the one before, which answers with what it has. */
const running = new Map<string, AbortController>();

export const findTimes = handleHeavy(
  contract,
  async (ctx: Ctx, input: TimesInput): Promise<Question | Failure<'NotAllowed'>> =>
    input.siteIds.every((id) => coversSite(ctx, 'openings.search', id))
      ? {
          input,
          sites: siteList(sitesFor(ctx, 'openings.search')),
          now: ctx.now,
          held: await heldBy(ctx, input),
          needs: await needsOfMembers(ctx, input),
        }
      : ctx.fail('NotAllowed'),
  async (question, { heavy, signal, accountId }): Promise<Found | Failure<'NotFound'>> => {
    const mine = new AbortController();
    const key = accountId ?? '';
    running.get(key)?.abort();
    running.set(key, mine);
    try {
      const answer = await heavy.run(findTimesTask, question, AbortSignal.any([signal, mine.signal]));
      if (answer === 'unknown') return new Failure('NotFound');
      return isRefusal(answer) ? { ...NOTHING, gaveUp: true } : answer;
    } finally {
      if (running.get(key) === mine) running.delete(key);
    }
  },
);

async function heldBy(ctx: Ctx, { flowId }: TimesInput): Promise<string[]> {
  return flowId && ctx.actor.kind === 'staff' ? heldIds(ctx.em, flowId, ctx.actor.accountId) : [];
}

/** Of everybody who comes and is known, with what they come for. */
async function needsOfMembers(ctx: Ctx, { members }: TimesInput): Promise<NeedsOfVisit[]> {
  const needs = await needsOf(
    ctx.em,
    members.flatMap(({ patientId }) => patientId ?? []),
  );
  return members.map(({ visitTypeId, patientId }) => ({
    visitTypeId,
    needs: needs.get(patientId ?? '') ?? NO_NEEDS,
  }));
}

interface Clinic {
  /** As it is for the asked access, and without regard to it: the same where none was asked. */
  readonly store: ClinicStore;
  readonly whole: ClinicStore;
  readonly sites: readonly string[] | null;
  readonly now: EpochMinute;
}

function search(clinic: Clinic, input: TimesInput, stop: () => boolean): Found {
  const { store, now } = clinic;
  const until = addDays(input.from, input.days - 1);
  const criteriaList = input.members.map(
    ({ visitTypeId, kind, patientId, parts }): SearchCriteria => ({
      ...{ visitTypeId, kind, channel: input.channel, patientId },
      ...(parts && { parts: parts as readonly Part[] }),
    }),
  );
  const { siteIds, providerIds, from, weekdays, fromMinute, toMinute, language } = input;
  const where: Where = { siteIds, providerIds, from, until, weekdays, fromMinute, toMinute, language };
  const [criteria] = criteriaList;
  const together = placeTogether(store, now, criteriaList, where, input, budgetOf(MAX_TRIED, stop));
  if (together) {
    const types = typesOf(store, criteriaList, input);
    const found = together.found.map(({ times }) => times.map((time, i) => toTime(time, types[i])));
    const relaxations =
      found.length || together.gaveUp || criteriaList.length > 1 ? [] : relax(clinic, criteria, where);
    return { ...NOTHING, together: found, gaveUp: together.gaveUp, relaxations };
  }
  const index = new ClinicIndex(store, now);
  const read: Where = { ...where, thinned: true };
  const times = firstTimes(index, criteria, read, MAX_SHOWN + 1).map((time) => toTime(time, criteria.visitTypeId));
  return {
    ...NOTHING,
    times: times.slice(0, MAX_SHOWN),
    more: times.length > MAX_SHOWN,
    perProvider: firstPerProvider(index, criteria, read).map((time) => toTime(time, criteria.visitTypeId)),
    counts: countsByDate(index, criteria, read),
    relaxations: times.length ? [] : relax(clinic, criteria, where),
  };
}

const NOTHING = { times: [], more: false, perProvider: [], counts: [], together: [], gaveUp: false, relaxations: [] };

function known({ plan }: ClinicStore, input: TimesInput): boolean {
  const has = (rows: readonly { id: string }[], id: string) => rows.some((row) => row.id === id);
  const resources = new Set(plan.resources.map(({ id }) => id));
  return (
    input.siteIds.every((id) => has(plan.sites, id)) &&
    input.members.every(({ visitTypeId, parts }) => {
      const type = plan.visitTypes.find(({ id }) => id === visitTypeId);
      return type && !(parts && faultOfParts(resources, type, parts as readonly Part[]));
    }) &&
    (input.providerIds ?? []).every((id) => resources.has(id))
  );
}

/** Visits that must hold together; `null` where there is only one. */
function placeTogether(
  store: ClinicStore,
  now: number,
  criteriaList: readonly SearchCriteria[],
  where: Where,
  { household, series }: TimesInput,
  budget: Budget,
): Answers | null {
  const [criteria] = criteriaList;
  if (criteriaList.length > 1)
    return householdTimes(store, now, { criteriaList, where, ...household }, MAX_TOGETHER, budget);
  if (series) return seriesTimes(store, now, { criteria, where, ...series }, MAX_TOGETHER, budget);
  if (store.visitType(criteria.visitTypeId).links?.length)
    return linkedTimes(store, now, criteria, where, MAX_TOGETHER, budget);
  return null;
}

/** The visit type of each of the visits that hold together. */
function typesOf(store: ClinicStore, criteriaList: readonly SearchCriteria[], { series }: TimesInput): string[] {
  const [{ visitTypeId }] = criteriaList;
  if (criteriaList.length > 1) return criteriaList.map((criteria) => criteria.visitTypeId);
  if (series) return Array.from({ length: series.count }, () => visitTypeId);
  const links = [...(store.visitType(visitTypeId).links ?? [])].sort((a, b) => a.offsetMin - b.offsetMin);
  return [visitTypeId, ...links.map(({ followTypeId }) => followTypeId)];
}

function relax({ store, whole, sites, now }: Clinic, criteria: SearchCriteria, where: Where): Found['relaxations'] {
  const all = store.plan.sites.map(({ id }) => id).filter((id) => sites === null || sites.includes(id));
  const anywhere = store === whole ? null : new ClinicIndex(whole, now);
  return minimalRelaxations(new ClinicIndex(store, now), criteria, where, all, anywhere).map(({ giveUp, first }) => ({
    giveUp: [...giveUp],
    first: toTime(first, criteria.visitTypeId),
  }));
}

function toTime({ siteId, providerId, date, start, end }: Time, visitTypeId: string): FoundTime {
  return { siteId, providerId, visitTypeId, date, start: toWire(start), end: toWire(end) };
}
