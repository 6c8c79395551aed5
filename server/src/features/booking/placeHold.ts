import { fromWire, type InputOf, type OutputOf } from '@zaguan/contracts';
import type {
  extendHold as extendContract,
  placeHold as placeContract,
  releaseHold as releaseContract,
} from '@zaguan/contracts/booking';
import { lockNames, planVisit } from '@zaguan/core/booking';
import { ClinicIndex, ClinicStore, needsProvider, type Wish } from '@zaguan/core/openings';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { loadSnapshot } from '../openings/index.ts';
import type { Hold } from './booking.entities.ts';
import {
  deleteExpiredHolds,
  deleteHold,
  holdForUpdate,
  holdOfBrowser,
  insertHold,
  insertOccupancy,
  lockAll,
} from './booking.repository.ts';
import { refuseTime, type Wanted, wishOf } from './otherTimes.ts';

/** Shown, and extendable once by a button (WCAG 2.2.1). */
export const HOLD_MINUTES = 10;

/**
 * Keeps a start time for this browser. Everything is planned twice: once on the clinic this process keeps, without
 * locks, so that most losers never wait, and once under them on fresh rows, which alone decides.
 */
export async function placeHold(
  ctx: Ctx,
  input: InputOf<typeof placeContract>,
): Promise<OutputOf<typeof placeContract> | Failure> {
  const browser = ctx.browserHash;
  if (!browser) return ctx.fail('NotAllowed');
  const wanted = { ...input, start: fromWire(input.start) };
  const day = epochToWall('UTC', wanted.start).date;
  const dates = { from: day, until: day };
  const before = look(ctx, await ctx.clinic(dates), wanted, await holdOfBrowser(ctx.em, browser));
  if (!before) return ctx.fail('NotFound');
  const first = planVisit(before.index, before.wish, input.siteId, input.providerId, wanted.start);
  if (!first.ok) return refuseTime(ctx, wanted, first.refused);

  await lockAll(ctx.em, [
    ...lockNames(before.index, before.wish, input.siteId, input.providerId, before.date),
    `browser:${browser.toString('hex')}`,
  ]);
  await deleteExpiredHolds(ctx.em, input.siteId, before.date, ctx.now);
  ctx.em.clear();
  const old = await holdOfBrowser(ctx.em, browser);
  const fresh = look(ctx, new ClinicStore(await loadSnapshot(ctx.em, dates, ctx.now)), wanted, old);
  if (!fresh) return ctx.fail('NotFound');
  const planned = planVisit(fresh.index, fresh.wish, input.siteId, input.providerId, wanted.start);
  if (!planned.ok) return refuseTime(ctx, wanted, planned.refused);

  if (old) {
    await deleteHold(ctx.em, old.id);
    ctx.emit({ type: 'hold-changed', siteId: old.siteId, date: old.siteDate });
  }
  const { plan } = planned;
  const type = fresh.index.visitType(input.visitTypeId);
  const hold: Hold = {
    id: ctx.newId(),
    browserHash: browser,
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
    expiresAt: new Date(ctx.now.getTime() + HOLD_MINUTES * 60_000),
    extended: false,
    createdAt: ctx.now,
  };
  await insertHold(ctx.em, hold);
  await insertOccupancy(ctx.em, { holdId: hold.id }, plan.occupancy);
  ctx.emit({ type: 'hold-changed', siteId: hold.siteId, date: hold.siteDate });
  return { hold: toWireHold(hold, ctx.now) };
}

const instant = (epochMinute: number) => new Date(epochMinute * 60_000);

interface Looked {
  index: ClinicIndex;
  wish: Wish;
  date: string;
}

function look(ctx: Ctx, store: ClinicStore, wanted: Wanted, own: Hold | null): Looked | null {
  const { plan } = store;
  const site = plan.sites.find((row) => row.id === wanted.siteId);
  const type = plan.visitTypes.find((row) => row.id === wanted.visitTypeId);
  const providerKnown =
    wanted.providerId === null || plan.resources.some((row) => row.id === wanted.providerId && row.kind === 'provider');
  if (!site || !type || !providerKnown || needsProvider(type) !== (wanted.providerId !== null)) return null;
  return {
    index: new ClinicIndex(store, nowMinute(ctx)),
    wish: { ...wishOf(wanted), ignoreVisitId: own?.id ?? null },
    date: epochToWall(site.zone, wanted.start).date,
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
    mayExtend: !hold.extended,
    secondsLeft: Math.max(0, Math.floor((hold.expiresAt.getTime() - now.getTime()) / 1000)),
  };
}

export async function extendHold(
  ctx: Ctx,
  { id }: InputOf<typeof extendContract>,
): Promise<OutputOf<typeof extendContract> | Failure> {
  const hold = await holdForUpdate(ctx.em, id);
  if (!hold || !ctx.browserHash?.equals(Buffer.from(hold.browserHash)) || hold.expiresAt <= ctx.now)
    return ctx.fail('HoldGone');
  if (!hold.extended) {
    hold.extended = true;
    hold.expiresAt = new Date(ctx.now.getTime() + HOLD_MINUTES * 60_000);
  }
  return { hold: toWireHold(hold, ctx.now) };
}

/** Giving back what is gone already is no fault: the page may ask twice. */
export async function releaseHold(
  ctx: Ctx,
  { id }: InputOf<typeof releaseContract>,
): Promise<OutputOf<typeof releaseContract>> {
  const hold = await holdForUpdate(ctx.em, id);
  if (hold && ctx.browserHash?.equals(Buffer.from(hold.browserHash))) {
    await deleteHold(ctx.em, hold.id);
    ctx.em.clear();
    ctx.emit({ type: 'hold-changed', siteId: hold.siteId, date: hold.siteDate });
  }
  return {};
}
