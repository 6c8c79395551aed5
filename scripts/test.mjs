import { spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild, ensureChromium, ensurePackages, ensurePostgres, ROOT } from './setup/install.mjs';
import { main, step } from './setup/say.mjs';

/** Those of one line run side by side: the start command mostly waits, and leaves a core to the unit tests. */
const SUITES = [['unit', 'command'], ['integration'], ['timed'], ['browser']];
const OUT = join(ROOT, '.test-output');
const totals = { passed: 0, failed: 0 };
/** What one suite has made ready, the next ones of this run may take. */
const RUN = randomUUID();
/** What failed and why, once more at the end: a log's tail is what is read first. */
const failures = [];
const REASONS_SHOWN = 10;

/** A check that passes or fails as one. */
function check(name, command, args) {
  step(name);
  const run = spawnSync(command, args, { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 });
  if (run.status === 0) totals.passed++;
  else {
    totals.failed++;
    failures.push(name);
    console.log(run.stdout, run.stderr);
  }
}

/**
 * A suite of Vitest; its own counts are added up. A suite that ends without a report counts as failed.
 *
 * @param isAlone what it prints is shown at once; beside another one, when it has ended
 */
async function suite(name, isAlone) {
  step(`suite ${name}`);
  const report = join(OUT, `${name}.json`);
  const reasons = join(OUT, `${name}.failures.json`);
  const reporters = ['default', 'json', './scripts/checks/failureReporter.mjs'].map((one) => `--reporter=${one}`);
  await run(
    join(ROOT, 'node_modules/.bin/vitest'),
    ['run', '--project', name, ...reporters, `--outputFile.json=${report}`],
    {
      cwd: ROOT,
      stdio: ['ignore', isAlone ? 'inherit' : 'pipe', isAlone ? 'inherit' : 'pipe'],
      env: { ...process.env, ZAGUAN_FAILURES: reasons, ZAGUAN_TEST_RUN: RUN },
    },
  );
  try {
    const { numPassedTests, numFailedTests, numPendingTests, success, testResults } = JSON.parse(
      readFileSync(report, 'utf8'),
    );
    // A file that could not be loaded, or a test that did not run, is a failure too.
    const unloaded = testResults.filter(
      (file) => file.status === 'failed' && file.assertionResults.length === 0,
    ).length;
    const failed = numFailedTests + numPendingTests + unloaded;
    totals.passed += numPassedTests;
    totals.failed += failed || (success ? 0 : 1);
    const named = JSON.parse(readFileSync(reasons, 'utf8')).map((reason) => `${name}: ${reason}`);
    failures.push(...named);
    if (!success && named.length === 0) failures.push(`${name}: ended with an error outside its tests`);
  } catch {
    totals.failed++;
    failures.push(`${name}: ended without a report`);
  }
}

/** Ends when the program does, however it does; what it printed into a pipe is shown then, as one. */
function run(program, args, options) {
  return new Promise((resolve) => {
    const child = spawn(program, args, options);
    const written = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => written.push(chunk));
    child.once('error', resolve);
    child.once('close', () => {
      process.stdout.write(Buffer.concat(written));
      resolve();
    });
  });
}

await main(async () => {
  const only = process.argv.slice(2).filter((name) => SUITES.flat().includes(name));
  const wanted = (name) => only.length === 0 || only.includes(name);
  const debian = run(process.execPath, [join(ROOT, 'scripts/setup/debianPackages.mjs')], { stdio: 'inherit' });
  ensurePackages();
  await debian;
  // There by now, or said once more why not.
  ensurePostgres();
  ensureChromium();
  rmSync(OUT, { recursive: true, force: true });
  mkdirSync(OUT, { recursive: true });
  if (only.length === 0) {
    check('types', process.execPath, ['scripts/types.mjs']);
    check('lint', 'node_modules/.bin/biome', ['check', '.']);
  }
  ensureBuild();
  for (const line of SUITES) {
    const names = line.filter(wanted);
    await Promise.all(names.map((name, at) => suite(name, at === 0)));
  }
  failures.forEach((failure, at) => {
    console.log(`failed: ${at < REASONS_SHOWN ? failure : failure.split('\n')[0]}`);
  });
  console.log(`${totals.passed} passed, ${totals.failed} failed`);
  process.exitCode = totals.failed ? 1 : 0;
});
