import { createServer } from 'node:http';
import pg from 'pg';
import { placeHold } from '@zaguan/contracts/booking';
import { publicDays } from '@zaguan/contracts/openings';
import { addDays } from '@zaguan/core/time';
import { Client, dataOf } from '../../e2e/src/fixtures/client.ts';
import { loadPlan, loadTaken } from '../../server/src/features/openings/openings.sql.ts';
import { on } from '../../server/src/platform/db/statement.ts';
import { BENCH_DAY, benchServer, demoDatabase } from './clinicDatabase.ts';
import { median, type Result, rounded } from './measure.ts';

const WINDOW_DAYS = 90;
const RUNS = 40;

/** A server that only reads the rows a search over the window needs, and writes them out as JSON. */
async function peer(url: string): Promise<{ url: string; stop(): Promise<void> }> {
  const pool = new pg.Pool({ connectionString: url, max: 4 });
  const server = createServer(async (_req, res) => {
    const { rows } = await pool.query<{ now: Date }>(
      "select clock_timestamp() + offset_ms * interval '1 millisecond' as now from domain_clock",
    );
    const dates = { from: BENCH_DAY, until: addDays(BENCH_DAY, WINDOW_DAYS) };
    const run = on(pool);
    const plan = await loadPlan(run, dates);
    const taken = await loadTaken(run, dates, rows[0].now);
    res.setHeader('content-type', 'application/json');
    res.end(JSON.stringify({ plan, taken }));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
  const address = server.address();
  return {
    url: `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`,
    stop: async () => {
      server.close();
      await pool.end();
    },
  };
}

/**
 * The whole way of a patient's search at the largest site of the demo clinic over 90 days, against an endpoint that only
 * reads and serializes the rows. Cold: hours were changed just before. Warm: somebody booked just before.
 */
export async function http(serverUrl: string): Promise<Result> {
  const url = await demoDatabase(serverUrl);
  const sql = new pg.Pool({ connectionString: url, max: 2 });
  const server = await benchServer(url);
  const other = await peer(url);
  try {
    const { rows } = await sql.query<{ site: string; type: string }>(
      `select a.site_id as site, a.visit_type_id as type from appointment a join online_policy p on p.visit_type_id = a.visit_type_id and p.offered
       join visit_type t on t.id = a.visit_type_id where a.starts_at > now() and t.name = 'Follow-up' group by 1, 2 order by count(*) desc limit 1`,
    );
    const criteria = { siteId: rows[0].site, visitTypeId: rows[0].type, kind: 'established' as const };
    const client = new Client(server.url);
    const search = async () => dataOf(await client.call(publicDays, criteria));
    const timed = async (run: () => Promise<unknown>) => {
      const from = performance.now();
      await run();
      return performance.now() - from;
    };
    const read = async () => (await fetch(other.url)).arrayBuffer();
    for (let i = 0; i < 5; i++) {
      await search();
      await read();
    }
    const cold: number[] = [];
    const warm: number[] = [];
    const still: number[] = [];
    const reads: number[] = [];
    let stale = 0;
    for (let i = 0; i < RUNS; i++) {
      await sql.query('update working_hours set to_minute = to_minute');
      cold.push(await timed(search));
      reads.push(await timed(read));
      still.push(await timed(search));
      // Somebody else takes the first time there is: the next search must not show it.
      const before = await search();
      const taker = new Client(server.url);
      if (before.first && (await taker.call(placeHold, { ...criteria, ...before.first })).status === 200) {
        let after = before;
        warm.push(
          await timed(async () => {
            after = await search();
          }),
        );
        if (JSON.stringify(after.first) === JSON.stringify(before.first)) stale++;
      }
    }
    return {
      coldRatio: rounded(median(cold) / median(reads)),
      warmRatio: rounded(median(warm) / median(reads)),
      unchangedRatio: rounded(median(still) / median(reads)),
      staleAnswers: stale,
      readMs: rounded(median(reads)),
      bookedBetween: warm.length,
      unit: 'times the peer’s median, over HTTP on this machine',
      peer: 'an endpoint that reads the same rows by the same queries and writes them out as JSON',
      n: WINDOW_DAYS,
    };
  } finally {
    await server.stop();
    await other.stop();
    await sql.end();
  }
}
