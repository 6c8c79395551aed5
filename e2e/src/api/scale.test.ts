import { publicDays } from '@zaguan/contracts/openings';
import { addDays, epochToWall } from '@zaguan/core/time';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { TYPES } from '../../../demo/src/excerpt/ids.ts';
import { loadScale, type Scaled } from '../../../demo/src/scale.ts';
import { readSnapshot } from '../../../server/src/features/openings/openings.sql.ts';
import { on } from '../../../server/src/platform/db/statement.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { Client, dataOf } from '../fixtures/client.ts';
import { copyDatabase } from '../fixtures/cluster.ts';
import { comingVisits, refusedAnew } from '../fixtures/comingVisits.ts';
import { TEST_DAY } from '../fixtures/globalDatabase.ts';
import { type RunningServer, startServer } from '../fixtures/server.ts';

const PATIENTS = 8000;

describe('a clinic made for measuring', () => {
  let made: Scaled;
  let sql: pg.Pool;
  let server: RunningServer;
  beforeAll(async () => {
    const cluster = { port: inject('clusterPort'), url: '', start: () => undefined, stop: () => undefined };
    const url = await copyDatabase(cluster, 'zaguan_empty', 't_scale');
    const orm = await prepareDatabase(url);
    made = await loadScale(orm, TEST_DAY, { patients: PATIENTS, visitsEach: 2 });
    await orm.close(true);
    sql = new pg.Pool({ connectionString: url, max: 2 });
    server = await startServer(url);
  }, 240_000);
  afterAll(async () => {
    await server.stop();
    await sql.end();
  });

  it('has as many patients and about as many visits as asked for, each with provider and room', async () => {
    const count = async (query: string) => Number((await sql.query<{ n: string }>(query)).rows[0].n);
    expect(await count(`select count(*) as n from patient where record_number like 'S%'`)).toBe(PATIENTS);
    expect(made.visits / made.patients).toBeGreaterThan(1.6);
    expect(made.visits / made.patients).toBeLessThan(2.6);
    expect(made.providers).toBeGreaterThan(2);
    expect(
      await count(`select count(*) as n from appointment a join resource r on r.id = a.provider_id where r.name like 'Dr. Scale%'
        and (select count(*) from occupancy o where o.appointment_id = a.id) <> 2`),
    ).toBe(0);
    expect(
      await count(`select count(*) as n from appointment where status = 'booked' and starts_at > '2026-12-02'`),
    ).toBeGreaterThan(PATIENTS / 10);
  });

  it('holds visits by day, within the hours of their providers, as the rules would have them', async () => {
    const visits = await comingVisits(
      sql,
      `r.name like 'Dr. Scale%' and site_date > $1 order by md5(a.id::text) limit 400`,
      [TEST_DAY],
    );
    expect(visits.length).toBe(400);
    const now = Math.min(...visits.map(({ start }) => start)) - 60;
    const range = { from: addDays(TEST_DAY, -3), until: addDays(TEST_DAY, 60) };
    const snapshot = await readSnapshot(on(sql), range, new Date(now * 60_000));
    expect(refusedAnew(snapshot, visits, () => [now])).toEqual([]);
    const hours = visits.map(({ start }) => epochToWall('America/Chicago', start).minute);
    expect(Math.min(...hours)).toBe(480);
    expect(Math.max(...hours)).toBe(1000);
  });

  it('can be searched like any other', async () => {
    const { rows } = await sql.query<{ id: string }>(`select id from site where code = 'S1'`);
    const found = dataOf(
      await new Client(server.url).call(publicDays, {
        siteId: rows[0].id,
        visitTypeId: TYPES.follow,
        kind: 'established',
      }),
    );
    expect(found.timeZone).toBe('America/Chicago');
    expect(found.days).toHaveLength(91);
  });
});
