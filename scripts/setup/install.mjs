import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { step, ShownError } from './say.mjs';

export const ROOT = join(import.meta.dirname, '../..');

/** A search makes many small masks that live a moment: with room for the young, few of them are copied when collected. */
export const NODE_FLAGS = ['--max-semi-space-size=64'];

function hasCommand(name) {
  return spawnSync('sh', ['-c', `command -v ${name}`]).status === 0;
}

/** Whether this user may install Debian packages: root, or sudo that asks for nothing. */
function aptPrefix() {
  if (process.getuid?.() === 0) return [];
  return spawnSync('sudo', ['-n', 'true']).status === 0 ? ['sudo', '-n'] : null;
}

function aptInstall(packages, why) {
  const prefix = aptPrefix();
  if (!hasCommand('apt-get') || prefix === null) {
    throw new ShownError(
      `${why} is missing and can't be installed from here (no right to run apt-get).\nNothing was changed. Ask someone who may to run:\n  apt-get install --no-install-recommends ${packages.join(' ')}\nthen start again.`,
    );
  }
  step(`installing ${packages.join(', ')}`);
  const run = (...args) =>
    spawnSync(prefix[0] ?? args[0], prefix.length ? [...prefix.slice(1), ...args] : args.slice(1), {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  run('apt-get', 'update', '-qq');
  const done = run('apt-get', 'install', '-y', '-qq', '--no-install-recommends', ...packages);
  if (done.status !== 0)
    throw new ShownError(`${why} could not be installed:\n${String(done.stderr).trim()}\nNothing else was changed.`);
}

/** Folder of PostgreSQL's server programs, the newest version; installs the server if there is none. */
export function ensurePostgres() {
  const find = () => {
    // Debian's place; another one may be named where the server comes from elsewhere.
    const base = process.env.ZAGUAN_POSTGRES_DIR ?? '/usr/lib/postgresql';
    const versions = existsSync(base) ? readdirSync(base).filter((v) => existsSync(join(base, v, 'bin/initdb'))) : [];
    const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
    return newest && join(base, newest, 'bin');
  };
  const found = find();
  if (found) return found;
  if (process.getuid?.() === 0) {
    // Debian would start a cluster of its own on port 5432; ours lives in the project's folder.
    mkdirSync('/etc/postgresql-common', { recursive: true });
    if (!existsSync('/etc/postgresql-common/createcluster.conf'))
      writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  aptInstall(['postgresql'], 'PostgreSQL');
  const installed = find();
  if (!installed) throw new ShownError('PostgreSQL was installed, but its programs are not in /usr/lib/postgresql.');
  return installed;
}

/** Path of Chromium; installs it if there is none. */
/** Chromium without a window: a sixth less work than the whole browser, the same pages. */
export const CHROMIUM = '/usr/bin/chromium-headless-shell';

export function ensureChromium() {
  if (!existsSync(CHROMIUM)) aptInstall(['chromium-headless-shell'], 'Chromium (for the browser tests)');
  return CHROMIUM;
}

/** Installs the npm packages when the lock file, a manifest or Node changed since the last time. */
export function ensurePackages() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) throw new ShownError(`Node 20 is needed; this is ${process.versions.node}.`);
  const manifests = [
    'package.json',
    ...['core', 'contracts', 'server', 'web', 'demo', 'e2e', 'bench'].map((w) => `${w}/package.json`),
    'package-lock.json',
  ];
  const hash = createHash('sha256').update(process.versions.node);
  for (const file of manifests) hash.update(readFileSync(join(ROOT, file)));
  const stamp = hash.digest('hex');
  const stampFile = join(ROOT, 'node_modules/.zaguan-stamp');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  step('installing npm packages (a minute or two, once)');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  if (done.status !== 0)
    throw new ShownError(
      `npm ci failed:\n${String(done.stderr).trim()}\nNothing else was changed; fix this and start again.`,
    );
  writeFileSync(stampFile, stamp);
}

function newestSource(folder) {
  return execFileSync(
    'find',
    [folder, '-type', 'f', '-not', '-path', '*/node_modules/*', '-not', '-path', '*/dist/*', '-printf', '%T@\n'],
    { encoding: 'utf8' },
  )
    .split('\n')
    .reduce((newest, line) => Math.max(newest, Number(line) || 0), 0);
}

/** Builds one workspace when a source it is made of is newer than its last build. */
function ensureBuilt(workspace, called, sources) {
  const stampFile = join(ROOT, workspace, 'dist/.built');
  const newest = Math.max(...sources.map((folder) => newestSource(join(ROOT, folder))));
  if (existsSync(stampFile) && Number(readFileSync(stampFile, 'utf8')) >= newest) return;
  step(`building ${called}`);
  const done = spawnSync('npm', ['run', 'build', '--workspace', workspace], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    // A test runner's own mode would put the libraries' development builds into the pages.
    env: { ...process.env, NODE_ENV: 'production' },
  });
  if (done.status !== 0)
    throw new ShownError(`Building ${called} failed:\n${String(done.stdout)}\n${String(done.stderr)}`);
  writeFileSync(stampFile, String(newest));
}

/** Builds the server and what it is made of: it starts in a second, where reading its sources one by one takes five. */
export function ensureServer() {
  ensureBuilt('server', 'the server', ['server', 'core/src', 'contracts/src']);
}

/** Builds the benchmarks: what is measured is what runs in production, without the loader that reads TypeScript. */
export function ensureBench() {
  ensureBuilt('bench', 'the benchmarks', [
    'bench',
    'demo/src',
    'server/src',
    'core/src',
    'contracts/src',
    'scripts/setup',
  ]);
}

/** Builds what the start command runs: the pages, the server, the demo's loader. */
export function ensureBuild() {
  // The handbook in docs/ is part of the pages.
  ensureBuilt('web', 'the pages', [
    'web',
    'core/src',
    'contracts/src',
    'docs/help/availability.md',
    'docs/help/daybook.md',
    'docs/help/intake.md',
    'docs/help/messages.md',
    'docs/help/outreach.md',
    'docs/help/patients.md',
    'docs/help/roles.md',
    'docs/help/setup.md',
  ]);
  ensureServer();
  ensureBuilt('demo', 'the demo', ['demo', 'server/src', 'core/src', 'contracts/src']);
}
