import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadExcerpt } from '../../../demo/src/index.ts';
import { prepareDatabase } from '../../../server/src/prepare.ts';
import { DESK, openPage, PHONE, press, type RunningBrowser, seesText, startBrowser } from '../fixtures/browser.ts';
import { type Cluster, databaseUrl, onServer, testCluster } from '../fixtures/cluster.ts';
import { type RunningServer, startServer } from '../fixtures/server.ts';
import { EN, ROSA, sayCode, takeTime, toWhen, typePerson } from '../pages/patientPages.ts';

const AWAY_MS = 10_000;

describe('the database is away for ten seconds', () => {
  let cluster: Cluster;
  let server: RunningServer;
  let browser: RunningBrowser;
  beforeAll(async () => {
    cluster = await testCluster('fault');
    await onServer(cluster, 'drop database if exists fault with (force)', 'create database fault');
    const orm = await prepareDatabase(databaseUrl(cluster, 'fault'));
    await loadExcerpt(orm, '2026-12-01');
    await orm.close(true);
    server = await startServer(databaseUrl(cluster, 'fault'));
    browser = await startBrowser();
  });
  afterAll(async () => {
    await browser.stop();
    await server.stop();
    cluster.stop();
  });

  it('says so on both pages, loses nothing, and recovers by itself', async () => {
    const { page: desk } = await openPage(browser, DESK);
    await desk.goto(server.url);
    await press(desk, 'Coordinator');
    await desk.waitForSelector('[data-plate]');
    const { page: phone } = await openPage(browser, PHONE);
    await toWhen(phone, server.url);
    const start = await takeTime(phone, 3);
    await typePerson(phone, { ...ROSA, given: 'Patient' });

    cluster.stop('immediate');
    const stoppedAt = Date.now();
    await press(phone, EN.book);
    await desk.click('button[aria-label="Next day"]');
    await seesText(phone, 'We can’t reach our booking system right now. Nothing you typed is lost.');
    await seesText(desk, 'The server can’t be reached just now. Nothing is lost');
    expect((await fetch(`${server.url}/healthz`)).status).toBe(503);
    expect(await phone.$eval('[name="givenName"]', (each) => (each as HTMLInputElement).value)).toBe('Patient');
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, AWAY_MS - (Date.now() - stoppedAt))));
    cluster.start();

    await seesText(phone, 'Is this your number?', 20_000);
    const sql = new pg.Pool({ connectionString: databaseUrl(cluster, 'fault'), max: 1 });
    await sayCode(phone, sql);
    await seesText(phone, EN.booked, 20_000);
    await sql.end();
    await desk.waitForFunction(() => !document.body.innerText.includes('can’t be reached'), { timeout: 20_000 });
    await seesText(desk, 'Wednesday, December 2');
    // The live line is back too: what was booked meanwhile is there without a reload.
    await desk.goto(`${server.url}/daybook/${start.slice(0, 10)}`);
    await seesText(desk, '1 person not known yet', 20_000);
    expect((await fetch(`${server.url}/healthz`)).status).toBe(200);
  });
});
