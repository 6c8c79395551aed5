import { setTimeout } from 'node:timers/promises';
import type pg from 'pg';
import type { HandedOver, SmsCarrier, TextMessage } from './carrier.ts';

const HOUR_MS = 3_600_000;
/** A carrier that answers so late is slow; some do. */
const SLOW_MS = 30_000;

/** Receipts that a message gets in each mode, in the order in which they are handed on. `afterMs` is on the carrier's clock, `dueMs` when it tells. */
const RECEIPTS: Record<string, readonly { state: string; reason?: string; afterMs: number; dueMs: number }[]> = {
  slow: [{ state: 'delivered', afterMs: 800, dueMs: 0 }],
  works: [{ state: 'delivered', afterMs: 800, dueMs: 0 }],
  late: [{ state: 'delivered', afterMs: 900, dueMs: HOUR_MS }],
  // Delivered is told first and last, and that it was sent in between.
  muddled: [
    { state: 'delivered', afterMs: 900, dueMs: 0 },
    { state: 'sent', afterMs: 300, dueMs: 0 },
    { state: 'delivered', afterMs: 900, dueMs: 0 },
  ],
  unreachable: [{ state: 'failed', reason: 'number-unreachable', afterMs: 900, dueMs: 0 }],
};

/**
 * Plays a text-message carrier: an outside system with its own store (the schema `simulated`, written on its own
 * connections, never in our transactions). It discards a repeated id, and can be told to fail.
 */
export class SimulatedSms implements SmsCarrier {
  constructor(
    private readonly pool: pg.Pool,
    private readonly now: () => Promise<Date>,
  ) {}

  async send(message: TextMessage): Promise<HandedOver> {
    const { rows } = await this.pool.query<{ mode: string }>(
      "select mode from simulated.carrier where channel = 'sms'",
    );
    const mode = rows[0]?.mode ?? 'works';
    if (mode === 'down') return { ok: false, reason: 'carrier-down', final: false };
    if (mode === 'refuses') return { ok: false, reason: 'number-refused', final: true };
    if (mode === 'slow') await setTimeout(SLOW_MS, undefined, { ref: false });
    const now = await this.now();
    const later = (ms: number) => new Date(now.getTime() + ms);
    const receipts = (RECEIPTS[mode] ?? []).map(({ state, reason, afterMs, dueMs }) => ({
      state,
      reason: reason ?? null,
      at: later(afterMs),
      due_at: later(dueMs),
    }));
    // One statement, so that a message is never kept without its receipts.
    await this.pool.query(
      `with kept as (insert into simulated.sms (id, direction, number, body, at) values ($1, 'to-patient', $2, $3, $4) on conflict (id) do nothing returning id)
       insert into simulated.receipt (message_id, state, reason, at, due_at)
         select kept.id, r.state, r.reason, r.at, r.due_at from kept, json_to_recordset($5::json) as r(state text, reason text, at timestamptz, due_at timestamptz)`,
      [message.id, message.to, message.body, now, JSON.stringify(receipts)],
    );
    return { ok: true };
  }
}
