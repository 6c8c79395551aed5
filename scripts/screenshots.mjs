import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuild, ensureChromium, ensurePackages, ensurePostgres, ROOT } from './setup/install.mjs';
import { main } from './setup/say.mjs';

/** Refreshes docs/screenshots from demo data (or writes into the folder named). */
await main(() => {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  ensureBuild();
  const run = spawnSync(
    process.execPath,
    ['--import', 'tsx', join(ROOT, 'e2e/src/screenshots.ts'), ...process.argv.slice(2)],
    { cwd: ROOT, stdio: 'inherit' },
  );
  process.exitCode = run.status ?? 1;
});
