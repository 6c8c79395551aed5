import type pg from 'pg';
import { Poller } from '../platform/jobs/poller.ts';
import type { CarrierReceipt, CarrierWebhooks } from './carrier.ts';
import { readMail } from './readMail.ts';

const POLL_MS = 300;

/**
 * Hands on what comes back from the simulated carriers, as a real one's calls would. What was handed on is marked only
 * afterwards: a crash in between hands it on again.
 */
export class SimulatedWebhooks {
  private readonly poller = new Poller(POLL_MS, () => this.look().catch(this.onError));

  constructor(
    private readonly pool: pg.Pool,
    private readonly now: () => Promise<Date>,
    private readonly back: CarrierWebhooks,
    private readonly onError: (error: unknown) => void,
  ) {}

  start(): void {
    this.poller.start();
  }

  stop(): Promise<void> {
    return this.poller.stop();
  }

  private async look(): Promise<void> {
    const now = await this.now();
    const { rows: receipts } = await this.pool.query<{
      id: string;
      message_id: string;
      state: CarrierReceipt['state'];
      reason: string | null;
      at: Date;
    }>(
      'select id, message_id, state, reason, at from simulated.receipt where taken_at is null and due_at <= $1 order by id limit 500',
      [now],
    );
    for (const row of receipts) {
      await this.back.receipt({ messageId: row.message_id, state: row.state, reason: row.reason, at: row.at });
      await this.pool.query('update simulated.receipt set taken_at = $1 where id = $2', [now, row.id]);
    }
    // Answers act only once, so one process at a time takes them.
    const client = await this.pool.connect();
    // A lost connection is told to a client that is held, too; unheard, it would end the process.
    let lost: Error | undefined;
    const note = (error: Error) => {
      lost = error;
    };
    client.on('error', note);
    try {
      await client.query('begin');
      const { rows: mails } = await client.query<{ id: string; raw: Buffer; at: Date }>(
        'select id, raw, at from simulated.mail_back where taken_at is null order by id limit 50 for update skip locked',
      );
      for (const row of mails) {
        const read = await readMail(row.raw, row.at);
        if (read?.kind === 'bounce') await this.back.receipt(read.receipt);
        if (read?.kind === 'answer') await this.back.answer(read.answer);
        await client.query('update simulated.mail_back set taken_at = $1 where id = $2', [now, row.id]);
      }
      await client.query('commit');
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      throw error;
    } finally {
      client.off('error', note);
      client.release(lost);
    }
  }
}
