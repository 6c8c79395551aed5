import { randomUUID } from 'node:crypto';
import { cancelGroup, groupOfVisit, moveGroup } from '@zaguan/contracts/booking';
import * as desk from '@zaguan/contracts/desk';
import { findTimes, whyNot } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookingOf, newPatients } from '../fixtures/deskBookings.ts';
import { startServer } from '../fixtures/server.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

/** In the second week of January, before the clocks change on March 14, 2027. */
const WINTER = '2027-01-12';
const MINUTE = 60_000;
/** Of 25 draws each; 40 of them, a thousand draws, by `ZAGUAN_DRAWS=40`. */
const ROUNDS = Number(process.env.ZAGUAN_DRAWS ?? 14);

describe('several visits booked together at the desk', () => {
  let world: World;
  let base: string;
  let clerk: Client;
  beforeAll(async () => {
    world = await makeWorld('desk_groups');
    base = world.servers[0].url;
    clerk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const search = {
    ...{ channel: 'desk', siteIds: [SITES.canal], providerIds: null, weekdays: null, language: null },
    ...{ from: WINTER, days: 7, fromMinute: 0, toMinute: 1440 },
    household: { how: 'back-to-back', mostWaitMin: 15 },
    series: null,
  } as const;
  const memberOf = (patientId: string, more: object = {}) => ({
    ...{ visitTypeId: TYPES.follow, kind: 'established', patientId },
    ...more,
  });
  const find = async (more: object) => dataOf(await clerk.call(findTimes, { ...search, ...more } as never));
  const bookTogether = async (group: string, people: readonly string[], more: object = {}) => {
    const members = group === 'series' ? [memberOf(people[0])] : people.map((id) => memberOf(id));
    const { together } = await find({ members, ...more });
    const visits = together[0].map(({ siteId, providerId, start, visitTypeId }, i) => ({
      ...{ siteId, providerId, start, visitTypeId, patientId: people[group === 'series' ? 0 : i] },
    }));
    const done = dataOf(await clerk.call(desk.bookAtDesk, bookingOf(visits, { group })));
    return { ...done, visits: done.visits.toSorted((a, b) => a.start.localeCompare(b.start)) };
  };
  const groupOf = async (id: string) => dataOf(await clerk.call(groupOfVisit, { id: id as never }));
  const startOf = async (id: string) =>
    (
      await world.sql.query<{ start: Date; status: string; version: number }>(
        'select starts_at as start, status, version from appointment where id = $1',
        [id],
      )
    ).rows[0];

  it('finds times for a household that this booking holds itself, and for nobody else', async () => {
    const people = await newPatients(world.sql, 3);
    const members = people.map((id) => memberOf(id));
    const [first] = (await find({ members })).together;
    const flowId = randomUUID();
    const visits = first.map(({ siteId, providerId, start, visitTypeId }, i) => ({
      ...{ siteId, providerId, start, visitTypeId, patientId: people[i] },
    }));
    dataOf(await clerk.call(desk.holdAtDesk, { flowId, visits } as never));
    expect((await find({ members, flowId })).together[0]).toEqual(first);
    expect((await find({ members })).together[0]).not.toEqual(first);
    const other = await signedIn(base, 'front-desk');
    const theirs = dataOf(await other.call(findTimes, { ...search, members, flowId } as never));
    expect(theirs.together[0]).not.toEqual(first);
    await clerk.call(desk.releaseDeskHold, { flowId });
  });

  it('finds by the parts of one visit, and refuses parts that can’t be', async () => {
    const [patient] = await newPatients(world.sql, 1);
    const parts = [{ lengthMin: 90, needs: [{ key: 'provider', what: 'provider' }] }];
    const long = (await find({ members: [memberOf(patient, { parts })] })).times;
    expect(long.length).toBeGreaterThan(0);
    for (const { start, end } of long) expect((Date.parse(end) - Date.parse(start)) / MINUTE).toBe(90);
    const nowhere = [{ lengthMin: 20, needs: [{ key: 'a', what: 'resource', resourceId: randomUUID() }] }];
    const refused = await clerk.call(findTimes, {
      ...search,
      members: [memberOf(patient, { parts: nowhere })],
    } as never);
    expect(refusalOf(refused).tag).toBe('NotFound');
  });

  it('judges visits together, each with those before it in place', async () => {
    const [one, two] = await newPatients(world.sql, 2);
    const { times } = await find({ members: [memberOf(one)] });
    const [{ siteId, providerId, start }] = times;
    const at = (patientId: string) => ({ patientId, visitTypeId: TYPES.follow, siteId, providerId, start });
    const { visits } = dataOf(await clerk.call(desk.checkAtDesk, { visits: [at(one), at(two)] } as never));
    expect(visits.map(({ broken }) => broken.map(({ code }) => code))).toEqual([[], ['busy']]);
    // A time for the second one is not where the first one of this booking is.
    const startsBeside = async (beside: readonly object[]) =>
      dataOf(
        await clerk.call(desk.timesOfDay, {
          ...{ patientId: two, visitTypeId: TYPES.follow, siteId, date: times[0].date, beside },
        } as never),
      ).times.filter((time) => time.providerId === providerId && time.start === start).length;
    expect([await startsBeside([]), await startsBeside([at(one)])]).toEqual([1, 0]);
  });

  it('tells what a visit type needs, why people come, and what must follow', async () => {
    const type = dataOf(await clerk.call(desk.typeAtDesk, { id: TYPES.follow as never }));
    expect(type.parts.length).toBeGreaterThan(0);
    expect(type.places.length).toBeGreaterThan(1);
    expect(type.pools.map(({ kind }) => kind)).toContain('skin-test-room');
    expect(refusalOf(await clerk.call(desk.typeAtDesk, { id: randomUUID() as never })).tag).toBe('NotFound');
  });

  it('gives the details of a visit in the patient’s language, and sends them once more', async () => {
    const [patient] = await newPatients(world.sql, 1);
    await world.sql.query("update patient set language = 'es' where id = $1", [patient]);
    const { times } = await find({ members: [memberOf(patient)], from: '2027-01-25' });
    const [{ siteId, providerId, start }] = times;
    const visit = { patientId: patient, visitTypeId: TYPES.follow, siteId, providerId, start };
    const [booked] = dataOf(await clerk.call(desk.bookAtDesk, bookingOf([visit]))).visits;
    const id = booked.id as never;
    const details = dataOf(await clerk.call(desk.visitDetails, { id }));
    expect(details).toMatchObject({ language: 'es', patient: 'Tess Arlen', start });
    const names = await world.sql.query('select public_name_es as name from visit_type where id = $1', [TYPES.follow]);
    expect(details.visitType).toBe(names.rows[0].name);
    // There is no phone or e-mail yet: nothing is sent, and that is said.
    expect(dataOf(await clerk.call(desk.sendDetails, { id })).told).toBeNull();
    const contact = randomUUID();
    await world.sql.query("insert into contact_point (id, kind, value) values ($1, 'email', 'tess@example.com')", [
      contact,
    ]);
    await world.sql.query('insert into patient_contact (patient_id, contact_point_id, rank) values ($1, $2, 1)', [
      patient,
      contact,
    ]);
    expect(dataOf(await clerk.call(desk.sendDetails, { id })).told).toMatchObject({ contact: 'tess@example.com' });
    const sent = await world.sql.query(
      "select language from message where appointment_id = $1 and kind = 'confirmation'",
      [booked.id],
    );
    expect(sent.rows).toEqual([{ language: 'es' }]);
    const reader = await signedIn(base, 'read-only');
    expect(refusalOf(await reader.call(desk.visitDetails, { id })).tag).toBe('NotAllowed');
    expect(refusalOf(await clerk.call(desk.visitDetails, { id: randomUUID() as never })).tag).toBe('NotFound');
  });

  it('moves one of a household alone, or all of them by as much, back to back still; undone together', async () => {
    const people = await newPatients(world.sql, 3);
    const { visits } = await bookTogether('household', people);
    const [first, ...rest] = visits;
    const { kind, others } = await groupOf(first.id);
    expect([kind, others.map(({ id }) => id).sort()]).toEqual(['household', rest.map(({ id }) => id).sort()]);
    // To the same hour of the same weekday, three weeks on: nothing else is booked there.
    const start = new Date(Date.parse(first.start) + 21 * 86_400_000).toISOString();
    const input = { id: first.id, start, providerId: first.providerId, version: 1 };
    const moved = await clerk.call(moveGroup, {
      ...input,
      others: others.map(({ id, version }) => ({ id, version })),
    } as never);
    expect(dataOf(moved).moved).toBe(3);
    for (const visit of visits)
      expect((await startOf(visit.id)).start.getTime() - Date.parse(visit.start)).toBe(21 * 86_400_000);
    dataOf(await clerk.call(undo, { id: dataOf(moved).undo.id }));
    for (const visit of visits) expect((await startOf(visit.id)).start.toISOString()).toBe(visit.start);
  });

  it('tells a desk of one site nothing of those elsewhere but how many there are, and lets it end no wish of theirs', async () => {
    const [one, two] = await newPatients(world.sql, 2);
    const at = async (patientId: string, siteId: string) => {
      const [time] = (await find({ members: [memberOf(patientId)], siteIds: [siteId], from: '2027-03-01' })).times;
      return { patientId, visitTypeId: TYPES.follow, siteId, providerId: time.providerId, start: time.start };
    };
    const sooner = { ...desk.ANY_WISH, fromMinute: 0, toMinute: 720 };
    const visits = [await at(one, SITES.canal), { ...(await at(two, SITES.mesa)), sooner }];
    const done = dataOf(await clerk.call(desk.bookAtDesk, bookingOf(visits, { group: 'household' })));
    const [here, there] = done.visits;
    const small = await signedIn(base, 'front-desk');
    const bind = `insert into account_site (account_id, site_id) select id, $1 from account where role = 'front-desk'`;
    await world.sql.query(
      `delete from account_site where account_id in (select id from account where role = 'front-desk')`,
    );
    await world.sql.query(bind, [SITES.canal]);
    const seen = dataOf(await small.call(groupOfVisit, { id: here.id as never }));
    expect(seen).toEqual({ kind: 'household', others: [], elsewhere: 1 });
    const { wishes } = dataOf(await clerk.call(desk.wishesOfVisit, { id: there.id as never }));
    expect(wishes).toHaveLength(1);
    const id = { id: there.id as never };
    for (const refused of [
      await small.call(groupOfVisit, id),
      await small.call(desk.wishesOfVisit, id),
      await small.call(desk.visitDetails, id),
      await small.call(desk.sendDetails, id),
      await small.call(desk.endWish, { id: wishes[0].id }),
    ])
      expect(refusalOf(refused).tag).toBe('NotAllowed');
    // Nor does it put anything onto another site's Bench, or take it from there.
    const entry = { patientId: two, visitTypeId: TYPES.follow, siteId: SITES.mesa };
    const bench = async (client: Client) =>
      client.call(desk.bookAtDesk, bookingOf([], { group: null, bench: [entry] }));
    expect(refusalOf(await bench(small)).tag).toBe('NotAllowed');
    dataOf(await bench(clerk));
    const [row] = dataOf(await clerk.call(desk.bench, {})).unplaced.filter(({ patientId }) => patientId === two);
    const own = await small.call(desk.ownUnplaced, { id: row.id, mine: true, version: row.version });
    expect(refusalOf(own).tag).toBe('NotAllowed');
    const parts = [{ lengthMin: 20, needs: [{ key: 'a', what: 'resource', resourceId: randomUUID() }] }];
    const wrong = await clerk.call(desk.bookAtDesk, bookingOf([], { bench: [{ ...entry, parts }] }));
    expect(refusalOf(wrong).issues).toEqual([{ path: 'bench.0.parts', code: 'no-such-resource' }]);
    dataOf(await clerk.call(undo, { id: done.undo.id }));
  });

  it('moves none where one can’t go along, and says which', async () => {
    const people = await newPatients(world.sql, 3);
    const { visits } = await bookTogether('household', people.slice(0, 2));
    const [first, second] = visits;
    const day = 86_400_000;
    const target = new Date(Date.parse(second.start) + 28 * day).toISOString();
    const taken = { patientId: people[2], visitTypeId: TYPES.follow, siteId: SITES.canal, start: target };
    dataOf(await clerk.call(desk.bookAtDesk, bookingOf([{ ...taken, providerId: second.providerId }])));
    const others = [{ id: second.id, version: 1 }];
    const start = new Date(Date.parse(first.start) + 28 * day).toISOString();
    const refused = await clerk.call(moveGroup, {
      id: first.id,
      start,
      providerId: first.providerId,
      version: 1,
      others,
    } as never);
    expect(refusalOf(refused)).toMatchObject({ tag: 'TimeTaken', facts: { visit: 1 } });
    expect((await startOf(first.id)).start.toISOString()).toBe(first.start);
    // Somebody else’s visit is none of the group.
    const [stranger] = await newPatients(world.sql, 1);
    const free = (await find({ members: [memberOf(stranger)] })).times[0];
    const alone = { patientId: stranger, visitTypeId: TYPES.follow, siteId: free.siteId, providerId: free.providerId };
    const booked = dataOf(await clerk.call(desk.bookAtDesk, bookingOf([{ ...alone, start: free.start }]))).visits[0];
    const mixed = {
      id: first.id,
      start,
      providerId: first.providerId,
      version: 1,
      others: [{ id: booked.id, version: 1 }],
    };
    expect(refusalOf(await clerk.call(moveGroup, mixed as never)).tag).toBe('NotFound');
    expect((await groupOf(booked.id)).kind).toBeNull();
  });

  it('books a series on the dates of its rule, at its hour over a change of clocks, and cancels the later ones', async () => {
    const people = await newPatients(world.sql, 1);
    const series = { everyWeeks: 4, count: 4, toleranceDays: 0, sameProvider: false };
    const { visits } = await bookTogether('series', people, { series });
    // By hand: every fourth Tuesday from January 12, across March 14, 2027; core holds it against rrule-temporal.
    expect(visits.map(({ date }) => date)).toEqual(['2027-01-12', '2027-02-09', '2027-03-09', '2027-04-06']);
    const clock = new Intl.DateTimeFormat('en-US', { timeZone: 'America/Chicago', timeStyle: 'short' });
    expect(new Set(visits.map(({ start }) => clock.format(new Date(start)))).size).toBe(1);
    const later = visits.slice(2);
    const { others } = await groupOf(visits[1].id);
    expect(others.filter(({ isLater }) => isLater).map(({ id }) => id)).toEqual(later.map(({ id }) => id));
    const gone = await clerk.call(cancelGroup, {
      ...{ id: visits[1].id, version: 1, reason: 'patient-asked', note: '' },
      others: later.map(({ id }) => ({ id, version: 1 })),
    } as never);
    expect(dataOf(gone).canceled).toBe(3);
    const statuses = async () => (await Promise.all(visits.map(({ id }) => startOf(id)))).map(({ status }) => status);
    expect(await statuses()).toEqual(['booked', 'cancelled', 'cancelled', 'cancelled']);
    dataOf(await clerk.call(undo, { id: dataOf(gone).undo.id }));
    expect(await statuses()).toEqual(['booked', 'booked', 'booked', 'booked']);
    const stale = {
      id: visits[0].id,
      version: 1,
      reason: 'patient-asked',
      note: '',
      others: [{ id: later[0].id, version: 1 }],
    };
    expect(refusalOf(await clerk.call(cancelGroup, stale as never))).toMatchObject({
      ...{ tag: 'ChangedMeanwhile', facts: { visit: 1 } },
    });
  });

  it('leaves all or none of a booking behind when its server is killed, and books it once when it is sent again', async () => {
    let whole = 0;
    for (let round = 0; round < 6; round++) {
      const victim = await startServer(world.url);
      const people = await newPatients(world.sql, 3);
      const { together } = await find({ members: people.map((id) => memberOf(id)), from: '2027-02-01' });
      const sent = bookingOf(
        together[0].map(({ siteId, providerId, start, visitTypeId }, i) => ({
          ...{ siteId, providerId, start, visitTypeId, patientId: people[i] },
        })),
        { group: 'household' },
      );
      const client = await signedIn(victim.url, 'coordinator');
      const going = client.call(desk.bookAtDesk, sent).catch(() => null);
      await new Promise((resolve) => setTimeout(resolve, round * 15));
      victim.process.kill('SIGKILL');
      await going;
      const count = async () =>
        (
          await world.sql.query<{ visits: number; taken: number }>(
            `select count(distinct a.id)::int as visits, count(distinct o.appointment_id)::int as taken
             from appointment a left join occupancy o on o.appointment_id = a.id where a.patient_id = any($1)`,
            [people],
          )
        ).rows[0];
      // The killed one's transaction may still be ending.
      await expect.poll(count).toSatisfy(({ visits, taken }) => visits === taken && (visits === 0 || visits === 3));
      whole += (await count()).visits === 3 ? 1 : 0;
      const again = dataOf(await clerk.call(desk.bookAtDesk, sent));
      expect(again.visits).toHaveLength(3);
      expect(await count()).toEqual({ visits: 3, taken: 3 });
    }
    // Both ends were met, else the kills came too early or too late to tell.
    expect(whole).toBeLessThan(6);
  }, 180_000);

  it('allows in the flow what the search finds and “Why not?” says, on hundreds of draws', async () => {
    const people = await newPatients(world.sql, 1);
    const types = [TYPES.follow, TYPES.consult, TYPES.skin];
    let free = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const visitTypeId = types[round % types.length];
      const siteId = [SITES.canal, SITES.mesa][round % 2];
      const date = new Date(Date.parse(`${TEST_DAY}T12:00:00Z`) + (3 + round * 2) * 86_400_000)
        .toISOString()
        .slice(0, 10);
      const wanted = { patientId: people[0], visitTypeId };
      const { times } = dataOf(await clerk.call(desk.timesOfDay, { ...wanted, siteId, date } as never));
      const allowed = new Set(times.map(({ providerId, start }) => `${providerId} ${start}`));
      const providers = [...new Set(times.map(({ providerId }) => providerId)), PROVIDERS.dray];
      await Promise.all(
        Array.from({ length: 25 }, async (_, i) => {
          // Spread over day and providers without a pattern that the steps of five minutes could hide.
          const minute = ((round * 131 + i * 89) % 150) * 5;
          const start = new Date(Date.parse(`${date}T13:00:00Z`) + minute * MINUTE).toISOString();
          const providerId = providers[(round + i) % providers.length];
          if ((providerId === null) !== times.some((time) => time.providerId === null)) return;
          const visit = { ...wanted, siteId, providerId, start };
          const { visits } = dataOf(await clerk.call(desk.checkAtDesk, { visits: [visit] } as never));
          const said = dataOf(
            await clerk.call(whyNot, {
              ...{ visitTypeId, siteId, start, kind: 'established', channel: 'desk' },
              ...(providerId && { providerId }),
            } as never),
          );
          const isFree = visits[0].broken.length === 0;
          free += isFree ? 1 : 0;
          expect(
            [allowed.has(`${providerId} ${start}`), said.offered],
            `${visitTypeId} ${providerId} ${start}`,
          ).toEqual([isFree, isFree]);
        }),
      );
    }
    expect(free).toBeGreaterThan(ROUNDS);
  }, 180_000);
});
