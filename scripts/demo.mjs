import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuild, ensurePackages, ensurePostgres, NODE_FLAGS, ROOT } from './setup/install.mjs';
import { portIsFree, removePostgres, startPostgres } from './setup/postgres.mjs';
import { main, step, ShownError } from './setup/say.mjs';

const HOME = process.env.ZAGUAN_HOME ?? join(ROOT, '.zaguan');
const PORT = 4170;
/** Day sheets as files, for when the server is down. */
const SHEETS = join(HOME, 'day-sheets');
/** How `demo/dist/load.js` says that the database was made by another version. */
const OTHER_VERSION = 3;

function node(file, env) {
  return [
    process.execPath,
    [...NODE_FLAGS, '--enable-source-maps', join(ROOT, file)],
    { cwd: ROOT, env: { ...process.env, ...env } },
  ];
}

/** The session secret of this data folder; made once. */
function secret() {
  const file = join(HOME, 'secret');
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}

async function choosePort() {
  if (process.env.PORT) {
    if (await portIsFree(Number(process.env.PORT))) return Number(process.env.PORT);
    throw new ShownError(
      `Port ${process.env.PORT} is taken by another program. Nothing was changed.\nSet PORT to a free one, or leave it out and one is chosen.`,
    );
  }
  for (let port = PORT; port < PORT + 50; port++) if (await portIsFree(port)) return port;
  throw new ShownError(`No port from ${PORT} to ${PORT + 49} is free. Set PORT to one that is.`);
}

/** `-- --reset`: the clinic as it was first loaded. With DATABASE_URL that server's tables are dropped, so it is asked for by name. */
function reset(url) {
  if (url) {
    const done = spawnSync(...node('demo/dist/reset.js', { DATABASE_URL: url }));
    if (done.status !== 0) throw new ShownError(String(done.stderr));
  } else removePostgres(join(HOME, 'postgres'));
}

await main(async () => {
  ensurePackages();
  const port = await choosePort();
  const outside = process.env.DATABASE_URL;
  if (!outside) ensurePostgres();
  mkdirSync(HOME, { recursive: true });
  ensureBuild();
  if (process.argv.includes('--reset')) {
    step('starting afresh');
    reset(outside);
  }
  const postgres = outside ? null : await startPostgres(join(HOME, 'postgres'), { durable: true });
  const url = outside ?? postgres.url;
  let server = null;
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    if (server && server.exitCode === null) server.kill('SIGTERM');
    else postgres?.stop();
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  try {
    step('bringing the database up to date');
    // Loading takes some seconds: what it says is shown as it comes.
    const [program, script, how] = node('demo/dist/load.js', { DATABASE_URL: url });
    const load = () =>
      spawnSync(program, ['--max-semi-space-size=64', ...script], { ...how, stdio: ['ignore', 'inherit', 'pipe'] });
    let loaded = load();
    if (loaded.status === OTHER_VERSION) {
      if (outside)
        throw new ShownError(`${String(loaded.stderr).trim()}\nTo load the demo afresh there, add: -- --reset`);
      step('the clinic in this folder was made by another version of Zaguan: loading it afresh');
      reset(url);
      loaded = load();
    }
    if (loaded.status !== 0) throw new ShownError(`The database could not be made ready.\n${String(loaded.stderr)}`);
    const [command, args, options] = node('server/dist/main.js', {
      DATABASE_URL: url,
      PORT: String(port),
      ZAGUAN_SECRET: secret(),
      ZAGUAN_DEMO: 'yes',
      ZAGUAN_SHEET_FOLDER: SHEETS,
      ZAGUAN_LOG: process.env.ZAGUAN_LOG ?? 'warn',
    });
    server = spawn(command, args, { ...options, stdio: ['ignore', 'inherit', 'inherit', 'ipc'] });
    server.on('message', () => {
      console.log(
        `\nZaguan is open.\n  Staff:    http://127.0.0.1:${port}/\n  Patients: http://127.0.0.1:${port}/book\n  API:      http://127.0.0.1:${port}/api/docs\n\nCtrl-C stops everything this command started.`,
      );
    });
    server.on('exit', (code) => {
      postgres?.stop();
      process.exit(stopping ? 0 : (code ?? 1));
    });
  } catch (error) {
    postgres?.stop();
    throw error;
  }
});
