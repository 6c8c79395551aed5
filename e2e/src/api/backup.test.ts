import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { databaseUrl, onServer, ROOT } from '../fixtures/cluster.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

describe('backup and restore', () => {
  let world: World;
  let folder: string;
  let file: string;
  const server = () => ({ port: inject('clusterPort'), url: '', start: () => undefined, stop: () => undefined });
  beforeAll(async () => {
    world = await makeWorld('backup', { processes: 0 });
    folder = mkdtempSync(join(tmpdir(), 'zaguan-backup-'));
    file = join(folder, 'clinic.dump');
    for (const name of ['t_restored', 't_broken'])
      await onServer(server(), `drop database if exists ${name}`, `create database ${name}`);
  });
  afterAll(async () => {
    rmSync(folder, { recursive: true, force: true });
    await world.close();
  });
  const run = (script: string, database: string, ...args: string[]) =>
    spawnSync(process.execPath, [join(ROOT, `scripts/${script}.mjs`), ...args], {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, DATABASE_URL: databaseUrl(server(), database) },
    });

  it('writes one file, and never over another one', () => {
    const done = run('backup', 't_backup', file);
    expect([done.stderr, done.status]).toEqual(['', 0]);
    expect(done.stdout).toMatch(/holds \d+ tables with \d{4,} rows/);
    // Nobody else on the machine reads them.
    for (const each of [file, `${file}.json`]) expect(statSync(each).mode & 0o777).toBe(0o600);
    // Values are in the file's companion as hashes only.
    expect(readFileSync(`${file}.json`, 'utf8')).not.toMatch(/Brindlewood|Amaya|@/);
    const again = run('backup', 't_backup', file);
    expect([again.status, again.stderr]).toEqual([1, expect.stringContaining('is there already')]);
  });

  it('restores it into an empty database, compares, and the clinic is there with what guards it', async () => {
    const done = run('restore', 't_restored', file);
    expect([done.stderr, done.status]).toEqual(['', 0]);
    expect(done.stdout).toContain('each the same as when it was backed up');
    const sql = new pg.Pool({ connectionString: databaseUrl(server(), 't_restored'), max: 1 });
    const count = 'select (select count(*) from appointment)::int as a, (select count(*) from occupancy)::int as o';
    expect((await sql.query(count)).rows).toEqual((await world.sql.query(count)).rows);
    // Notes of changes speak of transactions of the server they were made on.
    expect((await world.sql.query('select 1 from openings_change limit 1')).rows).toHaveLength(1);
    const notes = await sql.query("select 1 from openings_change where kind = 'visit'");
    expect(notes.rows).toEqual([]);
    // The constraint against double booking came along.
    await expect(
      sql.query(
        'insert into occupancy (resource_id, place, places, during, appointment_id) select resource_id, place, places, during, appointment_id from occupancy limit 1',
      ),
    ).rejects.toMatchObject({ code: '23P01' });
    await sql.end();
  });

  it('refuses a database with anything in it, and changes nothing there', () => {
    const done = run('restore', 't_restored', file);
    expect([done.status, done.stderr]).toEqual([1, expect.stringContaining('has')]);
    expect(done.stderr).toContain('Nothing was changed');
  });

  it('leaves the database empty when the file breaks off', async () => {
    const broken = join(folder, 'broken.dump');
    writeFileSync(broken, readFileSync(file));
    writeFileSync(`${broken}.json`, readFileSync(`${file}.json`));
    truncateSync(broken, Math.floor(readFileSync(file).length / 2));
    const done = run('restore', 't_broken', broken);
    expect([done.status, done.stderr]).toEqual([1, expect.stringContaining('could not be read back')]);
    const sql = new pg.Client({ connectionString: databaseUrl(server(), 't_broken') });
    await sql.connect();
    expect((await sql.query("select 1 from pg_tables where schemaname in ('public','simulated')")).rows).toEqual([]);
    await sql.end();
  });

  it('says which tables differ from what was backed up', () => {
    const told = JSON.parse(readFileSync(`${file}.json`, 'utf8')) as Record<string, { rows: number; hash: string }>;
    told['public.patient'].hash = '1';
    const changed = join(folder, 'changed.dump');
    writeFileSync(changed, readFileSync(file));
    writeFileSync(`${changed}.json`, JSON.stringify(told));
    const done = run('restore', 't_broken', changed);
    expect([done.status, done.stderr]).toEqual([1, expect.stringContaining('public.patient')]);
    expect(done.stderr).not.toContain('public.appointment');
  });

  it('makes the tables of an empty database, and finds nothing more to do the second time', async () => {
    await onServer(server(), 'drop database if exists t_migrated', 'create database t_migrated');
    for (let i = 0; i < 2; i++) {
      const done = run('migrate', 't_migrated');
      expect([done.stderr, done.status]).toEqual(['', 0]);
      expect(done.stdout).toContain('up to date');
    }
    const sql = new pg.Client({ connectionString: databaseUrl(server(), 't_migrated') });
    await sql.connect();
    expect((await sql.query('select count(*)::int as n from appointment')).rows).toEqual([{ n: 0 }]);
    await sql.end();
  });

  it('says so when the database is not there, and leaves nothing behind', () => {
    for (const script of ['backup', 'migrate']) {
      const done = run(script, 't_nowhere', join(folder, 'nowhere.dump'));
      expect([done.status, done.stderr]).toEqual([1, expect.stringContaining('reached (3D000)')]);
      expect(done.stderr).not.toContain('    at ');
    }
    expect(existsSync(join(folder, 'nowhere.dump'))).toBe(false);
  });

  it('says what it needs', () => {
    expect(run('backup', 't_backup').stderr).toContain('npm run backup -- FILE');
    expect(run('restore', 't_broken', join(folder, 'none')).stderr).toContain('There is no file');
  });
});
