import type pg from 'pg';
import type { HandedOver, SmsCarrier } from './sms.ts';

/**
 * Plays a text-message carrier: an outside system with its own store (the schema `stand_in`, written on its own
 * connections, never in our transactions). It discards a repeated id, and can be told to fail.
 */
export class StandInSms implements SmsCarrier {
  constructor(
    private readonly pool: pg.Pool,
    private readonly now: () => Promise<Date>,
  ) {}

  async send(message: { id: string; to: string; body: string }): Promise<HandedOver> {
    const { rows } = await this.pool.query<{ mode: string }>("select mode from stand_in.carrier where channel = 'sms'");
    if (rows[0]?.mode === 'down') return { ok: false, reason: 'carrier-down', final: false };
    if (rows[0]?.mode === 'refuses') return { ok: false, reason: 'number-refused', final: true };
    await this.pool.query(
      "insert into stand_in.sms (id, direction, number, body, at) values ($1, 'to-patient', $2, $3, $4) on conflict (id) do nothing",
      [message.id, message.to, message.body, await this.now()],
    );
    return { ok: true };
  }
}
