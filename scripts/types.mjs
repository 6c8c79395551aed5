import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ROOT } from './setup/install.mjs';

/** Type-checks every workspace by itself, so that core can't lean on Node's or the browser's types. */
const projects = [
  'core/tsconfig.json',
  'core/tsconfig.test.json',
  'contracts/tsconfig.json',
  'server/tsconfig.json',
  'web/tsconfig.json',
  'web/src/patient/tsconfig.json',
  'e2e/tsconfig.json',
  'bench/tsconfig.json',
];
let failed = 0;
for (const project of projects) {
  const run = spawnSync(join(ROOT, 'node_modules/.bin/tsc'), ['-p', join(ROOT, project)], { stdio: 'inherit' });
  if (run.status !== 0) failed++;
}
console.log(`types: ${projects.length - failed} projects passed, ${failed} failed`);
process.exitCode = failed ? 1 : 0;
