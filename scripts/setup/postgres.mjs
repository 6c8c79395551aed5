import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { ensurePostgres } from './install.mjs';
import { ShownError } from './say.mjs';

/** A port nobody listens on. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Whether a port can be listened on. */
export function portIsFree(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

const root = () => process.getuid?.() === 0;

/** PostgreSQL refuses to run as root: as root, its programs run as the user `postgres`. */
function asServer(bin, program, args) {
  const path = join(bin, program);
  const [command, all] = root()
    ? ['setpriv', ['--reuid=postgres', '--regid=postgres', '--init-groups', '--reset-env', path, ...args]]
    : [path, args];
  return spawnSync(command, all, { encoding: 'utf8', cwd: '/', stdio: ['ignore', 'pipe', 'pipe'] });
}

/**
 * The folder to use. As root the server runs as `postgres`, who must be able to pass every folder above its data; where
 * the project lies in a private folder (such as /root), the data goes to /var/lib/zaguan instead.
 */
function placeFor(folder) {
  if (!root()) return folder;
  for (let above = dirname(folder); above !== '/'; above = dirname(above)) {
    if (existsSync(above) && !(statSync(above).mode & 0o001))
      return join('/var/lib/zaguan', createHash('sha256').update(folder).digest('hex').slice(0, 12));
  }
  return folder;
}

function makeFolder(folder) {
  mkdirSync(dirname(folder), { recursive: true });
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  if (!root()) return;
  const uid = Number(spawnSync('id', ['-u', 'postgres'], { encoding: 'utf8' }).stdout);
  chownSync(folder, uid, uid);
}

/** Takes a data folder away, wherever it was put. Its server must not be running. */
export function removePostgres(folder) {
  rmSync(placeFor(folder), { recursive: true, force: true });
}

/**
 * Starts a PostgreSQL of our own on loopback, in its own data folder, on a free port.
 *
 * @param options.durable false only for tests: a power cut may then lose data
 * @returns the address of a database `zaguan` and a function that stops the server
 */
export async function startPostgres(wanted, { durable, connections = 200 }) {
  const bin = ensurePostgres();
  const folder = placeFor(wanted);
  const data = join(folder, 'data');
  makeFolder(folder);
  if (!existsSync(join(data, 'PG_VERSION'))) {
    rmSync(data, { recursive: true, force: true });
    const made = asServer(bin, 'initdb', [
      '-D',
      data,
      '-U',
      'zaguan',
      '--auth=trust',
      '--locale=C.UTF-8',
      '--encoding=UTF8',
      ...(durable ? [] : ['--no-sync']),
    ]);
    if (made.status !== 0) throw new ShownError(`PostgreSQL could not make its data folder:\n${made.stderr}`);
  }
  const running =
    existsSync(join(data, 'postmaster.pid')) && asServer(bin, 'pg_ctl', ['-D', data, 'status']).status === 0;
  const port = running ? Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]) : await freePort();
  const server = {
    port,
    data,
    url: `postgres://zaguan@127.0.0.1:${port}/zaguan`,
    start() {
      const settings = [
        `-p ${port}`,
        '-c listen_addresses=127.0.0.1',
        "-c unix_socket_directories=''",
        '-c timezone=UTC',
        // Details of a failed statement quote its values.
        '-c log_error_verbosity=terse',
        `-c max_connections=${connections}`,
        ...(durable ? [] : ['-c fsync=off', '-c synchronous_commit=off', '-c full_page_writes=off']),
      ];
      const started = asServer(bin, 'pg_ctl', [
        '-D',
        data,
        '-w',
        '-t',
        '60',
        '-l',
        join(data, 'server.log'),
        '-o',
        settings.join(' '),
        'start',
      ]);
      if (started.status !== 0)
        throw new ShownError(`PostgreSQL did not start; its own words are in ${join(data, 'server.log')}.`);
    },
    stop(mode = 'fast') {
      asServer(bin, 'pg_ctl', ['-D', data, '-m', mode, '-w', 'stop']);
    },
  };
  if (!running) server.start();
  const psql = (sql, database) =>
    spawnSync(join(bin, 'psql'), ['-XAtq', `postgres://zaguan@127.0.0.1:${port}/${database}`, '-c', sql], {
      encoding: 'utf8',
    });
  if (psql("select 1 from pg_database where datname = 'zaguan'", 'postgres').stdout.trim() !== '1')
    psql('create database zaguan', 'postgres');
  return server;
}
