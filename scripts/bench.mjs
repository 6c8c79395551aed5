import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensurePackages, ensurePostgres, ROOT } from './setup/install.mjs';
import { main } from './setup/say.mjs';

/** Measures ratios to named peers: `npm run bench`, `npm run bench -- NAME`, `--json`. */
await main(() => {
  ensurePackages();
  ensurePostgres();
  const run = spawnSync(
    process.execPath,
    // A large workload wants memory; figures of memory want a collector that can be asked.
    [
      '--max-old-space-size=8192',
      '--expose-gc',
      '--import',
      'tsx',
      join(ROOT, 'bench/src/main.ts'),
      ...process.argv.slice(2),
    ],
    { cwd: ROOT, stdio: 'inherit' },
  );
  process.exitCode = run.status ?? 1;
});
