import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { acceptTimes, visitsToMove } from '@zaguan/contracts/availability';
import { bookHeld, cancelVisit, moveVisit, placeHold } from '@zaguan/contracts/booking';
import { publicDays, publicTimes } from '@zaguan/contracts/openings';
import { cancelByLink } from '@zaguan/contracts/patientVisit';
import { simulatedCarrier } from '@zaguan/contracts/messages';
import { todaysWork } from '@zaguan/contracts/today';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { closeCanalRow } from '../fixtures/closing.ts';
import { linkOn } from '../fixtures/link.ts';
import { bookedVisit, FOLLOW_UP, freeTime, MARTA, provedBrowser, type RequestedTime } from '../fixtures/patient.ts';
import { startRelay } from '../fixtures/relay.ts';
import { startServer } from '../fixtures/server.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** The processes that a process started, as Linux lists them. */
const childrenOf = (pid: number | undefined) =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').split(' ').filter(Boolean).map(Number);
const OPEN = { ZAGUAN_PROOF: 'no', ZAGUAN_LIMIT_WRITES: '100000', ZAGUAN_LIMIT_READS: '100000' };
const ANY = {
  ...OPEN,
  ZAGUAN_LIMIT_HOLDS: '1000',
  ZAGUAN_LIMIT_HOLDS_NEARBY: '1000',
  ZAGUAN_LIMIT_BOOKINGS_PERSON: '1000',
  ZAGUAN_LIMIT_BOOKINGS_CONTACT: '1000',
};

describe('the clinic goes on', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('running');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());
  const cancelled = (id: string) => desk.call(cancelVisit, { id, reason: 'provider-away', note: '', version: 1 });
  const deadlocks = async () => {
    // The counter is written with a delay of a second.
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    const { rows } = await world.sql.query(
      'select deadlocks::int as n from pg_stat_database where datname = current_database()',
    );
    return Number(rows[0].n);
  };
  const versionOf = async (id: string) =>
    (await world.sql.query<{ version: number }>('select version from appointment where id = $1', [id])).rows[0].version;

  it('starts a process anew that was killed, and says so in the log', async () => {
    const server = await startServer(world.url, { ...OPEN, ZAGUAN_PROCESSES: '2' });
    const [victim, other] = childrenOf(server.process.pid);
    process.kill(victim, 'SIGKILL');
    await until(
      async () => server.log().includes('a server process ended; another one is started'),
      'a line in the log',
    );
    await until(async () => childrenOf(server.process.pid).length === 2, 'two processes again');
    expect(childrenOf(server.process.pid)).toContain(other);
    expect(childrenOf(server.process.pid)).not.toContain(victim);
    expect((await fetch(`${server.url}/healthz`)).status).toBe(200);
    await server.stop();
    expect(server.process.exitCode).toBe(0);
  });

  it('answers every booking that it saved, though it is told to stop in the middle', async () => {
    const server = await startServer(world.url, ANY);
    const from = new Client(server.url);
    const { days } = dataOf(await from.call(publicDays, FOLLOW_UP));
    const times: RequestedTime[] = [];
    for (const { date } of days.filter(({ starts }) => starts > 0).slice(-8)) {
      const { lanes } = dataOf(await from.call(publicTimes, { ...FOLLOW_UP, date }));
      for (const { providerId, starts } of lanes)
        times.push(...starts.filter((_, n) => n % 8 === 0).map((start) => ({ ...FOLLOW_UP, providerId, start })));
    }
    const people: Client[] = [];
    for (let n = 0; n < 12; n++) people.push(await provedBrowser(server.url, `(312) 555-02${10 + n}`, world.sql));
    const told = new Set<string>();
    let cut = 0;
    let next = 0;
    const patient = async (client: Client, n: number) => {
      while (next < times.length) {
        const requested = times[next++];
        try {
          const held = await client.call(placeHold, requested);
          if (!held.data) continue;
          const person = { ...MARTA, contact: `(312) 555-02${10 + n}` };
          const booked = await client.call(bookHeld, { holdId: held.data.hold.id, requested, language: 'en', person });
          if (booked.data) told.add(booked.data.visit.id);
        } catch {
          // The line was refused or cut: no answer.
          cut++;
          return;
        }
      }
    };
    const all = Promise.all(people.map(patient));
    await until(async () => told.size > 20, 'some bookings');
    await server.stop();
    await all;
    expect(cut).toBeGreaterThan(0);
    const { rows } = await world.sql.query<{ id: string }>(
      "select appointment_id as id from self_booking where phone like '+131255502%'",
    );
    expect(rows.filter(({ id }) => !told.has(id))).toEqual([]);
    expect(rows).toHaveLength(told.size);
  });

  it('says within two seconds that the database does not answer, and goes on when it does', async () => {
    const relay = await startRelay(inject('clusterPort'));
    const server = await startServer(Object.assign(new URL(world.url), { port: String(relay.port) }).toString(), OPEN);
    expect((await fetch(`${server.url}/healthz`)).status).toBe(200);
    relay.freeze(true);
    const from = performance.now();
    const answer = await fetch(`${server.url}/healthz`);
    expect(answer.status).toBe(503);
    expect(await answer.json()).toEqual({ ok: false, database: 'away' });
    expect(performance.now() - from).toBeLessThan(2_000);
    relay.freeze(false);
    await until(async () => (await fetch(`${server.url}/healthz`)).status === 200, 'the database back');
    await server.stop();
    relay.stop();
  });

  it('does again by itself what a deadlock took back', async () => {
    const { id } = await bookedVisit(base, 1);
    const before = await deadlocks();
    const other = await world.sql.connect();
    await other.query('begin');
    await other.query('lock table domain_event in share mode');
    const answer = cancelled(id);
    await until(
      async () =>
        (await world.sql.query("select 1 from pg_locks where not granted and relation = 'domain_event'::regclass")).rows
          .length,
      'the server waits',
    );
    // Each now waits for the other; PostgreSQL ends whoever has waited longer: the server.
    await other.query('select 1 from appointment where id = $1 for update', [id]);
    await other.query('rollback');
    other.release();
    expect((await answer).status).toBe(200);
    expect(await deadlocks()).toBe(before + 1);
  });

  it('moves many visits for two desks at once, each in another order, without a deadlock', async () => {
    const made: string[] = [];
    const first = await bookedVisit(base, 2);
    made.push(first.id);
    const date = first.requested.start.slice(0, 10);
    await closeCanalRow(desk, date, false);
    const second = await signedIn(base, 'manager');
    const before = await deadlocks();
    let moved = 0;
    for (let round = 0; round < 6; round++) {
      const { visits } = dataOf(await desk.call(visitsToMove, {}));
      const times = visits.flatMap(({ appointmentId, version, proposed }) =>
        proposed ? [{ appointmentId, version, ...proposed }] : [],
      );
      if (times.length < 2) break;
      const answers = await Promise.all([
        desk.call(acceptTimes, { times: times.slice(0, 6) }),
        second.call(acceptTimes, { times: times.slice(0, 6).reverse() }),
      ]);
      for (const { status, data } of answers) {
        expect(status).toBe(200);
        moved += data?.moved ?? 0;
      }
    }
    expect(moved).toBeGreaterThan(3);
    expect(await deadlocks()).toBe(before);
  });

  it('says that the disk is full: nothing is saved, all may be tried again', async () => {
    const { id } = await bookedVisit(base, 3);
    await world.sql.query(
      `create function full_disk() returns trigger language plpgsql as $$ begin raise exception 'could not extend file' using errcode = '53100'; end $$`,
    );
    await world.sql.query('create trigger full_disk before insert on domain_event execute function full_disk()');
    const answer = await cancelled(id);
    expect(answer.status).toBe(503);
    expect(refusalOf(answer).tag).toBe('DatabaseAway');
    await world.sql.query('drop trigger full_disk on domain_event');
    // What a process writes comes a moment after its answer.
    await until(async () => world.servers[0].log().includes('the disk of the database is full'), 'the log says so');
    expect(await versionOf(id)).toBe(1);
    expect((await cancelled(id)).status).toBe(200);
  });

  it('gives up on a lock that nobody gives back, and says so', async () => {
    const { id } = await bookedVisit(base, 4);
    const other = await world.sql.connect();
    await other.query('begin');
    await other.query('select 1 from appointment where id = $1 for update', [id]);
    const answer = await cancelled(id);
    expect(refusalOf(answer).tag).toBe('DatabaseAway');
    await other.query('rollback');
    other.release();
    expect((await cancelled(id)).status).toBe(200);
  });

  it('never lets a patient wait for a carrier: a cancellation goes through while a text takes half a minute', async () => {
    const { id, requested } = await bookedVisit(base, 5);
    const token = await linkOn(world, id);
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'slow' }));
    const to = await freeTime(base, FOLLOW_UP, 9);
    dataOf(
      await desk.call(moveVisit, { id, version: await versionOf(id), start: to.start, providerId: to.providerId }),
    );
    await until(
      async () =>
        (
          await world.sql.query('select 1 from message where appointment_id = $1 and lease_until > clock_timestamp()', [
            id,
          ])
        ).rows.length,
      'the carrier is spoken to',
    );
    const from = performance.now();
    const phone = new Client(base);
    dataOf(await phone.call(cancelByLink, { token, birthDate: MARTA.birthDate, language: 'en' }));
    expect(performance.now() - from).toBeLessThan(2_000);
    expect((await desk.call(todaysWork, {})).status).toBe(200);
    expect(requested.start).not.toBe(to.start);
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'works' }));
  });

  it('answers dates that are none, or too far off, and headers outside ASCII, with what is wrong', async () => {
    for (const date of ['2199-12-31', 'foo', '0001-01-01', '2026-02-31', '9999-12-31'])
      expect([date, (await desk.send('get', '/daybook/:date', { date })).status]).toEqual([date, 400]);
    const status = await new Promise<number | undefined>((resolve, reject) => {
      const url = new URL('/api/undo/7f3c1c1e-6a1e-4f0c-9f62-3a3f5b1f7a11', base);
      const req = request(
        url,
        {
          method: 'POST',
          headers: { cookie: desk.cookieHeader(), 'content-type': 'application/json', 'x-csrf-token': 'é'.repeat(43) },
        },
        (res) => resolve(res.resume().statusCode),
      );
      req.on('error', reject);
      req.end('{}');
    });
    expect(status).toBe(403);
  });
});
