import { type Impact, setupImpact } from '@zaguan/core/impact';
import { ClinicStore } from '@zaguan/core/openings';
import type { SetupKind } from '@zaguan/contracts/setup';
import type { LocalDate } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { clinicForImpact, addVisitsToMove, removeFittingAgain } from '../availability/index.ts';
import { loadSnapshot } from '../openings/index.ts';

/** Kinds of set-up that a search for openings depends on. */
const SEARCHED: readonly SetupKind[] = ['site', 'person', 'place', 'pool', 'visit-type'];

export interface SetupImpact {
  readonly impact: Impact;
  readonly from: LocalDate;
  readonly until: LocalDate;
  /** On how many dates anything differs. */
  readonly days: number;
  readonly stores: { readonly before: ClinicStore; readonly after: ClinicStore };
}

/**
 * The clinic before a change of set-up, and a way to ask what the change did once it is written in this transaction.
 * `null` for kinds that no search depends on.
 */
export async function beforeSetup(
  ctx: Ctx,
  kind: SetupKind,
): Promise<((asked: { visitsOnly: boolean }) => Promise<SetupImpact>) | null> {
  if (!SEARCHED.includes(kind)) return null;
  const { store: before, from, until } = await clinicForImpact(ctx);
  return async ({ visitsOnly }) => {
    const after = new ClinicStore(await loadSnapshot(ctx.em, { from, until }, ctx.now));
    const { days, ...impact } = setupImpact({ before, after, now: nowMinute(ctx), from, until, visitsOnly });
    return { impact, from, until, days: new Set(days.map(({ date }) => date)).size, stores: { before, after } };
  };
}

/** Puts the visits that no longer fit on the list of visits to move, and takes off it those that fit again. */
export async function listVisitsToMove(ctx: Ctx, { visitsToMove, fittingAgain }: Impact): Promise<void> {
  await addVisitsToMove(
    ctx.em,
    visitsToMove.map(({ visit }) => visit.id),
    { at: ctx.now, accountId: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null },
  );
  await removeFittingAgain(ctx.em, fittingAgain);
  if (visitsToMove.length || fittingAgain.length) ctx.emit({ type: 'work-changed' });
}
