import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { connected } from './setup/databaseCopy.mjs';
import { ensurePackages, ensureServer, ROOT } from './setup/install.mjs';
import { main, step, ShownError } from './setup/say.mjs';

/** `DATABASE_URL=… npm run migrate`: makes or updates the tables, without any data. */
await main(async () => {
  const url = process.env.DATABASE_URL;
  if (!url) throw new ShownError('Say which database: DATABASE_URL=… npm run migrate');
  ensurePackages();
  ensureServer();
  await (await connected(url)).end();
  step('bringing the database up to date');
  const done = spawnSync(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/migrate.js')], {
    env: { ...process.env, DATABASE_URL: url },
    encoding: 'utf8',
  });
  if (done.status !== 0)
    throw new ShownError(
      `The database could not be brought up to date:\n${done.stderr.trim()}\nEach step is done whole or not at all; nothing of the one that failed is left.`,
    );
  console.log('The database is up to date.');
});
