import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureBench, ensureChromium, ensurePackages, ensurePostgres, NODE_FLAGS, ROOT } from './setup/install.mjs';
import { main } from './setup/say.mjs';

/** Measures ratios to named peers: `npm run bench`, `npm run bench -- NAME`, `--json`. */
await main(() => {
  ensurePackages();
  ensurePostgres();
  ensureChromium();
  ensureBench();
  const run = spawnSync(
    process.execPath,
    // A large workload wants memory; figures of memory want a collector that can be asked.
    [
      ...NODE_FLAGS,
      '--max-old-space-size=8192',
      '--expose-gc',
      '--enable-source-maps',
      join(ROOT, 'bench/dist/main.js'),
      ...process.argv.slice(2),
    ],
    { cwd: ROOT, stdio: 'inherit' },
  );
  process.exitCode = run.status ?? 1;
});
