import { existsSync } from 'node:fs';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { daybookDay } from '@zaguan/contracts/daybook';
import { siteRows } from '@zaguan/server/features/clinic/index';
import { delaysOf, notesOf } from '@zaguan/server/features/daybook/daybook.repository';
import { laneRows, plateRows } from '@zaguan/server/features/daybook/daybook.sql';
import { loadReadiness } from '@zaguan/server/features/intake/index';
import { readClock } from '@zaguan/server/platform/clock/clock';
import { openOrm } from '@zaguan/server/platform/db/orm';
import { type Client, dataOf, signedIn } from '../../e2e/src/fixtures/client.ts';
import { startPostgres } from '../../scripts/setup/postgres.mjs';
import { BENCH_DAY, benchServer, demoDatabase } from './clinicDatabase.ts';
import { median, type Result, rounded } from './measure.ts';

const SCALE = join(import.meta.dirname, '../../.zaguan/scale/postgres');
const CLIENTS = 64;
const ROUNDS = 3;
/** Answers that each client waits for in a round. */
const EACH = 2;
/** As many connections as a server's process has. */
const CONNECTIONS = 10;

/** A server that reads the rows of a site's day by the queries of the Daybook, and writes them out as JSON. */
async function peer(url: string, date: string, siteId: string): Promise<{ url: string; stop(): Promise<void> }> {
  const orm = await openOrm({ url, connections: CONNECTIONS });
  const read = () =>
    orm.em.fork().transactional(async (em) => {
      const now = await readClock(em);
      const plates = await plateRows(em, [date], now, { siteId });
      const ids = [...new Set(plates.filter(({ kind }) => kind === 'visit').map(({ visitId }) => visitId))];
      return [
        ...[await siteRows(em), await laneRows(em), plates, await loadReadiness(em, ids)],
        ...[await notesOf(em, [date]), await delaysOf(em, [date])],
      ];
    });
  const server = createServer((_req, res) => {
    read().then(
      (rows) => {
        res.setHeader('content-type', 'application/json');
        res.end(JSON.stringify(rows));
      },
      (error: unknown) => {
        res.statusCode = 500;
        res.end(String(error));
      },
    );
  });
  // A connection that idles while the other one is measured stays: closed, it would fail the next question.
  server.keepAliveTimeout = 600_000;
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()));
  const address = server.address();
  return {
    url: `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`,
    stop: async () => {
      server.close();
      await orm.close(true);
    },
  };
}

/** How long it takes until each of many clients has had its answers, one after the other. */
async function crowd(ask: () => Promise<unknown>): Promise<number> {
  const from = performance.now();
  await Promise.all(
    Array.from({ length: CLIENTS }, async () => {
      for (let i = 0; i < EACH; i++) await ask();
    }),
  );
  return performance.now() - from;
}

async function compare(url: string, date: string, siteId: string, client: Client): Promise<Record<string, number>> {
  const other = await peer(url, date, siteId);
  try {
    const ours = () => client.call(daybookDay, { date, siteId: siteId as never });
    const theirs = async () => {
      const answer = await fetch(other.url, { signal: AbortSignal.timeout(60_000) });
      if (!answer.ok) throw new Error(await answer.text());
      return answer.arrayBuffer();
    };
    const [own, read]: [number[], number[]] = [[], []];
    for (let round = -1; round < ROUNDS; round++) {
      const took = [await crowd(ours), await crowd(theirs)];
      if (round < 0) continue;
      own.push(took[0]);
      read.push(took[1]);
    }
    const { text, ...answer } = await ours();
    return {
      ratio: rounded(median(own) / median(read)),
      perSecond: rounded((CLIENTS * EACH) / (median(own) / 1000)),
      kb: rounded(text.length / 1024),
      lanes: dataOf({ text, ...answer }).sites[0].lanes.length,
    };
  } finally {
    await other.stop();
  }
}

/** The site with the most visits that day. */
async function fullestSite(url: string, date: string): Promise<string> {
  const orm = await openOrm({ url, connections: 1 });
  try {
    const [{ id }] = await orm.em
      .fork()
      .execute<{ id: string }[]>(
        'select site_id as id from appointment where site_date = ? group by 1 order by count(*) desc limit 1',
        [date],
      );
    return id;
  } finally {
    await orm.close(true);
  }
}

/**
 * The fullest site's day for 64 clients at once, against an endpoint that reads the same rows by the same queries and
 * writes them out: on the whole demo clinic, and, where `npm run scale` made one, on the scale clinic.
 */
export async function daybookHttp(serverUrl: string): Promise<Result> {
  const measured = async (url: string, date: string) => {
    const server = await benchServer(url);
    try {
      return await compare(url, date, await fullestSite(url, date), await signedIn(server.url, 'coordinator'));
    } finally {
      await server.stop();
    }
  };
  const demo = await measured(await demoDatabase(serverUrl), BENCH_DAY);
  console.log(`    demo clinic: ${JSON.stringify(demo)}`);
  const scale = await onScale(measured);
  return {
    ...{ ratio: demo.ratio, perSecond: demo.perSecond, siteKb: demo.kb },
    ...(scale && { scaleRatio: scale.ratio, scalePerSecond: scale.perSecond, scaleSiteKb: scale.kb }),
    unit: 'times as long for 64 clients at once; KB of one answer (bound: 2 times, 150 KB)',
    peer: 'an endpoint that reads the same rows by the same queries and writes them out as JSON',
    n: CLIENTS,
  };
}

async function onScale(
  measured: (url: string, date: string) => Promise<Record<string, number>>,
): Promise<Record<string, number> | null> {
  if (!existsSync(SCALE)) return null;
  const scale = await startPostgres(SCALE, { durable: false, connections: 60 });
  try {
    const orm = await openOrm({ url: scale.url, connections: 1 });
    const [{ date }] = await orm.em
      .fork()
      .execute<{ date: string }[]>(
        "select site_date::text as date from appointment where status = 'booked' group by 1 order by count(*) desc limit 1",
      );
    await orm.close(true);
    return await measured(scale.url, date);
  } finally {
    scale.stop();
  }
}
