import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { startPostgres } from '../../../scripts/setup/postgres.mjs';
import { ROOT, testCluster } from '../fixtures/cluster.ts';
import { Client, dataOf, signedIn } from '../fixtures/client.ts';
import { demoAccounts } from '@zaguan/contracts/accounts';

interface Demo {
  readonly process: ChildProcess;
  readonly written: () => string;
  /** Waits until it has written something that fits. */
  says(pattern: RegExp, timeout?: number): Promise<RegExpExecArray>;
  exit(): Promise<number | null>;
}

/** Every demo started by the test that runs. */
const running: Demo[] = [];

function start(folder: string, env: Record<string, string> = {}, args: string[] = []): Demo {
  const child = spawn('npm', ['run', '--silent', 'demo', ...(args.length ? ['--', ...args] : [])], {
    cwd: folder,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
    detached: true,
  });
  let written = '';
  for (const stream of [child.stdout, child.stderr])
    stream?.on('data', (chunk: Buffer) => {
      written += chunk.toString();
    });
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
  const demo: Demo = {
    process: child,
    written: () => written,
    exit: () => ended,
    async says(pattern, timeout = 420_000) {
      const until = Date.now() + timeout;
      while (Date.now() < until) {
        const found = pattern.exec(written);
        if (found) return found;
        if (child.exitCode !== null) break;
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
      throw new Error(`It did not say ${pattern}:\n${written}`);
    },
  };
  running.push(demo);
  return demo;
}

/** Ctrl-C reaches the whole process group, as a terminal sends it. */
async function ctrlC(demo: Demo): Promise<void> {
  running.splice(running.indexOf(demo), 1);
  process.kill(-(demo.process.pid as number), 'SIGINT');
  await demo.exit();
}

/** Processes of this clone that still run: its server or its PostgreSQL. */
function leftOver(folder: string, port: string): string {
  const all = spawnSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8' }).stdout;
  return all
    .split('\n')
    .filter(
      (line) =>
        (line.includes(folder) || line.includes(`PORT=${port}`)) &&
        !line.includes('ps -eo') &&
        !line.includes('vitest'),
    )
    .join('\n');
}

/** A cut of the clinic that loads in two seconds, where its size is not what is tested. */
const EXCERPT = { ZAGUAN_CLINIC: 'excerpt' };

describe('npm run demo in a fresh clone', () => {
  let folder: string;
  beforeAll(() => {
    folder = join(mkdtempSync(join(tmpdir(), 'zaguan-clone-')), 'z');
    const cloned = spawnSync('git', ['clone', '--quiet', ROOT, folder], { encoding: 'utf8' });
    expect(cloned.stderr).toBe('');
    // `npm test` has just installed the same packages by the same function: no second download, where links can be made.
    const installed = ['.', 'core', 'contracts', 'server', 'web', 'demo', 'e2e', 'bench']
      .map((workspace) => join(workspace, 'node_modules'))
      .filter((packages) => existsSync(join(ROOT, packages)));
    if (process.env.ZAGUAN_TEST_RUN) spawnSync('cp', ['-al', '--parents', ...installed, folder], { cwd: ROOT });
  });
  // A test that failed before its Ctrl-C leaves nothing running for the next one to trip over.
  afterEach(async () => {
    for (const demo of [...running])
      if (demo.process.exitCode === null && demo.process.signalCode === null) await ctrlC(demo);
    running.length = 0;
  });
  afterAll(() => rmSync(join(folder, '..'), { recursive: true, force: true }));

  it('installs what is missing, starts PostgreSQL, migrates, builds, loads the clinic, prints the address; Ctrl-C stops all of it', async () => {
    const demo = start(folder);
    const [, base, port] = await demo.says(/Staff: {4}(http:\/\/127\.0\.0\.1:(\d+))\//);
    expect(demo.written()).toMatch(/Loaded 2600 patients and \d{5} visits/);
    const { accounts } = dataOf(await new Client(base).call(demoAccounts, {}));
    expect(accounts.map((account) => account.role).sort()).toEqual([
      'coordinator',
      'front-desk',
      'manager',
      'provider',
      'read-only',
    ]);
    const desk = await signedIn(base, 'coordinator');
    const clinic = dataOf(await desk.send('get', '/clinic', {})) as {
      sites: { timeZone: string }[];
      people: { kind: string }[];
      visitTypes: unknown[];
      now: string;
    };
    expect(clinic.sites.map((site) => site.timeZone)).toEqual([
      'America/Chicago',
      'America/Chicago',
      'America/Denver',
      'America/Phoenix',
    ]);
    expect(clinic.people.filter((person) => person.kind === 'provider')).toHaveLength(11);
    expect(clinic.visitTypes).toHaveLength(18);
    expect(await (await fetch(`${base}/book`)).text()).toContain('Book a visit');
    await ctrlC(demo);
    await expect(fetch(base)).rejects.toThrow();
    expect(leftOver(folder, port)).toBe('');
  });

  it('starts again in seconds with what was there, and afresh with --reset', async () => {
    const again = start(folder);
    await again.says(/The clinic is loaded already/, 20_000);
    const [, base] = await again.says(/Staff: {4}(http:\/\/127\.0\.0\.1:\d+)\//, 20_000);
    const desk = await signedIn(base, 'manager');
    expect((await desk.send('post', '/availability/edits', { edits: [await someHours(desk)] })).status).toBe(200);
    const count = async (client: Client) =>
      (dataOf(await client.send('get', '/availability/week', { from: '2027-01-04' })) as { hours: unknown[] }).hours
        .length;
    const changed = await count(desk);
    await ctrlC(again);
    const fresh = start(folder, EXCERPT, ['--reset']);
    await fresh.says(/Loaded 140 patients/, 60_000);
    const [, second] = await fresh.says(/Staff: {4}(http:\/\/127\.0\.0\.1:\d+)\//, 20_000);
    expect(await count(await signedIn(second, 'manager'))).toBeLessThan(changed);
    await ctrlC(fresh);
  });

  it('says that its folder is from another version, and loads the clinic afresh', async () => {
    const own = await startPostgres(join(folder, '.zaguan', 'postgres'), { durable: true });
    await madeByAnotherVersion(own.url);
    own.stop();
    const demo = start(folder, EXCERPT);
    await demo.says(/made by another version of Zaguan: loading it afresh/, 60_000);
    await demo.says(/Loaded 140 patients/, 60_000);
    await demo.says(/Staff: {4}http/, 20_000);
    await ctrlC(demo);
  });

  it('uses another server with DATABASE_URL, with two processes sharing one port', async () => {
    const cluster = await testCluster('command');
    const demo = start(folder, { ...EXCERPT, DATABASE_URL: cluster.url, ZAGUAN_PROCESSES: '2' }, ['--reset']);
    const [, base, port] = await demo.says(/Staff: {4}(http:\/\/127\.0\.0\.1:(\d+))\//, 60_000);
    expect((await signedIn(base, 'provider')).csrfToken).not.toBe('');
    const sql = new pg.Client({ connectionString: cluster.url });
    await sql.connect();
    expect((await sql.query('select name from clinic')).rows).toEqual([{ name: 'Brindlewood Allergy & Asthma' }]);
    await sql.end();
    await ctrlC(demo);
    expect(leftOver(folder, port)).toBe('');
    // Nobody's database is emptied without being told to.
    await madeByAnotherVersion(cluster.url);
    const refused = start(folder, { ...EXCERPT, DATABASE_URL: cluster.url });
    expect(await refused.exit()).toBe(1);
    expect(refused.written()).toContain('made by another version of Zaguan');
    expect(refused.written()).toContain('-- --reset');
    cluster.stop();
  });

  it('says so when the port is taken, and picks another one when it may', async () => {
    const taken = await new Promise<Server>((resolve) => {
      const server = createServer();
      server.listen(0, '127.0.0.1', () => resolve(server));
    });
    const address = taken.address();
    const port = address && typeof address === 'object' ? address.port : 0;
    const demo = start(folder, { PORT: String(port) });
    await demo.exit();
    expect(demo.written()).toContain(`Port ${port} is taken by another program. Nothing was changed.`);
    taken.close();
  });

  it('says what to install where PostgreSQL is missing and apt may not be used', () => {
    const script = `import { ensurePostgres } from '${folder}/scripts/setup/install.mjs'; import { main } from '${folder}/scripts/setup/say.mjs'; await main(() => ensurePostgres());`;
    const asNobody = process.getuid?.() === 0 ? { uid: 65534, gid: 65534 } : {};
    spawnSync('chmod', ['-R', 'a+rX', join(folder, '..')]);
    const run = spawnSync(process.execPath, ['--input-type=module', '-e', script], {
      encoding: 'utf8',
      env: { PATH: '/usr/bin:/bin', ZAGUAN_POSTGRES_DIR: '/nonexistent' },
      cwd: '/',
      ...asNobody,
    });
    expect(run.stderr).toContain("PostgreSQL is missing and can't be installed from here");
    expect(run.stderr).toContain('apt-get install --no-install-recommends postgresql');
    expect(run.status).toBe(1);
    expect(existsSync('/nonexistent')).toBe(false);
  });
});

/** As if a version with other migrations had made the database. */
async function madeByAnotherVersion(url: string): Promise<void> {
  const sql = new pg.Client({ connectionString: url });
  await sql.connect();
  await sql.query("update schema_migration set name = 'Migration20250101_of_another_version'");
  await sql.end();
}

async function someHours(client: Client): Promise<Record<string, unknown>> {
  const clinic = dataOf(await client.send('get', '/clinic', {})) as {
    sites: { id: string }[];
    people: { id: string }[];
  };
  return {
    do: 'add-hours',
    subject: { of: 'resource', id: clinic.people[0].id },
    from: '2027-01-01',
    pattern: {
      siteId: clinic.sites[0].id,
      weekdays: [7],
      fromMinute: 600,
      toMinute: 660,
      everyWeeks: 1,
      effectiveUntil: null,
      followsSiteHours: false,
      places: 1,
      accepts: { visitTypeIds: null, kinds: null, invitedOnly: false },
      online: true,
      release: null,
      caps: [],
    },
  };
}
