import { bookHeld, cancelVisit, moveVisit, placeHold, releaseHold } from '@zaguan/contracts/booking';
import { publicDays, publicTimes } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { makeRandom, type Random } from '../../../demo/src/random.ts';
import { type Answer, Client, dataOf, signedIn } from '../fixtures/client.ts';
import { FOLLOW_UP, MARTA, provedBrowser, type RequestedTime } from '../fixtures/patient.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

/** In CI a small part of it; the whole, from 64 clients, by `ZAGUAN_LOAD=20000` (about seven minutes). */
const ATTEMPTS = Number(process.env.ZAGUAN_LOAD ?? 200);
const CLIENTS = process.env.ZAGUAN_LOAD ? 64 : 24;
const TIMES = 200;

/** What an answer told its caller to be true; the database must agree in the end. */
interface Outcome {
  id: string;
  start: string;
  providerId: string | null;
  version: number;
  cancelled: boolean;
}

let world: World;
beforeAll(async () => {
  world = await makeWorld('load', { processes: 2, env: { ZAGUAN_DB_CONNECTIONS: '24' } });
});
afterAll(() => world.close());

async function someTimes(): Promise<RequestedTime[]> {
  const client = new Client(world.servers[0].url);
  const { days } = dataOf(await client.call(publicDays, FOLLOW_UP));
  const times: RequestedTime[] = [];
  for (const { date } of days.filter((day) => day.starts > 0)) {
    const { lanes } = dataOf(await client.call(publicTimes, { ...FOLLOW_UP, date }));
    for (const { providerId, starts } of lanes)
      for (const start of starts) if (times.length < TIMES) times.push({ ...FOLLOW_UP, providerId, start });
    if (times.length >= TIMES) break;
  }
  return times;
}

it('books, leaves, cancels and moves hundreds of times from dozens of clients on two processes, and everyone was told the truth', async () => {
  const times = await someTimes();
  expect(times).toHaveLength(TIMES);
  const before = await visitsInDatabase();
  const desks = await Promise.all(world.servers.map(({ url }) => signedIn(url, 'coordinator')));
  const told = new Map<string, Outcome>();
  const refused = new Map<string, number>();
  let left = ATTEMPTS;

  /** Notes a refusal; only those that a race explains may come. */
  const note = (answer: Answer<unknown>) => {
    const tag = answer.error?.tag ?? String(answer.status);
    if (answer.status >= 400) refused.set(tag, (refused.get(tag) ?? 0) + 1);
    return answer.data;
  };

  const contactOf = (n: number) => `(312) 555-01${String(n).padStart(2, '0')}`;
  async function patient(client: Client, n: number, random: Random): Promise<void> {
    const contact = contactOf(n);
    const mine: Outcome[] = [];
    while (left-- > 0) {
      const visit = mine.length > 0 ? random.pick(mine) : null;
      const dice = random.int(0, 99);
      // The desk a patient calls is on the other process as often as not.
      const desk = random.pick(desks);
      if (visit && !visit.cancelled && dice < 15) {
        const done = await desk.call(cancelVisit, {
          id: visit.id,
          reason: 'patient-asked',
          note: '',
          version: visit.version,
        });
        if (note(done)) visit.cancelled = true;
      } else if (visit && !visit.cancelled && dice < 35) {
        const to = random.pick(times);
        const done = await desk.call(moveVisit, {
          id: visit.id,
          start: to.start,
          providerId: to.providerId,
          version: visit.version,
        });
        if (note(done) && done.data)
          Object.assign(visit, { start: to.start, providerId: to.providerId, version: done.data.version });
      } else {
        const requested = random.pick(times);
        const held = await client.call(placeHold, requested);
        if (!note(held) || !held.data) continue;
        if (dice < 70) {
          const booked = await client.call(bookHeld, {
            holdId: held.data.hold.id,
            requested,
            language: 'en',
            person: { ...MARTA, contact, givenName: `Marta ${n}` },
          });
          if (!note(booked) || !booked.data) continue;
          const { id, start, providerId } = booked.data.visit;
          const one = { id, start, providerId, version: 1, cancelled: false };
          mine.push(one);
          told.set(id, one);
        } else if (dice < 88) note(await client.call(releaseHold, { id: held.data.hold.id }));
        // Others just go away; their hold runs out, or their next choice gives it back.
      }
    }
  }
  const clients: Client[] = [];
  // Two at a time: a day always keeps two times for those who have proved nothing yet; a third may have to give way.
  for (let n = 0; n < CLIENTS; n += 2)
    clients.push(
      ...(await Promise.all(world.servers.map(({ url }, i) => provedBrowser(url, contactOf(n + i), world.sql, 6 * i)))),
    );
  await Promise.all(clients.map((client, n) => patient(client, n, makeRandom(1000 + n))));

  // Only races refuse: nothing failed, nobody was told something else.
  const races = new Set(['TimeTaken', 'NotOffered', 'HoldGone', 'HoldUsed', 'ChangedMeanwhile']);
  expect([...refused.keys()].filter((tag) => !races.has(tag))).toEqual([]);
  expect(refused.get('TimeTaken')).toBeGreaterThan(ATTEMPTS / 20);
  expect(told.size).toBeGreaterThan(50);
  expect([...told.values()].some(({ cancelled }) => cancelled)).toBe(true);
  expect([...told.values()].some(({ version, cancelled }) => version > 1 && !cancelled)).toBe(true);

  // Nobody's time overlaps another's.
  const { rows: overlaps } = await world.sql.query(
    'select 1 from occupancy a join occupancy b on a.id < b.id and a.resource_id = b.resource_id and a.place = b.place and a.during && b.during',
  );
  expect(overlaps).toEqual([]);
  // Every confirmed booking is there as it was told, and there is none that nobody was told of.
  const after = (await visitsInDatabase()).filter(({ id }) => !before.some((row) => row.id === id));
  const asTold = [...told.values()].map(({ id, start, providerId, cancelled }) => ({
    id,
    start: new Date(start).toISOString(),
    provider_id: providerId,
    cancelled,
    taken: !cancelled,
  }));
  const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : 1);
  expect(after.sort(byId)).toEqual(asTold.sort(byId));
  const { rows: deadlocks } = await world.sql.query<{ n: number }>(
    'select deadlocks::int as n from pg_stat_database where datname = current_database()',
  );
  expect(deadlocks[0].n).toBe(0);

  // No hold leaks: when all have run out, each time that nobody booked can be had again.
  await passMinutes(world, 25);
  const bookedStarts = new Set(asTold.filter(({ taken }) => taken).map((row) => row.start + row.provider_id));
  const client = new Client(world.servers[1].url);
  let had = 0;
  for (const requested of times.filter(({ start, providerId }) => !bookedStarts.has(start + providerId)).slice(0, 60)) {
    const { lanes } = dataOf(await client.call(publicTimes, { ...FOLLOW_UP, date: dateOf(requested.start) }));
    const open = lanes.find(({ providerId }) => providerId === requested.providerId)?.starts.includes(requested.start);
    const answer = await client.call(placeHold, requested);
    expect([requested.start, answer.status]).toEqual([requested.start, open ? 200 : 409]);
    if (open) had++;
    // Its own hold must not stand in the next one's way.
    if (answer.data) await client.call(releaseHold, { id: answer.data.hold.id });
  }
  expect(had).toBeGreaterThan(5);
}, 1_800_000);

function dateOf(instant: string): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone: 'America/Chicago' }).format(new Date(instant));
}

interface Row {
  id: string;
  start: string;
  provider_id: string | null;
  cancelled: boolean;
  /** Whether it takes anything. */
  taken: boolean;
}

async function visitsInDatabase(): Promise<Row[]> {
  const { rows } = await world.sql.query<Omit<Row, 'start'> & { start: Date }>(
    `select a.id, a.starts_at as start, a.provider_id, a.status = 'cancelled' as cancelled, exists (select from occupancy o where o.appointment_id = a.id) as taken from appointment a`,
  );
  return rows.map((row) => ({ ...row, start: row.start.toISOString() }));
}
