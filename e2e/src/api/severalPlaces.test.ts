import { placeHold } from '@zaguan/contracts/booking';
import { publicTimes } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { PROVIDERS } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf } from '../fixtures/client.ts';
import { FOLLOW_UP, provedBrowser } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** A Monday far enough ahead that the demo has booked nothing. */
const DATE = '2027-02-01';
const PROVIDER = PROVIDERS.amaya;

/** Hours that take two visits at once: places are counted, and given out anew when a visit needs it. */
describe('hours for two at once', () => {
  let world: World;
  let people: Client[];
  beforeAll(async () => {
    world = await makeWorld('several_places', { processes: 2, env: { ZAGUAN_DB_CONNECTIONS: '32' } });
    await world.sql.query('update working_hours set places = 2 where resource_id = $1', [PROVIDER]);
    people = [];
    for (let i = 0; i < 4; i++)
      people.push(await provedBrowser(server(i), `(312) 555-01${String(40 + i)}`, world.sql, i));
  });
  afterAll(() => world.close());
  beforeEach(() => world.sql.query('delete from hold where site_date = $1', [DATE]));

  const server = (i: number) => world.servers[i % world.servers.length].url;
  const times = async () => {
    const { lanes } = dataOf(await new Client(server(0)).call(publicTimes, { ...FOLLOW_UP, date: DATE }));
    return lanes.find(({ providerId }) => providerId === PROVIDER)?.starts ?? [];
  };
  const later = (start: string, minutes: number) => new Date(Date.parse(start) + minutes * 60_000).toISOString();
  const take = (who: Client, start: string) => who.call(placeHold, { ...FOLLOW_UP, providerId: PROVIDER, start });
  const rows = async () => {
    const { rows } = await world.sql.query<{ start: Date; place: number; places: number }>(
      `select lower(during) as start, place, places from occupancy where resource_id = $1 and hold_id is not null and lower(during)::date = $2 order by 1, 2`,
      [PROVIDER, DATE],
    );
    return rows.map(({ start, place, places }) => ({ start: start.toISOString(), place, places }));
  };

  it('lose no start after cancellations: a visit finds its place though each one is taken for a while', async () => {
    const starts = await times();
    // A quarter of an hour each: two side by side, then one beside the second's end and the next one's beginning.
    const [first] = starts;
    const { hold: one } = dataOf(await take(people[0], first));
    const length = (Date.parse(one.end) - Date.parse(one.start)) / 60_000;
    const second = later(first, length);
    dataOf(await take(people[1], second));
    // As if each had been given another place by what stood beside it and was cancelled.
    await world.sql.query('update occupancy set place = 1, places = 2 where resource_id = $1 and lower(during) = $2', [
      PROVIDER,
      second,
    ]);
    const between = starts.find((start) => start > first && start < second);
    if (!between) throw new Error('No start lies between.');
    expect(await times()).toContain(between);
    const { hold } = dataOf(await take(people[2], between));
    expect(hold.start).toBe(between);
    expect(await rows()).toEqual([
      { start: first, place: 0, places: 2 },
      { start: between, place: 1, places: 2 },
      { start: second, place: 0, places: 2 },
    ]);
    const refused = await take(people[3], between);
    expect(refused.error?.tag).toBe('TimeTaken');
  });

  it('let two of 200 at once have one time', async () => {
    const [, , , , start] = await times();
    const answers = await Promise.all(Array.from({ length: 200 }, (_, i) => take(new Client(server(i)), start)));
    const had = answers.filter(({ status }) => status === 200).length;
    expect(had).toBe(2);
    expect(answers.filter(({ error }) => error?.tag === 'TimeTaken')).toHaveLength(198);
    expect((await rows()).map(({ place }) => place)).toEqual([0, 1]);
  }, 120_000);

  it('are bounded by the database too', async () => {
    const [start] = await times();
    dataOf(await take(people[0], start));
    const { rows: kept } = await world.sql.query(
      'select resource_id, during, hold_id from occupancy where resource_id = $1 and lower(during) = $2',
      [PROVIDER, start],
    );
    const again = (place: number) =>
      world.sql.query(
        'insert into occupancy (resource_id, place, places, during, hold_id) values ($1, $2, 2, $3, $4)',
        [kept[0].resource_id, place, kept[0].during, kept[0].hold_id],
      );
    await expect(again(0)).rejects.toThrow('occupancy_no_double_booking');
    await expect(again(2)).rejects.toThrow('occupancy_within_places');
  });
});
