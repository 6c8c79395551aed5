import type { SetupKind } from '@zaguan/contracts/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { SetupImpact } from './impact.ts';
import { type RecordKind, type SaveInput, VISITS_TO_MOVE, write } from './saving.ts';

/** What was tried out, on its way past the rollback. */
class Rehearsed extends Error {
  constructor(readonly impact: SetupImpact | null) {
    super('Rolled back: only tried out.');
  }
}

/**
 * What saving would do: it is saved by the same rules and taken back, so that the answer can't differ from the act.
 * `null` where it would be refused (saving says why), or where no search depends on it.
 */
export async function dryRun<D>(
  ctx: Ctx,
  kind: SetupKind,
  rules: RecordKind<D>,
  records: SaveInput<D>['records'],
): Promise<SetupImpact | null> {
  const silent = { emit: () => undefined, wrote: () => undefined, viewed: () => undefined };
  try {
    await ctx.em.transactional(async (em) => {
      const written = await write({ ...ctx, ...silent, em }, kind, rules, { records, agreed: AGREED_TO_ALL });
      const computeImpact = written instanceof Failure ? null : written.computeImpact;
      throw new Rehearsed(computeImpact && (await computeImpact({ visitsOnly: false })));
    });
  } catch (error) {
    if (error instanceof Rehearsed) return error.impact;
    throw error;
  }
  return null;
}

/** Consequences that are asked about when it is saved. */
const AGREED_TO_ALL = ['zone-change:keep-clock', VISITS_TO_MOVE];
