import { spawn } from 'node:child_process';
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
const AT_ONCE = 2;

/** @returns whether the project's types fit */
function check(project) {
  const tsc = spawn(join(ROOT, 'node_modules/.bin/tsc'), ['-p', join(ROOT, project)], { stdio: 'inherit' });
  return new Promise((resolve) => tsc.on('exit', (status) => resolve(status === 0)));
}

let failed = 0;
const waiting = [...projects];
await Promise.all(
  Array.from({ length: AT_ONCE }, async () => {
    for (let project = waiting.shift(); project; project = waiting.shift()) if (!(await check(project))) failed++;
  }),
);
console.log(`types: ${projects.length - failed} projects passed, ${failed} failed`);
process.exitCode = failed ? 1 : 0;
