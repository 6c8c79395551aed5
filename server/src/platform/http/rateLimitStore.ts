import type { ClientRateLimitInfo, Options, Store } from 'express-rate-limit';
import type pg from 'pg';

/** Counts calls in the database, so that several processes agree. One statement a call. Real time, not the domain's. */
export class DatabaseRateLimitStore implements Store {
  readonly localKeys = false;
  private windowMs = 60_000;

  constructor(
    private readonly pool: pg.Pool,
    readonly prefix: string,
  ) {}

  init(options: Options): void {
    this.windowMs = options.windowMs;
  }

  async increment(key: string): Promise<ClientRateLimitInfo> {
    const { rows } = await this.pool.query<{ hits: number; resets_at: Date }>(
      `insert into rate_limit as r (key, hits, resets_at) values ($1, 1, clock_timestamp() + $2 * interval '1 millisecond')
       on conflict (key) do update set
         hits = case when r.resets_at <= clock_timestamp() then 1 else r.hits + 1 end,
         resets_at = case when r.resets_at <= clock_timestamp() then excluded.resets_at else r.resets_at end
       returning hits, resets_at`,
      [this.prefix + key, this.windowMs],
    );
    return { totalHits: rows[0].hits, resetTime: rows[0].resets_at };
  }

  async decrement(key: string): Promise<void> {
    await this.pool.query('update rate_limit set hits = greatest(hits - 1, 0) where key = $1', [this.prefix + key]);
  }

  async resetKey(key: string): Promise<void> {
    await this.pool.query('delete from rate_limit where key = $1', [this.prefix + key]);
  }
}
