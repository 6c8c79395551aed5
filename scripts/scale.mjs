import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuild, ensurePackages, ensurePostgres, ROOT } from './setup/install.mjs';
import { removePostgres, startPostgres } from './setup/postgres.mjs';
import { main, step, ShownError } from './setup/say.mjs';

const HOME = join(ROOT, '.zaguan/scale');

function asked() {
  try {
    return parseArgs({
      options: { patients: { type: 'string', default: '100000' }, visits: { type: 'string', default: '3' } },
    }).values;
  } catch (error) {
    throw new ShownError(
      `${error.message}\nWhat it takes: npm run scale -- --patients 100000 --visits 3. Nothing was changed.`,
    );
  }
}

/** `npm run scale -- --patients 1000000`: a database of its own for measuring, beside the demo's. */
await main(async () => {
  const values = asked();
  const patients = Number(values.patients);
  const visits = Number(values.visits);
  if (!Number.isInteger(patients) || patients < 1 || patients > 10_000_000)
    throw new ShownError('--patients wants a whole number from 1 to 10000000. Nothing was changed.');
  if (!Number.isInteger(visits) || visits < 1 || visits > 50)
    throw new ShownError('--visits (for each patient) wants a whole number from 1 to 50. Nothing was changed.');
  ensurePackages();
  ensurePostgres();
  ensureBuild();
  mkdirSync(HOME, { recursive: true });
  step('starting afresh');
  removePostgres(join(HOME, 'postgres'));
  const postgres = await startPostgres(join(HOME, 'postgres'), { durable: false });
  try {
    const done = spawnSync(
      process.execPath,
      ['--enable-source-maps', join(ROOT, 'demo/dist/loadScale.js'), String(patients), String(visits)],
      { stdio: 'inherit', env: { ...process.env, DATABASE_URL: postgres.url } },
    );
    if (done.status !== 0) throw new ShownError('It could not be filled. The demo’s own data was not touched.');
  } finally {
    postgres.stop();
  }
  console.log(`\nOpen it with: ZAGUAN_HOME=${HOME} npm run demo`);
});
