import { bookHeld, placeHold } from '@zaguan/contracts/booking';
import { publicTimes } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Answer, Client, dataOf } from '../fixtures/client.ts';
import { FOLLOW_UP, freeTime, MARTA, provedBrowser, verify } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

async function deadlocks(world: World): Promise<number> {
  const { rows } = await world.sql.query<{ deadlocks: string }>(
    'select deadlocks from pg_stat_database where datname = current_database()',
  );
  return Number(rows[0].deadlocks);
}

/** Two rows on one place of a resource at once; the constraint forbids it, so this must always be none. */
async function overlaps(world: World): Promise<number> {
  const { rows } = await world.sql.query<{ n: string }>(
    'select count(*) as n from occupancy a join occupancy b on a.id < b.id and a.resource_id = b.resource_id and a.place = b.place and a.during && b.during',
  );
  return Number(rows[0].n);
}

function count(answers: Answer<unknown>[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const answer of answers) {
    const key = answer.error?.tag ?? String(answer.status);
    counts[key] = (counts[key] ?? 0) + 1;
  }
  return counts;
}

describe.each([
  [1, 150],
  [2, 250],
])('with %i server process(es) and 64 connections', (processes, atOnce) => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld(`race${processes}`, { processes, env: { ZAGUAN_DB_CONNECTIONS: String(64 / processes) } });
  });
  afterAll(() => world.close());
  const someServer = (i: number) => world.servers[i % world.servers.length].url;

  it(`gives one of ${atOnce} simultaneous holds of one time, and every loser the nearest other times`, async () => {
    const requested = await freeTime(someServer(0));
    const answers = await Promise.all(
      Array.from({ length: atOnce }, (_, i) => new Client(someServer(i)).call(placeHold, requested)),
    );
    expect(count(answers)).toEqual({ 200: 1, TimeTaken: atOnce - 1 });
    for (const { error } of answers) {
      if (!error) continue;
      expect(error.nearest?.length).toBeGreaterThan(0);
      expect(error.nearest?.map((other) => other.start + other.providerId)).not.toContain(
        requested.start + requested.providerId,
      );
    }
    const { rows } = await world.sql.query('select 1 from hold where starts_at = $1 and provider_id = $2', [
      requested.start,
      requested.providerId,
    ]);
    expect(rows).toHaveLength(1);
    expect(await overlaps(world)).toBe(0);
    expect(await deadlocks(world)).toBe(0);
  }, 300_000);

  it(`books one of ${atOnce} simultaneous bookings of one held time, and answers the others`, async () => {
    const requested = await freeTime(someServer(0), FOLLOW_UP, 2);
    const client = new Client(someServer(0));
    const { hold } = dataOf(await client.call(placeHold, requested));
    await verify(client, MARTA.contact);
    const answers = await Promise.all(
      Array.from({ length: atOnce }, (_, i) =>
        client.call(bookHeld, {
          holdId: hold.id,
          requested,
          language: 'en',
          person: { ...MARTA, givenName: `Marta ${String.fromCharCode(65 + (i % 26))}${i}` },
        }),
      ),
    );
    expect(count(answers)).toEqual({ 200: 1, HoldUsed: atOnce - 1 });
    for (const { error } of answers) if (error) expect(error.nearest?.length).toBeGreaterThan(0);
    const { rows } = await world.sql.query('select 1 from appointment where starts_at = $1 and provider_id = $2', [
      requested.start,
      requested.providerId,
    ]);
    expect(rows).toHaveLength(1);
    expect(await overlaps(world)).toBe(0);
    expect(await deadlocks(world)).toBe(0);
  }, 300_000);

  it('lets 3 of 20 through against a cap of 3 on different times of one day', async () => {
    const criteria = { siteId: SITES.canal, visitTypeId: TYPES.consult, kind: 'new' as const };
    await world.sql.query(
      'delete from occupancy o using appointment a where a.id = o.appointment_id and a.provider_id = $1 and a.site_date = $2',
      [PROVIDERS.amaya, '2027-01-04'],
    );
    await world.sql.query(
      "update appointment set status = 'entered-in-error' where provider_id = $1 and site_date = $2",
      [PROVIDERS.amaya, '2027-01-04'],
    );
    const { lanes } = dataOf(await new Client(someServer(0)).call(publicTimes, { ...criteria, date: '2027-01-04' }));
    const starts = lanes.find((lane) => lane.providerId === PROVIDERS.amaya)?.starts ?? [];
    // An hour and a five-minute gap each: times two hours apart never stand in each other's way.
    const apart = starts.filter((start) => new Date(start).getUTCMinutes() === 0);
    expect(apart.length).toBeGreaterThan(4);
    // People who proved a number: the holds of others give way on so short a day.
    const people: Client[] = [];
    for (let i = 0; i < 20; i++)
      people.push(await provedBrowser(someServer(i), `(312) 555-01${String(20 + i)}`, world.sql));
    const answers = await Promise.all(
      people.map((person, i) =>
        person.call(placeHold, {
          ...criteria,
          providerId: PROVIDERS.amaya,
          start: apart[i % apart.length],
        }),
      ),
    );
    expect(answers.filter((answer) => answer.status === 200).length).toBeLessThanOrEqual(3);
    const { rows } = await world.sql.query(
      'select count(*)::int as n from hold where visit_type_id = $1 and site_date = $2',
      [TYPES.consult, '2027-01-04'],
    );
    expect(rows[0].n).toBe(3);
    expect(await deadlocks(world)).toBe(0);
  }, 120_000);
});
