import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import { type FoundTime, findTimes as contract } from '@zaguan/contracts/openings';
import {
  type Answers,
  type Budget,
  budgetOf,
  countsByDate,
  firstPerProvider,
  firstTimes,
  householdTimes,
  leastRelaxations,
  linkedTimes,
  MAX_TRIED,
  seriesTimes,
  type Time,
  type Where,
  withAccess,
} from '@zaguan/core/findTime';
import { ClinicIndex, type ClinicStore, type Wish } from '@zaguan/core/openings';
import { addDays, type EpochMinute } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute, sitesFor, siteList } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { handleHeavy } from '../../platform/endpoint/handler.ts';
import { type HeavyTask, isRefusal } from '../../platform/heavy/heavyTask.ts';

const MOST_SHOWN = 60;
/** Answers that hold together take longer to find, and to read. */
const MOST_TOGETHER = 12;
/** Linked visits and what relaxing "later" looks at reach beyond the asked dates. */
const DAYS_BEYOND = 62;

type Wanted = InputOf<typeof contract>;
type Found = OutputOf<typeof contract>;

/** A search, with what the thread that does it can't know by itself. */
interface Question {
  readonly wanted: Wanted;
  /** The sites that "any site" means to the caller; `null`: all. */
  readonly sites: readonly string[] | null;
  readonly now: Date;
}

/** Nobody waits longer for an answer; what was found by then is shown, and said to be not all. */
const DEADLINE_MS = 6_000;

export const findTimesTask: HeavyTask<Question, Found | 'unknown'> = {
  name: 'find-times',
  threads: 'search',
  deadlineMs: DEADLINE_MS,
  run: async ({ wanted, sites, now }, { clinic, stop }) => {
    const until = addDays(wanted.from, wanted.days - 1);
    const weeks = wanted.series ? wanted.series.everyWeeks * wanted.series.count : 0;
    const whole = await clinic.kept({ from: wanted.from, until: addDays(until, DAYS_BEYOND + 7 * weeks) }, now);
    if (!known(whole, wanted)) return 'unknown';
    return search(
      { store: withAccess(whole, wanted.access ?? []), whole, sites, now: nowMinute({ now }) },
      wanted,
      stop,
    );
  },
};

/** One search at a time for each account: a new one ends the one before, which answers with what it has. */
const running = new Map<string, AbortController>();

export const findTimes = handleHeavy(
  contract,
  async (ctx: Ctx, wanted: Wanted): Promise<Question | Failure> =>
    wanted.siteIds.every((id) => coversSite(ctx, 'openings.search', id))
      ? { wanted, sites: siteList(sitesFor(ctx, 'openings.search')), now: ctx.now }
      : ctx.fail('NotAllowed'),
  async (question, { heavy, signal, accountId }): Promise<Found | Failure> => {
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

interface Clinic {
  /** As it is for the asked access, and without regard to it: the same where none was asked. */
  readonly store: ClinicStore;
  readonly whole: ClinicStore;
  readonly sites: readonly string[] | null;
  readonly now: EpochMinute;
}

function search(clinic: Clinic, wanted: Wanted, stop: () => boolean): Found {
  const { store, now } = clinic;
  const until = addDays(wanted.from, wanted.days - 1);
  const wishes = wanted.members.map(
    ({ visitTypeId, kind, patientId }): Wish => ({ visitTypeId, kind, channel: wanted.channel, patientId }),
  );
  const { siteIds, providerIds, from, weekdays, fromMinute, toMinute, language } = wanted;
  const where: Where = { siteIds, providerIds, from, until, weekdays, fromMinute, toMinute, language };
  const [wish] = wishes;
  const together = placeTogether(store, now, wishes, where, wanted, budgetOf(MAX_TRIED, stop));
  if (together) {
    const types = typesOf(store, wishes, wanted);
    const found = together.found.map(({ times }) => times.map((time, i) => toTime(time, types[i])));
    const relaxations = found.length || together.gaveUp || wishes.length > 1 ? [] : relax(clinic, wish, where);
    return { ...NOTHING, together: found, gaveUp: together.gaveUp, relaxations };
  }
  const index = new ClinicIndex(store, now);
  const read: Where = { ...where, thinned: true };
  const times = firstTimes(index, wish, read, MOST_SHOWN + 1).map((time) => toTime(time, wish.visitTypeId));
  return {
    ...NOTHING,
    times: times.slice(0, MOST_SHOWN),
    more: times.length > MOST_SHOWN,
    perProvider: firstPerProvider(index, wish, read).map((time) => toTime(time, wish.visitTypeId)),
    counts: countsByDate(index, wish, read),
    relaxations: times.length ? [] : relax(clinic, wish, where),
  };
}

const NOTHING = { times: [], more: false, perProvider: [], counts: [], together: [], gaveUp: false, relaxations: [] };

function known({ plan }: ClinicStore, wanted: Wanted): boolean {
  const has = (rows: readonly { id: string }[], id: string) => rows.some((row) => row.id === id);
  return (
    wanted.siteIds.every((id) => has(plan.sites, id)) &&
    wanted.members.every(({ visitTypeId }) => has(plan.visitTypes, visitTypeId)) &&
    (wanted.providerIds ?? []).every((id) => has(plan.resources, id))
  );
}

/** Visits that must hold together; `null` where there is only one. */
function placeTogether(
  store: ClinicStore,
  now: number,
  wishes: readonly Wish[],
  where: Where,
  { household, series }: Wanted,
  budget: Budget,
): Answers | null {
  const [wish] = wishes;
  if (wishes.length > 1) return householdTimes(store, now, { wishes, where, ...household }, MOST_TOGETHER, budget);
  if (series) return seriesTimes(store, now, { wish, where, ...series }, MOST_TOGETHER, budget);
  if (store.visitType(wish.visitTypeId).links?.length)
    return linkedTimes(store, now, wish, where, MOST_TOGETHER, budget);
  return null;
}

/** The visit type of each of the visits that hold together. */
function typesOf(store: ClinicStore, wishes: readonly Wish[], { series }: Wanted): string[] {
  const [{ visitTypeId }] = wishes;
  if (wishes.length > 1) return wishes.map((wish) => wish.visitTypeId);
  if (series) return Array.from({ length: series.count }, () => visitTypeId);
  const links = [...(store.visitType(visitTypeId).links ?? [])].sort((a, b) => a.offsetMin - b.offsetMin);
  return [visitTypeId, ...links.map(({ followTypeId }) => followTypeId)];
}

function relax({ store, whole, sites, now }: Clinic, wish: Wish, where: Where): Found['relaxations'] {
  const all = store.plan.sites.map(({ id }) => id).filter((id) => sites === null || sites.includes(id));
  const anywhere = store === whole ? null : new ClinicIndex(whole, now);
  return leastRelaxations(new ClinicIndex(store, now), wish, where, all, anywhere).map(({ giveUp, first }) => ({
    giveUp: [...giveUp],
    first: toTime(first, wish.visitTypeId),
  }));
}

function toTime({ siteId, providerId, date, start, end }: Time, visitTypeId: string): FoundTime {
  return { siteId, providerId, visitTypeId, date, start: toWire(start), end: toWire(end) };
}
