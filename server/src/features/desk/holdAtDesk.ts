import type { InputOf } from '@zaguan/contracts';
import type {
  DeskHold,
  extendDeskHold as extendContract,
  holdAtDesk as holdContract,
  releaseDeskHold as releaseContract,
} from '@zaguan/contracts/desk';
import { HOLD_MINUTES } from '@zaguan/core/booking';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { Hold } from '../../schema/index.ts';
import { insertHold, lockAll } from '../booking/index.ts';
import { deleteHolds, holdsOfFlow, prolongHolds } from './desk.repository.ts';
import { Days, locksFor, planAll, refusePlan } from './plan.ts';
import { type Asked, resolveVisits } from './resolve.ts';

/** Who keeps a time by a button keeps it as long as they like; nobody presses more often than this (WCAG 2.2.1 asks for ten). */
const MAX_EXTENSIONS = 30;

export function accountOf(ctx: Ctx): string {
  if (ctx.actor.kind !== 'staff') throw new Error('Only staff books at the desk.');
  return ctx.actor.accountId;
}

/** Keeps the times of one booking for this account: all of them or none. What the same booking kept before is given back. */
export async function holdAtDesk(
  ctx: Ctx,
  { flowId, visits }: InputOf<typeof holdContract>,
): Promise<AnswerOf<typeof holdContract>> {
  const asked = await resolveVisits(ctx, visits, 'appointment.book', { keep: false });
  if (asked instanceof Failure) return asked;
  // Two of one booking at once: the later one gives back what the earlier one took.
  await lockAll(ctx.em, [`flow:${flowId}`, ...(await locksFor(ctx, asked))]);
  const before = await holdsOfFlow(ctx.em, flowId, accountOf(ctx));
  const days = await Days.load(
    ctx,
    asked,
    before.map(({ id }) => id),
  );
  const planned = planAll(ctx, days, asked);
  if ('refused' in planned) return refusePlan(ctx, asked, planned);
  await giveBack(ctx, before);
  const expiresAt = new Date(ctx.now.getTime() + HOLD_MINUTES * 60_000);
  for (const [i, { plan }] of planned.entries()) {
    await insertHold(ctx.em, newHold(ctx, asked[i], { plan, flowId, expiresAt }), plan.occupancy, ctx.now);
    ctx.emit({ type: 'hold-changed', siteId: asked[i].siteId, date: plan.date });
  }
  return { hold: toWire(ctx, flowId, { expiresAt, extensions: 0 }) };
}

function newHold(
  ctx: Ctx,
  { criteria, siteId, providerId, date, patient, ...asked }: Asked,
  { plan, flowId, expiresAt }: { plan: Planned; flowId: string; expiresAt: Date },
): Omit<Hold, 'extensions'> {
  const instant = (minute: number) => new Date(minute * 60_000);
  return {
    id: ctx.newId(),
    browserHash: null,
    accountId: accountOf(ctx),
    flowId,
    patientId: patient.id,
    parts: criteria.parts ?? null,
    siteId,
    visitTypeId: criteria.visitTypeId,
    providerId,
    patientKind: criteria.kind,
    startsAt: instant(asked.start),
    endsAt: instant(plan.end),
    providerStartsAt: instant(plan.providerStart),
    providerEndsAt: instant(plan.providerEnd),
    beforeMin: asked.beforeMin,
    afterMin: asked.afterMin,
    siteDate: date,
    addressHash: null,
    prefixHash: null,
    provedAt: ctx.now,
    expiresAt,
    createdAt: ctx.now,
  };
}
type Planned = { readonly end: number; readonly providerStart: number; readonly providerEnd: number };

export async function giveBack(ctx: Ctx, holds: readonly Hold[]): Promise<void> {
  await deleteHolds(
    ctx.em,
    holds.map(({ id }) => id),
  );
  for (const { siteId, siteDate } of holds) ctx.emit({ type: 'hold-changed', siteId, date: siteDate });
}

function toWire(ctx: Ctx, flowId: string, { expiresAt, extensions }: Pick<Hold, 'expiresAt' | 'extensions'>): DeskHold {
  return {
    flowId,
    expiresAt: expiresAt.toISOString(),
    secondsLeft: Math.max(0, Math.floor((expiresAt.getTime() - ctx.now.getTime()) / 1000)),
    mayExtend: extensions < MAX_EXTENSIONS,
  };
}

export async function extendDeskHold(
  ctx: Ctx,
  { flowId }: InputOf<typeof extendContract>,
): Promise<AnswerOf<typeof extendContract>> {
  const holds = (await holdsOfFlow(ctx.em, flowId, accountOf(ctx))).filter(({ expiresAt }) => expiresAt > ctx.now);
  const [first] = holds;
  if (!first) return ctx.fail('HoldGone');
  if (first.extensions >= MAX_EXTENSIONS) return { hold: toWire(ctx, flowId, first) };
  const longer = {
    extensions: first.extensions + 1,
    expiresAt: new Date(ctx.now.getTime() + HOLD_MINUTES * 60_000),
  };
  await prolongHolds(
    ctx.em,
    holds.map(({ id }) => id),
    longer,
  );
  return { hold: toWire(ctx, flowId, longer) };
}

/** Giving back what is gone already is no fault. */
export async function releaseDeskHold(
  ctx: Ctx,
  { flowId }: InputOf<typeof releaseContract>,
): Promise<AnswerOf<typeof releaseContract>> {
  await giveBack(ctx, await holdsOfFlow(ctx.em, flowId, accountOf(ctx)));
  return {};
}
