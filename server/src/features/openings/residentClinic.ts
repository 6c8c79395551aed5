import { isDeepStrictEqual } from 'node:util';
import type { Occupied } from '@zaguan/core/availability';
import { ClinicStore } from '@zaguan/core/openings';
import { addDays, epochToWall, type LocalDate } from '@zaguan/core/time';
import type pg from 'pg';
import type { ClinicReader } from '../../platform/endpoint/context.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { forgetChanges, currentSnapshot, changesSince } from './changes.sql.ts';
import { type DateRange, type HoldRow, loadPlan, loadSnapshot, loadTaken, readSnapshot } from './openings.sql.ts';
import { on, type Run } from '../../platform/db/statement.ts';

/** Dates kept: what desks and patients look at. Others are read for the one question. */
const DAYS_BACK = 2;
const DAYS_AHEAD = 200;
/** More changes than this are read with everything else. */
const MAX_CHANGES = 2000;
/** Changes are kept longer than any process goes on without having looked. */
const CHANGES_KEPT_MIN = 120;
const MAX_UNSEEN_MS = 60 * 60_000;
const FORGET_EVERY_MS = 10 * 60_000;

interface ResidentState {
  store: ClinicStore;
  readonly range: DateRange;
  /** Epoch milliseconds at which each hold lapses. */
  readonly holds: Map<string, number>;
  /** The database's mark of what has been seen. */
  seen: string;
  lookedAt: number;
}

/**
 * The clinic as this process keeps it between requests. Before each use it asks the database what has changed, in one
 * short query, and takes in just that: never stale for what was committed before the question, and no visit's rows are
 * read twice. A change of what is planned reads the plan anew and keeps what is taken. Reads on connections of its own, never in a use case's transaction: what that one has not committed is nobody
 * else's to see.
 */
export class ResidentClinic implements ClinicReader {
  private current: ResidentState | null = null;
  private running: Promise<void> | null = null;
  private next: Promise<void> | null = null;
  private forgottenAt = 0;

  constructor(private readonly pool: pg.Pool) {}

  async read(em: SqlEntityManager, dates: DateRange, now: Date): Promise<ClinicStore> {
    return (await this.held(dates, now)) ?? new ClinicStore(await loadSnapshot(em, dates, now));
  }

  async keptStore(dates: DateRange, now: Date): Promise<ClinicStore> {
    return (await this.held(dates, now)) ?? new ClinicStore(await readSnapshot(on(this.pool), dates, now));
  }

  /** `null` if these dates are not kept. */
  private async held(dates: DateRange, now: Date): Promise<ClinicStore | null> {
    await this.catchUp(now);
    const { current } = this;
    if (!current || dates.from < current.range.from || dates.until > current.range.until) return null;
    for (const [id, expiresAt] of current.holds) if (expiresAt <= now.getTime()) lapse(current, id);
    return current.store;
  }

  /** One look serves all who asked before it began; who comes while it runs waits for the next one. */
  private catchUp(now: Date): Promise<void> {
    if (!this.running) {
      this.running = this.look(now).finally(() => {
        this.running = null;
      });
      return this.running;
    }
    this.next ??= this.running
      .catch(() => undefined)
      .then(() => {
        this.next = null;
        return this.catchUp(now);
      });
    return this.next;
  }

  private async look(now: Date): Promise<void> {
    const today = epochToWall('UTC', Math.floor(now.getTime() / 60_000)).date;
    const state = this.current;
    if (!state || state.range.from !== firstKept(today) || performance.now() - state.lookedAt > MAX_UNSEEN_MS)
      return this.readAll(today, now);
    const run = on(this.pool);
    const lookedAt = performance.now();
    const news = await changesSince(run, state.seen);
    if (news.visits.length > MAX_CHANGES) return this.readAll(today, now);
    if (news.plan) {
      const { caps, ...plan } = await loadPlan(run, state.range);
      // What is taken is counted by the limits: with others it must be counted anew.
      if (!isDeepStrictEqual(caps, state.store.plan.caps)) return this.readAll(today, now);
      state.store = state.store.withSchedule(plan);
    }
    if (news.visits.length) await this.takeIn(state, news.visits, run, now);
    state.seen = news.seen;
    state.lookedAt = lookedAt;
    await this.forget(run);
  }

  private async takeIn(state: ResidentState, ids: readonly string[], run: Run, now: Date): Promise<void> {
    const { occupied, visits, holds } = await loadTaken(run, state.range, now, ids);
    const visitOf = new Map([...visits, ...holds].map((visit) => [visit.id, visit]));
    const occupiedBy = new Map<string, Occupied[]>();
    for (const row of occupied) occupiedBy.set(row.visitId, [...(occupiedBy.get(row.visitId) ?? []), row]);
    try {
      for (const id of ids) {
        state.holds.delete(id);
        const visit = visitOf.get(id) ?? null;
        const rows = occupiedBy.get(id) ?? [];
        if (visit || rows.length) state.store.put(id, visit, rows);
        else state.store.drop(id);
      }
      noteHolds(state.holds, holds);
    } catch (error) {
      // Half taken in is worse than not there: the next look reads everything.
      this.current = null;
      throw error;
    }
  }

  private async readAll(today: LocalDate, now: Date): Promise<void> {
    const range = { from: firstKept(today), until: addDays(today, DAYS_AHEAD) };
    const lookedAt = performance.now();
    const client = await this.pool.connect();
    let broken: Error | undefined;
    try {
      const run = on(client);
      // One snapshot for all that is read: the mark, the plan and what is taken belong together.
      await client.query('begin isolation level repeatable read, read only');
      const seen = await currentSnapshot(run);
      const plan = await loadPlan(run, range);
      const { occupied, visits, holds } = await loadTaken(run, range, now);
      await client.query('commit');
      const lapses = new Map<string, number>();
      noteHolds(lapses, holds);
      const store = new ClinicStore({ ...plan, occupied, visits: [...visits, ...holds] });
      this.current = { store, range, holds: lapses, seen, lookedAt };
    } catch (error) {
      broken = error instanceof Error ? error : new Error('The clinic could not be read.');
      throw error;
    } finally {
      // A connection in the middle of a failed transaction is not given to the next one.
      client.release(broken);
    }
  }

  private async forget(run: Run): Promise<void> {
    if (performance.now() - this.forgottenAt < FORGET_EVERY_MS) return;
    this.forgottenAt = performance.now();
    await forgetChanges(run, CHANGES_KEPT_MIN);
  }
}

function firstKept(today: LocalDate): LocalDate {
  return addDays(today, -DAYS_BACK);
}

function noteHolds(lapses: Map<string, number>, holds: readonly HoldRow[]): void {
  for (const { id, expiresAt } of holds) lapses.set(id, expiresAt);
}

function lapse(state: ResidentState, id: string): void {
  state.holds.delete(id);
  state.store.drop(id);
}
