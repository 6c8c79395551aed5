import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { loadDemo } from '../../demo/src/index.ts';
import { runTool, toolEnv } from '../../scripts/setup/databaseCopy.mjs';
import { prepareDatabase } from '../../server/src/prepare.ts';
import { BENCH_DAY, emptyDatabase } from './clinicDatabase.ts';
import { type Result, rounded } from './measure.ts';

async function timed(run: () => unknown): Promise<number> {
  const from = performance.now();
  await run();
  return (performance.now() - from) / 1000;
}

function tool(program: string, args: readonly string[], url: string): void {
  const done = runTool(program, args, toolEnv(url));
  if (done.status !== 0) throw new Error(`${program} failed:\n${done.stderr.slice(0, 2000)}`);
}

/** The demo clinic made and loaded, against a bare `COPY` of the same rows into the same tables. */
export async function load(serverUrl: string): Promise<Result> {
  const folder = mkdtempSync(join(tmpdir(), 'zaguan-bench-'));
  const rows = join(folder, 'rows.sql');
  try {
    const url = await emptyDatabase(serverUrl, 'bench_load');
    const orm = await prepareDatabase(url);
    const ours = await timed(() => loadDemo(orm, BENCH_DAY));
    await orm.close(true);
    // Without the tables the migrations fill: those rows are there already.
    const excluded = [
      '--exclude-table-data=mikro_orm_migrations',
      '--exclude-table-data=*.version',
      '--exclude-table-data=openings_change',
      '--exclude-schema=pgboss',
    ];
    tool('pg_dump', ['--data-only', '--disable-triggers', ...excluded, '--file', rows], url);
    const other = await emptyDatabase(serverUrl, 'bench_copy');
    await (await prepareDatabase(other)).close(true);
    const empty = new pg.Client({ connectionString: other });
    await empty.connect();
    const { rows: tables } = await empty.query<{ name: string }>(
      `select string_agg(format('%I.%I', schemaname, tablename), ', ') as name from pg_tables
       where schemaname in ('public', 'simulated') and tablename <> 'mikro_orm_migrations' and tablename not like 'audit_entry%'`,
    );
    await empty.query(`truncate ${tables[0].name} cascade`);
    await empty.end();
    const theirs = await timed(() => tool('psql', ['-q', '-v', 'ON_ERROR_STOP=1', '-f', rows], other));
    const counted = new pg.Client({ connectionString: other });
    await counted.connect();
    const { rows: visits } = await counted.query<{ n: number }>('select count(*)::int as n from appointment');
    await counted.end();
    return {
      ratio: rounded(ours / theirs),
      loadSeconds: rounded(ours),
      copySeconds: rounded(theirs),
      unit: 'times as long',
      peer: 'COPY of the same rows into the same tables, indexes and constraints in place, triggers off',
      n: visits[0].n,
    };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
