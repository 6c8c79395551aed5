import { concernedBy } from '@zaguan/core/recalls';
import { readClock } from '../../platform/clock/clock.ts';
import { isDatabaseAway } from '../../platform/db/failures.ts';
import type { Orm } from '../../platform/db/orm.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { storeEvents } from '../../platform/events/events.ts';
import { Poller } from '../../platform/jobs/poller.ts';
import { describeError, type Logger } from '../../platform/log/log.ts';
import { keepPeople, keptPlans } from './keep.ts';
import { forgetStale, hasRuledRegisters, noteRebuild, rebuildForUpdate } from './recalls.repository.ts';
import { concernedAfter, dueForALook, lockRecalls, takeStale, tryLockRecalls } from './recalls.sql.ts';

const POLL_MS = 500;
/** So many people are looked at in one transaction: short enough that nobody waits for it. */
const BATCH = 400;
/** Whom no plan can concern is passed over; so many are looked through in one transaction. */
const STRETCH = 20_000;

/**
 * Whom changes were about, whom a date has come for, and, after a plan or a register changed, everybody, a batch at a
 * time.
 *
 * @returns whether there may be more to do
 */
async function lookAtSome(em: SqlEntityManager, now: Date, { all }: { all: boolean }): Promise<boolean> {
  // First what is asked for, then the plans: one that is saved between the two asks again.
  const asked = all ? await rebuildForUpdate(em) : null;
  const plans = await keptPlans(em);
  // Where nobody is listed, or everybody is looked at from the first one on, it does not matter whom a change was about.
  const isIdle = asked === null && plans.length === 0 && !(await hasRuledRegisters(em));
  if (isIdle || asked?.afterPatientId === null) await forgetStale(em);
  if (isIdle) return false;
  const ids = new Set(await takeStale(em, BATCH));
  for (const id of await dueForALook(em, now, BATCH)) ids.add(id);
  const rebuild = ids.size < BATCH ? asked : null;
  if (rebuild) {
    const of = concernedBy(plans.map(({ plan }) => plan));
    // A register's rule may ask for anybody.
    const everybody = of.everybody || (await hasRuledRegisters(em));
    const next = await concernedAfter(em, {
      ...of,
      ...{ everybody, after: rebuild.afterPatientId, stretch: STRETCH, limit: BATCH },
    });
    await noteRebuild(em, next.upTo);
    for (const id of next.ids) ids.add(id);
  }
  if (!ids.size) return asked !== null;
  if (await keepPeople(em, plans, [...ids], now)) await storeEvents(em, [{ type: 'recalls-changed' }], now);
  return ids.size >= BATCH || asked !== null;
}

/** Before the list is read: what has changed so far is in it. A large change is left to the keeper. */
export async function catchUp(em: SqlEntityManager, now: Date): Promise<void> {
  await lockRecalls(em);
  await lookAtSome(em, now, { all: false });
}

/** One batch, if nobody else is at it. */
function lookOnce(orm: Orm): Promise<boolean> {
  return orm.em.fork().transactional(async (em) => {
    if (!(await tryLockRecalls(em))) return false;
    return lookAtSome(em, await readClock(em), { all: true });
  });
}

/** Works out all that there is to work out now. */
export async function keepRecalls(orm: Orm): Promise<void> {
  while (await lookOnce(orm));
}

/** Keeps the list of who is what to which plan, in every process; one of them is at it at a time. */
export class RecallKeeper {
  private readonly poller = new Poller(POLL_MS, () => this.drain());

  constructor(
    private readonly orm: Orm,
    private readonly log: Logger,
  ) {}

  start(): void {
    this.poller.start();
  }

  stop(): Promise<void> {
    return this.poller.stop();
  }

  private async drain(): Promise<void> {
    try {
      while (!this.poller.isStopped && (await lookOnce(this.orm)));
    } catch (error) {
      if (!isDatabaseAway(error))
        this.log.error({ error: describeError(error) }, 'recalls were not kept; they stay stale');
    }
  }
}
