import { lockNames, mayWaive, planVisit, putPlanned, type VisitPlan } from '@zaguan/core/booking';
import { withAccess } from '@zaguan/core/findTime';
import {
  ClinicIndex,
  ClinicStore,
  type Code,
  nearestOpenings,
  NOTHING_WAIVED,
  type RuleAnswer,
  whyNot,
} from '@zaguan/core/openings';
import { toWire } from '@zaguan/contracts';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { loadSnapshot, visitsOfPatients } from '../openings/index.ts';
import type { Asked } from './resolve.ts';

/** Other times that a lost one is answered with. */
const MAX_NEAREST = 3;
const DAYS_AROUND = 14;
/** Visits on neighboring days are read together. */
const DAYS_TOGETHER = 3;

/** What was planned for one visit. */
export interface PlannedVisit {
  readonly plan: VisitPlan;
  /** The rules it breaks, all of them set aside. */
  readonly broken: readonly Code[];
}

/** The clinic on the days of some visits, fresh and for one use case alone: what is planned is put into it. */
export class Days {
  private constructor(private readonly stores: readonly { from: LocalDate; until: LocalDate; store: ClinicStore }[]) {}

  static async load(ctx: Ctx, asked: readonly Asked[], without: readonly string[]): Promise<Days> {
    const dates = [...new Set(asked.map(({ date }) => date))].sort();
    const spans: { from: LocalDate; until: LocalDate }[] = [];
    for (const date of dates) {
      const last = spans.at(-1);
      if (last && date <= addDays(last.until, DAYS_TOGETHER)) last.until = date;
      else spans.push({ from: date, until: date });
    }
    const stores = [];
    for (const span of spans)
      stores.push({ ...span, store: new ClinicStore(await loadSnapshot(ctx.em, span, ctx.now)) });
    const days = new Days(stores);
    for (const { store } of stores) for (const id of without) store.drop(id);
    await days.addSpaced(ctx, asked);
    return days;
  }

  on(date: LocalDate): ClinicStore {
    const found = this.stores.find(({ from, until }) => from <= date && date <= until);
    if (!found) throw new Error('A day that was not loaded.');
    return found.store;
  }

  put(id: string, asked: Asked, plan: VisitPlan): void {
    for (const { store } of this.stores) putPlanned(store, id, asked, plan);
  }

  /** What spacing is judged by lies on other days: the patients' own visits alone are read for it. */
  private async addSpaced(ctx: Ctx, asked: readonly Asked[]): Promise<void> {
    const reach = Math.max(
      ...asked.map(({ criteria, date }) =>
        Math.max(
          -1,
          ...this.on(date)
            .visitType(criteria.visitTypeId)
            .spacing.map(({ minDays, maxDays }) => Math.max(minDays ?? 0, maxDays === null ? 0 : maxDays + 365)),
        ),
      ),
    );
    if (reach < 0) return;
    const dates = asked.map(({ date }) => date).sort();
    const range = { from: addDays(dates[0], -reach), until: addDays(dates[dates.length - 1], reach) };
    const visits = await visitsOfPatients(ctx.em, [...new Set(asked.map(({ patient }) => patient.id))], range);
    for (const { store } of this.stores)
      for (const visit of visits) if (!store.taken.visit(visit.id)) store.put(visit.id, visit, []);
  }
}

/** Everything that booking these must be alone with, in the order in which it is locked. */
export async function locksFor(ctx: Ctx, asked: readonly Asked[]): Promise<string[]> {
  const names = new Set<string>();
  for (const date of new Set(asked.map((one) => one.date))) {
    const index = new ClinicIndex(await ctx.clinic({ from: date, until: date }), nowMinute(ctx));
    for (const { criteria, siteId, providerId } of asked.filter((one) => one.date === date))
      for (const name of lockNames(index, criteria, siteId, providerId, date)) names.add(name);
  }
  return [...names].sort();
}

/** Which of several could not be had, and why. */
export interface Refused {
  readonly at: number;
  readonly refused: readonly RuleAnswer[];
}

/** What a planned visit is called among the visits of its days, by its place among those asked. */
export const plannedId = (at: number): string => `planned ${at}`;

/**
 * Plans visits one after the other, each with those before it in place: all of them, or the first that can't be had.
 *
 * @param waivedFor rules that are set aside for one of them, by its place
 */
export function planAll(
  ctx: Ctx,
  days: Days,
  asked: readonly Asked[],
  waivedFor: (at: number) => readonly Code[] = () => NOTHING_WAIVED,
): readonly PlannedVisit[] | Refused {
  const planned: PlannedVisit[] = [];
  for (const [at, one] of asked.entries()) {
    const { criteria, siteId, providerId, start, date } = one;
    const index = new ClinicIndex(withAccess(days.on(date), one.patient.access), nowMinute(ctx));
    const broken = whyNot(index, criteria, siteId, providerId, start).answers.filter(({ passed }) => !passed);
    const waived = waivedFor(at).filter(mayWaive);
    const left = broken.filter(({ code }) => !waived.includes(code));
    if (left.length) return { at, refused: left };
    const codes = broken.map(({ code }) => code);
    const made = planVisit(index, criteria, siteId, providerId, start, codes);
    if (!made.ok) return { at, refused: made.refused };
    planned.push({ plan: made.plan, broken: codes });
    days.put(plannedId(at), one, made.plan);
  }
  return planned;
}

/** What each of several visits would break, those before it in place wherever a reason could put them there. */
export function judgeAll(ctx: Ctx, days: Days, asked: readonly Asked[]): readonly (readonly RuleAnswer[])[] {
  return asked.map((one, at) => {
    const { criteria, siteId, providerId, start, date } = one;
    const index = new ClinicIndex(withAccess(days.on(date), one.patient.access), nowMinute(ctx));
    const broken = whyNot(index, criteria, siteId, providerId, start).answers.filter(({ passed }) => !passed);
    const codes = broken.map(({ code }) => code).filter(mayWaive);
    const made = planVisit(index, criteria, siteId, providerId, start, codes);
    if (made.ok) days.put(plannedId(at), one, made.plan);
    return broken;
  });
}

/** Reasons that mean "someone was faster". */
const LOST_RACE: readonly Code[] = ['busy', 'gap-too-short', 'cap-reached', 'never-together', 'patient-elsewhere'];
export const isLostRace = (code: Code): boolean => LOST_RACE.includes(code);

/** A refusal with its reasons, which of the visits it is about, and other times for that one. */
export async function refusePlan(
  ctx: Ctx,
  asked: readonly Asked[],
  { at, refused }: Refused,
): Promise<Failure<'TimeTaken' | 'NotOffered'>> {
  const codes = refused.map(({ code }) => code);
  return ctx.fail(codes.every(isLostRace) ? 'TimeTaken' : 'NotOffered', {
    codes,
    facts: { visit: at, mayWaive: codes.every(mayWaive) },
    nearest: await otherTimes(ctx, asked[at]),
  });
}

async function otherTimes(ctx: Ctx, asked: Asked): Promise<{ start: string; providerId: string | null }[]> {
  const { criteria, siteId, start, date, patient } = asked;
  const [from, today] = [addDays(date, -DAYS_AROUND), earliestDate(ctx)];
  const store = await ctx.clinic({ from: from < today ? today : from, until: addDays(date, DAYS_AROUND) });
  const index = new ClinicIndex(withAccess(store, patient.access), nowMinute(ctx));
  return nearestOpenings(index, criteria, siteId, null, start, MAX_NEAREST, DAYS_AROUND).map((opening) => ({
    start: toWire(opening.start),
    providerId: opening.providerId,
  }));
}
