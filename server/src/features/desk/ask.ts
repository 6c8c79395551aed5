import { type InputOf, toWire } from '@zaguan/contracts';
import type {
  checkAtDesk as checkContract,
  proposeAtDesk as proposeContract,
  timesOfDay as timesContract,
} from '@zaguan/contracts/desk';
import { mayWaive } from '@zaguan/core/booking';
import { habitsOf, type KnownVisit, proposeTimes, timesFor, type Where, withAccess } from '@zaguan/core/findTime';
import { askedType, ClinicIndex, type ClinicStore, type SearchCriteria } from '@zaguan/core/openings';
import { addDays } from '@zaguan/core/time';
import { lengthOf } from '@zaguan/core/visits';
import { coversSite, type Ctx, nowMinute, sitesFor, siteList } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { Patient } from '../../schema/index.ts';
import { heldIds, namesById } from '../openings/index.ts';
import { habitRows } from './desk.sql.ts';
import { Days, judgeAll } from './plan.ts';
import { bookablePatients, criteriaFor, resolveVisits } from './resolve.ts';

const ANY_TIME = { weekdays: null, fromMinute: 0, toMinute: 1440, language: null } as const;

/** What a booking holds itself. */
async function heldBy(ctx: Ctx, flowId: string | null): Promise<string[]> {
  if (flowId === null || ctx.actor.kind !== 'staff') return [];
  return heldIds(ctx.em, flowId, ctx.actor.accountId);
}

/** By what one patient's visit is searched on some dates. */
async function searchFor(
  ctx: Ctx,
  input: Parameters<typeof criteriaFor>[2] & { patientId: string; flowId: string | null },
  dates: { from: string; until: string },
): Promise<
  | { patient: Patient; criteria: SearchCriteria; store: ClinicStore }
  | Failure<'NotFound' | 'NotAllowed' | 'NotBookable' | 'InvalidInput'>
> {
  const patients = await bookablePatients(ctx, [input.patientId], { keep: false });
  if (patients instanceof Failure) return patients;
  const patient = patients.get(input.patientId) as Patient;
  const whole = await ctx.clinic(dates);
  const criteria = criteriaFor(ctx, whole, input, patient, 'visit');
  if (criteria instanceof Failure) return criteria;
  const [own = null] = await heldBy(ctx, input.flowId);
  return { patient, criteria: { ...criteria, ignoreVisitId: own }, store: withAccess(whole, patient.access) };
}

/** The three best times for somebody, each with why. */
export async function proposeAtDesk(
  ctx: Ctx,
  input: InputOf<typeof proposeContract>,
): Promise<AnswerOf<typeof proposeContract>> {
  if (!input.siteIds.every((id) => coversSite(ctx, 'openings.search', id))) return ctx.fail('NotAllowed');
  const until = addDays(input.from, input.days - 1);
  const search = await searchFor(ctx, input, { from: input.from, until });
  if (search instanceof Failure) return search;
  const { criteria, store, patient } = search;
  const mine = siteList(sitesFor(ctx, 'openings.search'));
  const all = store.plan.sites.map(({ id }) => id);
  const siteIds = input.siteIds.length ? input.siteIds : all.filter((id) => mine === null || mine.includes(id));
  const where: Where = { siteIds, providerIds: input.providerIds, from: input.from, until, ...ANY_TIME };
  const rows = await habitRows(ctx.em, patient, ctx.now);
  const known = (own: boolean): KnownVisit[] =>
    rows.filter((row) => row.own === own && all.includes(row.siteId)).map(({ own: _, ...visit }) => visit);
  const habits = habitsOf(store, known(true), known(false));
  const proposals = proposeTimes(new ClinicIndex(store, nowMinute(ctx)), criteria, where, habits);
  return {
    proposals: proposals.map(({ time, why }) => ({
      ...{ siteId: time.siteId, providerId: time.providerId, date: time.date },
      ...{ start: toWire(time.start), end: toWire(time.end), why: [...why] },
    })),
  };
}

/** Every time of one day at one site. */
export async function timesOfDay(
  ctx: Ctx,
  input: InputOf<typeof timesContract>,
): Promise<AnswerOf<typeof timesContract>> {
  if (!coversSite(ctx, 'openings.search', input.siteId)) return ctx.fail('NotAllowed');
  const search = await searchFor(ctx, input, { from: input.date, until: input.date });
  if (search instanceof Failure) return search;
  const { criteria, patient } = search;
  if (!search.store.plan.sites.some(({ id }) => id === input.siteId)) return ctx.fail('NotFound');
  const beside = await storeBeside(ctx, input, patient);
  if (beside instanceof Failure) return beside;
  const store = beside ?? search.store;
  const where: Where = {
    ...{ siteIds: [input.siteId], providerIds: null, from: input.date, until: input.date },
    ...ANY_TIME,
  };
  const times = [...timesFor(new ClinicIndex(store, nowMinute(ctx)), criteria, where)];
  return {
    times: times.map(({ providerId, start, end }) => ({ providerId, start: toWire(start), end: toWire(end) })),
  };
}

/** The clinic on that date with other visits of the booking in place; `null` where none of them is then. */
async function storeBeside(ctx: Ctx, { beside, date, flowId }: InputOf<typeof timesContract>, { access }: Patient) {
  const others = await resolveVisits(ctx, beside, 'openings.search', { keep: false });
  if (others instanceof Failure) return others;
  const sameDate = others.filter((other) => other.date === date);
  if (!sameDate.length) return null;
  const days = await Days.load(ctx, sameDate, await heldBy(ctx, flowId));
  judgeAll(ctx, days, sameDate);
  return withAccess(days.on(sameDate[0].date), access);
}

/** Which rules visits at times would break. */
export async function checkAtDesk(
  ctx: Ctx,
  input: InputOf<typeof checkContract>,
): Promise<AnswerOf<typeof checkContract>> {
  const asked = await resolveVisits(ctx, input.visits, 'openings.search', { keep: false });
  if (asked instanceof Failure) return asked;
  const days = await Days.load(ctx, asked, await heldBy(ctx, input.flowId));
  return {
    visits: judgeAll(ctx, days, asked).map((broken, at) => {
      const { criteria, date, start } = asked[at];
      return {
        date,
        end: toWire(start + lengthOf(askedType(days.on(date), criteria))),
        broken: broken.map(({ code, facts }) => ({ code, mayWaive: mayWaive(code), facts: facts.map(plain) })),
      };
    }),
    names: await namesById(ctx.em),
  };
}

function plain(facts: Readonly<Record<string, string | number | boolean | null | readonly string[]>>) {
  return Object.fromEntries(
    Object.entries(facts).map(([key, value]) => [
      key,
      typeof value === 'object' && value !== null ? [...value] : value,
    ]),
  );
}
