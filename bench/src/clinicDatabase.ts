import pg from 'pg';
import { loadDemo } from '../../demo/src/index.ts';
import { ensureBuild } from '../../scripts/setup/install.mjs';
import { type RunningServer, startServer } from '../../e2e/src/fixtures/server.ts';
import { prepareDatabase } from '../../server/src/prepare.ts';

export const BENCH_DAY = '2026-12-01';

/** A new database of that name, without the one that was there. */
export async function emptyDatabase(serverUrl: string, name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: serverUrl });
  await admin.connect();
  await admin.query(`drop database if exists ${name} with (force)`);
  await admin.query(`create database ${name}`);
  await admin.end();
  return Object.assign(new URL(serverUrl), { pathname: `/${name}` }).toString();
}

let loaded: Promise<string> | null = null;

/** The whole demo clinic in a database of its own, loaded once a run. */
export function demoDatabase(serverUrl: string): Promise<string> {
  loaded ??= (async () => {
    ensureBuild();
    const url = await emptyDatabase(serverUrl, 'bench_demo');
    const orm = await prepareDatabase(url);
    await loadDemo(orm, BENCH_DAY);
    await orm.close(true);
    const sql = new pg.Client({ connectionString: url });
    await sql.connect();
    await sql.query('analyze');
    await sql.end();
    return url;
  })();
  return loaded;
}

/** The built server on it, with limits out of the way. */
export function benchServer(url: string): Promise<RunningServer> {
  return startServer(url, {
    ZAGUAN_PROOF: 'no',
    ZAGUAN_LIMIT_READS: '1000000',
    ZAGUAN_LIMIT_WRITES: '1000000',
    ZAGUAN_LIMIT_HOLDS: '1000000',
    ZAGUAN_LIMIT_HOLDS_NEARBY: '1000000',
    ZAGUAN_LIMIT_BOOKINGS_PERSON: '1000000',
    ZAGUAN_LIMIT_BOOKINGS_CONTACT: '1000000',
    ZAGUAN_LIMIT_CODES: '1000000',
    ZAGUAN_LOG: 'warn',
  });
}
