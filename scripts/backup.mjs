import { existsSync, rmSync } from 'node:fs';
import { connected, fingerprints, keepFingerprints, NOT_KEPT, runTool, toolEnv } from './setup/databaseCopy.mjs';
import { ensurePackages } from './setup/install.mjs';
import { main, step, ShownError } from './setup/say.mjs';

/** `DATABASE_URL=… npm run backup -- FILE`: one file of the whole database, and beside it what is in it, to compare with. */
// Nobody but who makes it reads it.
process.umask(0o077);

await main(async () => {
  const file = process.argv[2];
  const url = process.env.DATABASE_URL;
  if (!file || !url) throw new ShownError('Say which database and where to: DATABASE_URL=… npm run backup -- FILE');
  if (existsSync(file)) throw new ShownError(`${file} is there already. Nothing was changed; name another file.`);
  ensurePackages();
  const client = await connected(url);
  try {
    // One snapshot for the file and for what it is compared with: the clinic may go on working meanwhile.
    await client.query('begin isolation level repeatable read, read only');
    const { rows } = await client.query('select pg_export_snapshot() as id');
    step('writing the file');
    const done = runTool(
      'pg_dump',
      ['--format=custom', `--snapshot=${rows[0].id}`, `--exclude-table-data=${NOT_KEPT}`, `--file=${file}`],
      toolEnv(url),
    );
    if (done.status !== 0) {
      rmSync(file, { force: true });
      throw new ShownError(
        `The backup could not be written:\n${done.stderr.trim()}\nThe database is as it was; no half file is left.`,
      );
    }
    step('counting and comparing tables');
    const found = await fingerprints(client);
    keepFingerprints(file, found);
    const total = Object.values(found).reduce((sum, { rows: count }) => sum + count, 0);
    console.log(
      `${file} holds ${Object.keys(found).length} tables with ${total} rows. ${file}.json says what is in them.`,
    );
  } finally {
    await client.end();
  }
});
