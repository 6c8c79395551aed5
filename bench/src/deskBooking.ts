import { randomUUID } from 'node:crypto';
import * as desk from '@zaguan/contracts/desk';
import { findTimes } from '@zaguan/contracts/openings';
import { addDays } from '@zaguan/core/time';
import pg from 'pg';
import { type Client, dataOf, signedIn } from '../../e2e/src/fixtures/client.ts';
import { countedWire, tripsOf } from '../../e2e/src/fixtures/wire.ts';
import { BENCH_DAY, benchServer, demoDatabase } from './clinicDatabase.ts';
import { median, type Result, rounded } from './measure.ts';

const DESKS = 64;
/** Several desks share a session: signing in more often at once is refused. */
const SIGN_INS = 8;
const BOOKINGS = Number(process.env.ZAGUAN_DESK_BOOKINGS ?? 5_000);
/** One of so many is a household of two, and one of so many is booked against a rule. */
const HOUSEHOLD_EVERY = 8;
const OVERRIDE_EVERY = 10;
const DAYS = 60;
const ROUNDS = 15;

/**
 * Booking at the desk on the whole demo clinic: how often one booking, and the hold before it, wait for the database; the
 * three proposals against one search of the same days; and 64 desks at once on two processes, of whom some book
 * households and some against rules.
 */
export async function deskBooking(serverUrl: string): Promise<Result> {
  const url = await demoDatabase(serverUrl);
  const sql = new pg.Pool({ connectionString: url, max: 4 });
  try {
    const trips = await roundTrips(url, sql);
    const proposals = await proposalRatio(url, sql);
    const crowd = await manyDesks(url, sql);
    return {
      roundTrips: trips.booking,
      roundTripsOfHold: trips.hold,
      ...proposals,
      ...crowd,
      unit: 'round trips; times one search; bookings',
      peer: 'one search for times over the same 42 days at all sites, by HTTP in turn',
      n: BOOKINGS,
    };
  } finally {
    await sql.end();
  }
}

async function people(sql: pg.Pool): Promise<string[]> {
  const { rows } = await sql.query<{ id: string }>(
    `select id from patient where not restricted and status = 'active' and birth_date < '2000-01-01' order by id`,
  );
  return rows.map(({ id }) => id);
}

async function followUp(sql: pg.Pool): Promise<string> {
  const { rows } = await sql.query<{ id: string }>("select id from visit_type where name = 'Follow-up'");
  return rows[0].id;
}

async function siteIds(sql: pg.Pool): Promise<string[]> {
  const { rows } = await sql.query<{ id: string }>('select id from site order by sort_order');
  return rows.map(({ id }) => id);
}

/** How often one hold and one booking of its time wait for the database, BEGIN and COMMIT counted. */
async function roundTrips(url: string, sql: pg.Pool): Promise<{ hold: number; booking: number }> {
  const wire = await countedWire(url);
  const server = await benchServer(wire.url);
  try {
    const client = await signedIn(server.url, 'coordinator');
    const [patientId, visitTypeId] = [(await people(sql))[7], await followUp(sql)];
    const wanted = { patientId, visitTypeId };
    const search = { ...wanted, from: addDays(BENCH_DAY, 20), days: 14 };
    const [time] = dataOf(await client.call(desk.proposeAtDesk, search as never)).proposals;
    const visit = { ...wanted, siteId: time.siteId, providerId: time.providerId, start: time.start };
    const flowId = randomUUID();
    wire.taken();
    dataOf(await client.call(desk.holdAtDesk, { flowId, visits: [visit] } as never));
    const hold = tripsOf(wire.taken(), /insert into "?hold\b/).length;
    const booking = { key: randomUUID(), flowId, group: null, visits: [visit] };
    dataOf(await client.call(desk.bookAtDesk, booking as never));
    return { hold, booking: tripsOf(wire.taken(), /insert into "?appointment\b/).length };
  } finally {
    await server.stop();
    await wire.close();
  }
}

async function proposalRatio(url: string, sql: pg.Pool): Promise<Record<string, number>> {
  const server = await benchServer(url);
  try {
    const client = await signedIn(server.url, 'coordinator');
    const [ids, visitTypeId, sites] = [await people(sql), await followUp(sql), await siteIds(sql)];
    const search = {
      ...{ channel: 'desk', siteIds: sites, providerIds: null, from: BENCH_DAY, days: 42, weekdays: null },
      ...{ fromMinute: 0, toMinute: 1440, language: null, series: null },
      household: { how: 'back-to-back', mostWaitMin: 0 },
    };
    const [ours, peer]: [number[], number[]] = [[], []];
    for (let round = -3; round < ROUNDS; round++) {
      const patientId = ids[100 + round];
      const members = [{ visitTypeId, kind: 'established', patientId }];
      const wanted = { patientId, visitTypeId, from: BENCH_DAY, days: 42 };
      const took = [
        await timed(() => client.call(desk.proposeAtDesk, wanted as never)),
        await timed(() => client.call(findTimes, { ...search, members } as never)),
      ];
      if (round < 0) continue;
      ours.push(took[0]);
      peer.push(took[1]);
    }
    return {
      proposalsRatio: rounded(median(ours) / median(peer)),
      proposalsMs: rounded(median(ours)),
      searchMs: rounded(median(peer)),
    };
  } finally {
    await server.stop();
  }
}

async function timed(run: () => Promise<{ readonly status: number; readonly text: string }>): Promise<number> {
  const from = performance.now();
  const { status, text } = await run();
  if (status !== 200) throw new Error(`Refused with ${status}: ${text.slice(0, 300)}`);
  return performance.now() - from;
}

/** Numbers without a pattern, the same in every run. */
function draws(seed: number): (below: number) => number {
  let state = seed * 2654435761 + 1;
  return (below) => {
    state = (state * 48271) % 2147483647;
    return Math.abs(state) % below;
  };
}

/** What a desk does: asks for a day's times, and books one of them, until enough is booked. */
async function manyDesks(url: string, sql: pg.Pool): Promise<Record<string, number>> {
  const servers = await Promise.all([benchServer(url), benchServer(url)]);
  const deadlocks = async () =>
    (
      await sql.query<{ n: number }>(
        'select deadlocks::int as n from pg_stat_database where datname = current_database()',
      )
    ).rows[0].n;
  try {
    const [ids, visitTypeId, sites] = [await people(sql), await followUp(sql), await siteIds(sql)];
    const before = { deadlocks: await deadlocks(), visits: await deskVisits(sql) };
    const said: string[] = [];
    const refused = new Map<string, number>();
    let next = 0;
    const from = performance.now();
    const oneDesk = async (client: Client, at: number) => {
      const draw = draws(at + 1);
      while (said.length < BOOKINGS) {
        const turn = next++;
        const patients = [ids[draw(ids.length)], ...(turn % HOUSEHOLD_EVERY ? [] : [ids[draw(ids.length)]])];
        const booking = await drawn(client, { patients, visitTypeId, siteId: sites[draw(sites.length)], draw, turn });
        if (!booking) continue;
        const answer = await client.call(desk.bookAtDesk, booking as never);
        if (answer.data) said.push(...answer.data.visits.map(({ id }) => id));
        else refused.set(answer.error?.tag ?? String(answer.status), (refused.get(answer.error?.tag ?? '') ?? 0) + 1);
        if (answer.status >= 500) throw new Error(`A desk was answered ${answer.status}: ${answer.text.slice(0, 300)}`);
      }
    };
    const clients: Client[] = [];
    for (let at = 0; at < SIGN_INS; at++) clients.push(await signedIn(servers[at % 2].url, 'coordinator'));
    await Promise.all(Array.from({ length: DESKS }, (_, at) => oneDesk(clients[at % SIGN_INS], at)));
    const seconds = (performance.now() - from) / 1000;
    return {
      booked: said.length,
      refused: [...refused.values()].reduce((a, b) => a + b, 0),
      perSecond: rounded(said.length / seconds),
      double: await doubles(sql),
      lost: (await deskVisits(sql)) - before.visits - said.length,
      deadlocks: (await deadlocks()) - before.deadlocks,
    };
  } finally {
    await Promise.all(servers.map((server) => server.stop()));
  }
}

interface Wish {
  readonly patients: readonly string[];
  readonly visitTypeId: string;
  readonly siteId: string;
  readonly draw: (below: number) => number;
  readonly turn: number;
}

/** A booking of times that were free a moment ago, or on purpose of one that is not. */
async function drawn(client: Client, { patients, visitTypeId, siteId, draw, turn }: Wish): Promise<object | null> {
  const date = addDays(BENCH_DAY, 1 + draw(DAYS));
  const { data } = await client.call(desk.timesOfDay, { patientId: patients[0], visitTypeId, siteId, date } as never);
  const times = data?.times ?? [];
  if (!times.length) return null;
  const isAgainst = turn % OVERRIDE_EVERY === 0;
  const visits = patients.map((patientId) => {
    const time = times[draw(times.length)];
    const waive = isAgainst ? { codes: ['busy', 'gap-too-short', 'cap-reached'], reason: 'Came from far' } : null;
    return { patientId, visitTypeId, siteId, providerId: time.providerId, start: time.start, waive };
  });
  return { key: randomUUID(), flowId: randomUUID(), group: visits.length > 1 ? 'household' : null, visits };
}

async function deskVisits(sql: pg.Pool): Promise<number> {
  const { rows } = await sql.query<{ n: number }>(
    `select count(distinct a.id)::int as n from appointment a join occupancy o on o.appointment_id = a.id where a.origin = 'desk' and a.status = 'booked'`,
  );
  return rows[0].n;
}

/** Pairs that stand in one place at one time, neither of them by a reason. */
async function doubles(sql: pg.Pool): Promise<number> {
  const { rows } = await sql.query<{ n: number }>(
    `select count(*)::int as n from occupancy a join occupancy b
     on a.resource_id = b.resource_id and a.place = b.place and a.id < b.id and a.during && b.during
     where a.override_id is null and b.override_id is null and a.appointment_id is distinct from b.appointment_id`,
  );
  return rows[0].n;
}
