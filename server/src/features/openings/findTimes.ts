import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import type { FoundTime, findTimes as contract } from '@zaguan/contracts/openings';
import {
  type Answers,
  countsByDate,
  firstPerProvider,
  firstTimes,
  householdTimes,
  leastRelaxations,
  linkedTimes,
  seriesTimes,
  type Time,
  type Where,
  withAccess,
} from '@zaguan/core/findTime';
import { ClinicIndex, type ClinicStore, type Wish } from '@zaguan/core/openings';
import { addDays } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';

const MOST_SHOWN = 60;
/** Answers that hold together take longer to find, and to read. */
const MOST_TOGETHER = 12;
/** Linked visits and what relaxing "later" looks at reach beyond the asked dates. */
const DAYS_BEYOND = 62;

type Wanted = InputOf<typeof contract>;

export async function findTimes(ctx: Ctx, wanted: Wanted): Promise<OutputOf<typeof contract> | Failure> {
  if (!wanted.siteIds.every((id) => coversSite(ctx, 'openings.search', id))) return ctx.fail('NotAllowed');
  const until = addDays(wanted.from, wanted.days - 1);
  const weeks = wanted.series ? wanted.series.everyWeeks * wanted.series.count : 0;
  const whole = await ctx.clinic({ from: wanted.from, until: addDays(until, DAYS_BEYOND + 7 * weeks) });
  if (!known(whole, wanted)) return ctx.fail('NotFound');
  const clinic = { store: withAccess(whole, wanted.access ?? []), whole };
  const { store } = clinic;
  const now = nowMinute(ctx);
  const wishes = wanted.members.map(
    ({ visitTypeId, kind, patientId }): Wish => ({ visitTypeId, kind, channel: wanted.channel, patientId }),
  );
  const { siteIds, providerIds, from, weekdays, fromMinute, toMinute, language } = wanted;
  const where: Where = { siteIds, providerIds, from, until, weekdays, fromMinute, toMinute, language };
  const [wish] = wishes;
  const together = placeTogether(store, now, wishes, where, wanted);
  if (together) {
    const types = typesOf(store, wishes, wanted);
    const found = together.found.map(({ times }) => times.map((time, i) => toTime(time, types[i])));
    const relaxations = found.length || wishes.length > 1 ? [] : relax(ctx, clinic, wish, where);
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
    relaxations: times.length ? [] : relax(ctx, clinic, wish, where),
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
): Answers | null {
  const [wish] = wishes;
  if (wishes.length > 1) return householdTimes(store, now, { wishes, where, ...household }, MOST_TOGETHER);
  if (series) return seriesTimes(store, now, { wish, where, ...series }, MOST_TOGETHER);
  if (store.visitType(wish.visitTypeId).links?.length) return linkedTimes(store, now, wish, where, MOST_TOGETHER);
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

/** @param clinic as it is for the asked access, and without regard to it: the same where none was asked */
function relax(
  ctx: Ctx,
  { store, whole }: { store: ClinicStore; whole: ClinicStore },
  wish: Wish,
  where: Where,
): OutputOf<typeof contract>['relaxations'] {
  const all = store.plan.sites.map(({ id }) => id).filter((id) => coversSite(ctx, 'openings.search', id));
  const now = nowMinute(ctx);
  const anywhere = store === whole ? null : new ClinicIndex(whole, now);
  return leastRelaxations(new ClinicIndex(store, now), wish, where, all, anywhere).map(({ giveUp, first }) => ({
    giveUp: [...giveUp],
    first: toTime(first, wish.visitTypeId),
  }));
}

function toTime({ siteId, providerId, date, start, end }: Time, visitTypeId: string): FoundTime {
  return { siteId, providerId, visitTypeId, date, start: toWire(start), end: toWire(end) };
}
