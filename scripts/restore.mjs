import { existsSync } from 'node:fs';
import { connected, fingerprints, readFingerprints, runTool, toolEnv } from './setup/databaseCopy.mjs';
import { ensurePackages } from './setup/install.mjs';
import { main, step, ShownError } from './setup/say.mjs';

/** `DATABASE_URL=… npm run restore -- FILE`: fills an empty database from a backup and compares each table. */
await main(async () => {
  const file = process.argv[2];
  const url = process.env.DATABASE_URL;
  if (!file || !url)
    throw new ShownError('Say from where and into which database: DATABASE_URL=… npm run restore -- FILE');
  if (!existsSync(file)) throw new ShownError(`There is no file ${file}. Nothing was changed.`);
  const expected = readFingerprints(file);
  ensurePackages();
  const client = await connected(url);
  try {
    const { rows } = await client.query(
      `select count(*)::int as n from pg_tables where schemaname not in ('pg_catalog','information_schema')`,
    );
    if (rows[0].n > 0)
      throw new ShownError(
        `That database has ${rows[0].n} tables already. Nothing was changed; make an empty one (createdb) and name it in DATABASE_URL.`,
      );
    step('filling the database');
    // All or nothing: a file that breaks off in the middle leaves an empty database.
    const done = runTool(
      'pg_restore',
      ['--single-transaction', '--exit-on-error', '--no-owner', '--no-acl', '--dbname', toolEnv(url).PGDATABASE, file],
      toolEnv(url),
    );
    if (done.status !== 0)
      throw new ShownError(
        `The backup could not be read back:\n${done.stderr.trim()}\nThe database is empty as before, and the file was not changed.`,
      );
    step('comparing tables');
    const found = await fingerprints(client);
    const names = [...new Set([...Object.keys(expected), ...Object.keys(found)])].sort();
    const differ = names.filter(
      (name) => expected[name]?.rows !== found[name]?.rows || expected[name]?.hash !== found[name]?.hash,
    );
    if (differ.length)
      throw new ShownError(
        `These tables differ from what was backed up:\n${differ.map((name) => `  ${name}: ${expected[name]?.rows ?? 'not there'} rows then, ${found[name]?.rows ?? 'not there'} now`).join('\n')}\nDo not work with this database; keep the file and look for the cause.`,
      );
    const total = names.reduce((sum, name) => sum + found[name].rows, 0);
    console.log(`Restored: ${names.length} tables with ${total} rows, each the same as when it was backed up.`);
  } finally {
    await client.end();
  }
});
