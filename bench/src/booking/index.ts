import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bookHeld, placeHold } from '@zaguan/contracts/booking';
import { publicDays, publicTimes } from '@zaguan/contracts/openings';
import pg from 'pg';
import { type Client, dataOf } from '../../../e2e/src/fixtures/client.ts';
import { MARTA, provedBrowser, type RequestedTime } from '../../../e2e/src/fixtures/patient.ts';
import { countedWire, tripsOf } from '../../../e2e/src/fixtures/wire.ts';
import { ensurePostgres } from '../../../scripts/setup/install.mjs';
import { benchServer, demoDatabase } from '../clinicDatabase.ts';
import { type Result, rounded } from '../measure.ts';
import { noted, noteStatements, stopNoting } from './capture.ts';
import { scriptOf } from './script.ts';

const CLIENTS = 32;
const BOOKINGS = 160;
const SECONDS = 15;

/** Different times at all sites, each to be booked once. */
async function freeTimes(client: Client, sql: pg.Pool, max: number): Promise<RequestedTime[]> {
  const { rows } = await sql.query<{ site: string; type: string }>(
    `select s.id as site, t.id as type from site s, visit_type t where t.name = 'Follow-up' order by s.sort_order`,
  );
  const found: RequestedTime[] = [];
  for (const { site, type } of rows) {
    const criteria = { siteId: site, visitTypeId: type, kind: 'established' as const };
    const { days } = dataOf(await client.call(publicDays, criteria));
    for (const { date } of days.filter((day) => day.starts > 0)) {
      const { lanes } = dataOf(await client.call(publicTimes, { ...criteria, date }));
      // Half an hour apart, so that no booking takes another one's time.
      for (const { providerId, starts } of lanes) {
        let last = 0;
        for (const start of starts) {
          if (Date.parse(start) - last < 30 * 60_000) continue;
          last = Date.parse(start);
          found.push({ ...criteria, providerId, start });
        }
      }
    }
  }
  // The first days are the fullest: the later ones are taken first, each provider's and date's in turn.
  return found
    .sort((a, b) => (a.start.slice(11) + a.providerId < b.start.slice(11) + b.providerId ? -1 : 1))
    .slice(-max);
}

async function book(client: Client, requested: RequestedTime, contact: string): Promise<string | null> {
  const held = await client.call(placeHold, requested);
  if (!held.data) return null;
  const person = { ...MARTA, contact };
  const booked = await client.call(bookHeld, { holdId: held.data.hold.id, requested, language: 'en', person });
  return booked.data?.visit.id ?? null;
}

const contactOf = (n: number) => `(312) 555-01${String(n).padStart(2, '0')}`;

/**
 * A patient's whole booking over HTTP, hold and booking, at 32 clients, against `pgbench` running at 32 clients the
 * statements that one such booking sent, with the same durability. The peer's rows never meet each other's.
 */
export async function booking(serverUrl: string): Promise<Result> {
  const url = await demoDatabase(serverUrl);
  const sql = new pg.Pool({ connectionString: url, max: 2 });
  const folder = mkdtempSync(join(tmpdir(), 'zaguan-bench-'));
  try {
    const script = await captured(url, sql, join(folder, 'booking.sql'));
    const ours = await ownRate(url, sql);
    const theirs = peerRate(url, script);
    const trips = await roundTrips(url, sql);
    return {
      roundTrips: trips.booking,
      roundTripsOfHold: trips.hold,
      ratio: rounded(ours.perSecond / theirs.perSecond),
      bookingsPerSecond: rounded(ours.perSecond),
      refused: ours.refused,
      peerPerSecond: rounded(theirs.perSecond),
      statements: theirs.statements,
      unit: 'of the peer’s rate',
      peer: 'pgbench with the same statements, 32 clients, fsync on',
      n: BOOKINGS,
    };
  } finally {
    rmSync(folder, { recursive: true });
    await sql.end();
  }
}

/** How often one hold and one booking wait for the database, BEGIN and COMMIT counted. */
async function roundTrips(url: string, sql: pg.Pool): Promise<{ hold: number; booking: number }> {
  const wire = await countedWire(url);
  const server = await benchServer(wire.url);
  try {
    const client = await provedBrowser(server.url, contactOf(98), sql);
    const [requested] = await freeTimes(client, sql, 1);
    wire.taken();
    const { hold } = dataOf(await client.call(placeHold, requested));
    const held = tripsOf(wire.taken(), /insert into "?hold\b/).length;
    const person = { ...MARTA, contact: contactOf(98) };
    dataOf(await client.call(bookHeld, { holdId: hold.id, requested, language: 'en', person }));
    return { hold: held, booking: tripsOf(wire.taken(), /insert into "?appointment\b/).length };
  } finally {
    await server.stop();
    await wire.close();
  }
}

async function ids(sql: pg.Pool): Promise<Set<string>> {
  const { rows: tables } = await sql.query<{ name: string }>(
    `select format('%I.%I', table_schema, table_name) as name from information_schema.columns
     where column_name = 'id' and data_type = 'uuid' and table_schema in ('public', 'simulated')`,
  );
  const known = new Set<string>();
  for (const { name } of tables) {
    const { rows } = await sql.query<{ id: string }>(`select id from ${name}`);
    for (const { id } of rows) known.add(id);
  }
  return known;
}

/** Books once on a server whose statements are noted, and writes them down as a script. */
async function captured(url: string, sql: pg.Pool, file: string): Promise<{ file: string; statements: number }> {
  const database = new URL(url).pathname.slice(1);
  const before = await ids(sql);
  const since = await noteStatements(sql, database);
  const server = await benchServer(url);
  try {
    const client = await provedBrowser(server.url, contactOf(99), sql);
    const requested = (await freeTimes(client, sql, 10_000)).find(
      ({ start }) => start.slice(11) > '16:00' && start.slice(11) < '20:00',
    );
    if (!requested) throw new Error('No time about noon is free.');
    const id = await book(client, requested, contactOf(99));
    if (!id) throw new Error('The booking whose statements are wanted was refused.');
    const all = await noted(sql, since);
    const own = all.filter((statements) =>
      statements.some(({ sql }) => /insert into "?(hold|appointment)"?\b/i.test(sql)),
    );
    // The first held a time only to prove the number.
    if (own.length !== 3) throw new Error(`Of ${all.length} transactions ${own.length} look like a hold or a booking.`);
    writeFileSync(
      file,
      scriptOf(own.slice(1), (uuid) => !before.has(uuid), requested.start.slice(0, 10)),
    );
    return { file, statements: own.slice(1).reduce((sum, { length }) => sum + length, 0) };
  } finally {
    await server.stop();
    await stopNoting(sql, database);
  }
}

async function ownRate(url: string, sql: pg.Pool): Promise<{ perSecond: number; refused: number }> {
  const server = await benchServer(url);
  try {
    const clients: Client[] = [];
    for (let n = 0; n < CLIENTS; n++) clients.push(await provedBrowser(server.url, contactOf(n), sql));
    const times = await freeTimes(clients[0], sql, BOOKINGS + CLIENTS);
    // Each client's first booking only warms the server up.
    await Promise.all(clients.map((client, n) => book(client, times[n], contactOf(n))));
    let next = CLIENTS;
    let refused = 0;
    const from = performance.now();
    await Promise.all(
      clients.map(async (client, n) => {
        while (next < times.length) if (!(await book(client, times[next++], contactOf(n)))) refused++;
      }),
    );
    const seconds = (performance.now() - from) / 1000;
    if (times.length < BOOKINGS) throw new Error(`Only ${times.length} times are free.`);
    return { perSecond: (times.length - CLIENTS - refused) / seconds, refused };
  } finally {
    await server.stop();
  }
}

function peerRate(
  url: string,
  script: { file: string; statements: number },
): { perSecond: number; statements: number } {
  const run = spawnSync(
    join(ensurePostgres(), 'pgbench'),
    ['-n', '-f', script.file, '-D', 'n=0', '-c', String(CLIENTS), '-j', '2', '-T', String(SECONDS), url],
    { encoding: 'utf8' },
  );
  const rate = /tps = ([\d.]+) \(without/.exec(run.stdout)?.[1];
  if (run.status !== 0 || !rate) throw new Error(`pgbench failed:\n${run.stderr.slice(0, 2000)}`);
  return { perSecond: Number(rate), statements: script.statements };
}
