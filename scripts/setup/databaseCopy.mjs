import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePostgres } from './install.mjs';
import { ShownError } from './say.mjs';

/** Where PostgreSQL's programs connect to: by environment, so that no password stands in the list of processes. */
export function toolEnv(url) {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  return {
    ...process.env,
    PGHOST: searchParams.get('host') ?? hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    ...(searchParams.get('sslmode') && { PGSSLMODE: searchParams.get('sslmode') }),
  };
}

export function runTool(program, args, env) {
  return spawnSync(join(ensurePostgres(), program), args, { env, encoding: 'utf8' });
}

/** A connection, or words that say it can't be had. Packages must be there already. */
export async function connected(url) {
  const { default: pg } = await import('pg');
  try {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    return client;
  } catch (error) {
    throw new ShownError(
      `The database of DATABASE_URL can't be reached (${error.code ?? error.message}). Nothing was changed; is its address right, and does it run?`,
    );
  }
}

/**
 * Notes of changes for processes that run now, by the numbers of this server's transactions: on another server they would
 * speak of transactions to come.
 */
export const NOT_KEPT = 'public.openings_change';

/**
 * Rows and a hash of all values of each table, by name. The hash does not depend on the order in which rows lie; it is
 * made by PostgreSQL, a table at a time.
 */
export async function fingerprints(client) {
  // Texts of times and numbers must not depend on who asks.
  await client.query(
    `set timezone = 'UTC'; set datestyle = 'ISO'; set extra_float_digits = 1; set bytea_output = 'hex'`,
  );
  const { rows: tables } = await client.query(
    `select format('%I.%I', n.nspname, c.relname) as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where c.relkind = 'r' and n.nspname not in ('pg_catalog','information_schema') and n.nspname not like 'pg_toast%' and c.oid is distinct from to_regclass($1) order by 1`,
    [NOT_KEPT],
  );
  const found = {};
  for (const { name } of tables) {
    const { rows } = await client.query(
      `select count(*)::int as rows, coalesce(sum(('x' || substr(md5(t::text), 1, 15))::bit(60)::bigint::numeric), 0)::text as hash from ${name} t`,
    );
    found[name] = rows[0];
  }
  return found;
}

export function keepFingerprints(file, found) {
  writeFileSync(`${file}.json`, `${JSON.stringify(found, null, 1)}\n`);
}

export function readFingerprints(file) {
  try {
    return JSON.parse(readFileSync(`${file}.json`, 'utf8'));
  } catch {
    throw new ShownError(`${file}.json, which says what the backup holds, can't be read. Nothing was changed.`);
  }
}
