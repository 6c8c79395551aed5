import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { fromWire, type InputOf, type OutputOf } from '@zaguan/contracts';
import type {
  extendHold as extendContract,
  placeHold as placeContract,
  releaseHoldAtDesk as releaseAtDeskContract,
  releaseHold as releaseContract,
} from '@zaguan/contracts/booking';
import { HOLD_MINUTES, type HoldDecision, decideUnprovedHold, lockNames, planVisit } from '@zaguan/core/booking';
import { ClinicIndex, ClinicStore, needsProvider, providerMinutes, type SearchCriteria } from '@zaguan/core/openings';
import { epochToWall } from '@zaguan/core/time';
import type { Shares } from '../../platform/config/config.ts';
import { browserOf, coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { loadSnapshot } from '../openings/index.ts';
import { provedSince } from '../verification/index.ts';
import type { Hold } from '../../schema/index.ts';
import { deleteHold, holdForUpdate, isOfBrowser, prolongHold } from './booking.repository.ts';
import {
  type HolderState,
  holderOnDay,
  holderState,
  insertHold,
  lockAll,
  type UnprovedOnDay,
  unprovedOnDay,
} from './booking.sql.ts';
import { refuseTime, type RequestedTime, criteriaOf } from './otherTimes.ts';

/** A hold is shown, and can be made longer by a button again and again: ten times at least (WCAG 2.2 success criterion 2.2.1). */
const MAX_EXTENSIONS = 10;

/**
 * Keeps a start time for this browser. Everything is planned on the clinic this process keeps, without locks, so that
 * most losers never wait; the same again under them, so that whoever waited in vain keeps the others waiting as short as
 * can be; and at last on fresh rows, which alone decide that the time can be had.
 */
export async function placeHold(
  ctx: Ctx,
  input: InputOf<typeof placeContract>,
  shares: Shares,
): Promise<AnswerOf<typeof placeContract>> {
  const browser = browserOf(ctx);
  const holder = { browser, provedSince: provedSince(), caller: ctx.caller };
  const requested = { ...input, start: fromWire(input.start) };
  const utcDate = epochToWall('UTC', requested.start).date;
  const dates = { from: utcDate, until: utcDate };
  const planOn = ({ index, criteria }: HoldAttempt) =>
    planVisit(index, criteria, input.siteId, input.providerId, requested.start);
  const { own, proved, live } = await holderState(ctx.em, holder, ctx.now);
  const before = look(ctx, await ctx.clinic(dates), requested, own);
  if (!before) return ctx.fail('NotFound');
  const first = planOn(before);
  if (!first.ok) return refuseTime(ctx, requested, first.refused);

  await lockAll(ctx.em, [
    ...lockNames(before.index, before.criteria, input.siteId, input.providerId, before.date),
    `browser:${browser.toString('hex')}`,
    ...callerLocks(ctx, live, shares),
    // What the day has left for those who proved nothing is counted alone.
    ...(proved ? [] : [`holds:${input.siteId}:${before.date}`]),
  ]);
  const day = { siteId: input.siteId, date: before.date };
  const { own: old, live: liveNow, unproved } = await holderOnDay(ctx.em, holder, day, ctx.now);
  const meanwhile = look(ctx, await ctx.clinic(dates), requested, old);
  const second = meanwhile && planOn(meanwhile);
  if (second && !second.ok) return refuseTime(ctx, requested, second.refused);
  const fresh = look(ctx, new ClinicStore(await loadSnapshot(ctx.em, dates, ctx.now)), requested, old);
  if (!fresh) return ctx.fail('NotFound');
  const planned = planOn(fresh);
  if (!planned.ok) return refuseTime(ctx, requested, planned.refused);

  if (old) {
    await deleteHold(ctx.em, old.id);
    ctx.emit({ type: 'hold-changed', siteId: old.siteId, date: old.siteDate });
  }
  const { plan } = planned;
  const type = fresh.index.visitType(input.visitTypeId);
  if (ctx.caller && (liveNow.address >= shares.holdsPerAddress || liveNow.prefix >= shares.holdsPerPrefix))
    return ctx.fail('TooManyRequests');
  const judged: HoldDecision = proved
    ? { minutes: HOLD_MINUTES, giveWay: [] }
    : await makeRoom(
        ctx,
        unproved,
        providerMinutes(fresh.index, input.siteId, plan.date),
        plan.providerEnd - plan.providerStart,
      );
  const hold = {
    id: ctx.newId(),
    browserHash: browser,
    ...NO_DESK,
    siteId: input.siteId,
    visitTypeId: input.visitTypeId,
    providerId: input.providerId,
    patientKind: input.kind,
    startsAt: instant(plan.start),
    endsAt: instant(plan.end),
    providerStartsAt: instant(plan.providerStart),
    providerEndsAt: instant(plan.providerEnd),
    beforeMin: type.beforeMin,
    afterMin: type.afterMin,
    siteDate: plan.date,
    addressHash: ctx.caller?.address ?? null,
    prefixHash: ctx.caller?.prefix ?? null,
    provedAt: proved ? ctx.now : null,
    expiresAt: new Date(ctx.now.getTime() + judged.minutes * 60_000),
    createdAt: ctx.now,
  };
  await insertHold(ctx.em, hold, plan.occupancy, ctx.now);
  ctx.emit({ type: 'hold-changed', siteId: hold.siteId, date: hold.siteDate });
  return { hold: toWireHold({ ...hold, extensions: 0 }, ctx.now) };
}

/** A patient's hold is no account's. */
const NO_DESK = { accountId: null, flowId: null, patientId: null, parts: null };

/** More are never under way at once: far below a limit nobody needs to wait for anybody to be counted. */
const MAX_UNDER_WAY = 500;

/** Near a limit, holds of one address and of one network are counted one after the other. */
function callerLocks(
  { caller }: Ctx,
  live: HolderState['live'],
  { holdsPerAddress, holdsPerPrefix }: Shares,
): string[] {
  if (!caller) return [];
  return [
    ...(live.address + MAX_UNDER_WAY < holdsPerAddress ? [] : [`caller:${caller.address.toString('hex')}`]),
    ...(live.prefix + MAX_UNDER_WAY < holdsPerPrefix ? [] : [`caller:${caller.prefix.toString('hex')}`]),
  ];
}

/** Holds that take more than their share of the day give way; who loses theirs is told by their page, and may hold again. */
async function makeRoom(
  ctx: Ctx,
  { holds, bookedMinutes }: UnprovedOnDay,
  workedMinutes: number,
  minutes: number,
): Promise<HoldDecision> {
  const caller = ctx.caller?.prefix.toString('hex') ?? '';
  const judged = decideUnprovedHold(holds, { caller, minutes }, workedMinutes - bookedMinutes);
  for (const id of judged.giveWay) await deleteHold(ctx.em, id);
  return judged;
}

/** How long a hold lives if it is made longer now: it gives way to nobody, but takes part in the share. */
async function judgeAgain(ctx: Ctx, hold: Hold): Promise<HoldDecision> {
  const store = await ctx.clinic({ from: hold.siteDate, until: hold.siteDate });
  const day = { siteId: hold.siteId, date: hold.siteDate, browser: hold.browserHash ?? Buffer.alloc(0) };
  const { holds, bookedMinutes } = await unprovedOnDay(ctx.em, day, ctx.now);
  const minutes = (hold.providerEndsAt.getTime() - hold.providerStartsAt.getTime()) / 60_000;
  const index = new ClinicIndex(store, nowMinute(ctx));
  const open = providerMinutes(index, hold.siteId, hold.siteDate) - bookedMinutes;
  return decideUnprovedHold(holds, { caller: '', minutes }, open);
}

const instant = (epochMinute: number) => new Date(epochMinute * 60_000);

interface HoldAttempt {
  index: ClinicIndex;
  criteria: SearchCriteria;
  date: string;
}

function look(ctx: Ctx, store: ClinicStore, requested: RequestedTime, own: HolderState['own']): HoldAttempt | null {
  const { plan } = store;
  const site = plan.sites.find((row) => row.id === requested.siteId);
  const type = plan.visitTypes.find((row) => row.id === requested.visitTypeId);
  const providerKnown =
    requested.providerId === null ||
    plan.resources.some((row) => row.id === requested.providerId && row.kind === 'provider');
  if (!site || !type || !providerKnown || needsProvider(type) !== (requested.providerId !== null)) return null;
  return {
    index: new ClinicIndex(store, nowMinute(ctx)),
    criteria: { ...criteriaOf(requested), ignoreVisitId: own?.id ?? null },
    date: epochToWall(site.zone, requested.start).date,
  };
}

function toWireHold(hold: Hold, now: Date): OutputOf<typeof placeContract>['hold'] {
  return {
    id: hold.id,
    siteId: hold.siteId,
    visitTypeId: hold.visitTypeId,
    providerId: hold.providerId ?? null,
    start: hold.startsAt.toISOString(),
    end: hold.endsAt.toISOString(),
    expiresAt: hold.expiresAt.toISOString(),
    mayExtend: hold.extensions < MAX_EXTENSIONS,
    secondsLeft: Math.max(0, Math.floor((hold.expiresAt.getTime() - now.getTime()) / 1000)),
  };
}

export async function extendHold(
  ctx: Ctx,
  { id }: InputOf<typeof extendContract>,
): Promise<AnswerOf<typeof extendContract>> {
  const hold = await holdForUpdate(ctx.em, id);
  if (!hold || !isOfBrowser(hold, ctx.browserHash) || hold.expiresAt <= ctx.now) return ctx.fail('HoldGone');
  if (hold.extensions >= MAX_EXTENSIONS) return { hold: toWireHold(hold, ctx.now) };
  const minutes = hold.provedAt ? HOLD_MINUTES : (await judgeAgain(ctx, hold)).minutes;
  const longer = {
    extensions: hold.extensions + 1,
    // Never shorter than it was.
    expiresAt: new Date(Math.max(hold.expiresAt.getTime(), ctx.now.getTime() + minutes * 60_000)),
  };
  await prolongHold(ctx.em, hold.id, longer);
  return { hold: toWireHold({ ...hold, ...longer }, ctx.now) };
}

/** Giving back what is gone already is no fault: the page may ask twice. */
export async function releaseHold(
  ctx: Ctx,
  { id }: InputOf<typeof releaseContract>,
): Promise<OutputOf<typeof releaseContract>> {
  const hold = await holdForUpdate(ctx.em, id);
  if (hold && isOfBrowser(hold, ctx.browserHash)) {
    await deleteHold(ctx.em, hold.id);
    ctx.emit({ type: 'hold-changed', siteId: hold.siteId, date: hold.siteDate });
  }
  return {};
}

/** The desk gives a time back that somebody keeps online; their page says so and lets them take another one. */
export async function releaseHoldAtDesk(
  ctx: Ctx,
  { id }: InputOf<typeof releaseAtDeskContract>,
): Promise<AnswerOf<typeof releaseAtDeskContract>> {
  const hold = await holdForUpdate(ctx.em, id);
  if (!hold) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.cancel', hold.siteId)) return ctx.fail('NotAllowed');
  await deleteHold(ctx.em, hold.id);
  ctx.emit({ type: 'hold-changed', siteId: hold.siteId, date: hold.siteDate });
  ctx.wrote({ subjects: [{ kind: 'hold', id }], before: { held: true }, after: { held: false } });
  return {};
}
