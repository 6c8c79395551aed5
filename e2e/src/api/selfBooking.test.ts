import { bookHeld, extendHold, placeHold, releaseHold, visitCalendar } from '@zaguan/contracts/booking';
import { publicProviders } from '@zaguan/contracts/clinic';
import { publicDays, publicTimes } from '@zaguan/contracts/openings';
import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP, freeTime, MARTA, verify } from '../fixtures/patient.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

describe('a patient books', () => {
  let world: World;
  let base: string;
  beforeAll(async () => {
    world = await makeWorld('selfbooking');
    base = world.servers[0].url;
  });
  afterAll(() => world.close());

  it('sees the whole window, and every day’s count is the number of its different times', async () => {
    const client = new Client(base);
    const { days, from, until, first } = dataOf(await client.call(publicDays, FOLLOW_UP));
    expect(from).toBe('2026-12-01');
    expect(until).toBe('2027-03-01');
    expect(days).toHaveLength(91);
    for (const day of days.filter((each) => each.starts > 0).slice(0, 6)) {
      const { lanes } = dataOf(await client.call(publicTimes, { ...FOLLOW_UP, date: day.date }));
      expect(new Set(lanes.flatMap((lane) => lane.starts)).size).toBe(day.starts);
    }
    expect(first?.start).toBeDefined();
  });

  it('names a provider as Spanish-speaking patients read it, and only to them', async () => {
    const client = new Client(base);
    const named = async (language: 'en' | 'es') =>
      dataOf(await client.call(publicProviders, { ...FOLLOW_UP, language })).providers.map(({ name }) => name);
    expect(await named('en')).toEqual(['Dr. Inés Amaya', 'Teo Lund']);
    expect(await named('es')).toEqual(['Dra. Inés Amaya', 'Teo Lund']);
  });

  it('keeps a time for ten minutes, gives ten more whenever asked, ten times at most, and frees it when left', async () => {
    const requested = await freeTime(base, FOLLOW_UP, 3);
    const client = new Client(base);
    const { hold } = dataOf(await client.call(placeHold, requested));
    expect(hold.secondsLeft).toBeGreaterThan(595);
    expect(refusalOf(await new Client(base).call(placeHold, requested)).tag).toBe('TimeTaken');
    await passMinutes(world, 9);
    for (let n = 1; n <= 10; n++) {
      const more = dataOf(await client.call(extendHold, { id: hold.id })).hold;
      expect(more.mayExtend).toBe(n < 10);
      expect(more.secondsLeft).toBeGreaterThan(595);
      await passMinutes(world, 9);
    }
    // Once more changes nothing.
    expect(dataOf(await client.call(extendHold, { id: hold.id })).hold.secondsLeft).toBeLessThan(65);
    await passMinutes(world, 2);
    expect(refusalOf(await client.call(extendHold, { id: hold.id })).tag).toBe('HoldGone');
    const other = new Client(base);
    const again = dataOf(await other.call(placeHold, requested)).hold;
    expect((await other.call(releaseHold, { id: again.id })).status).toBe(200);
    expect((await other.call(releaseHold, { id: again.id })).status).toBe(200);
    expect((await new Client(base).call(placeHold, requested)).status).toBe(200);
  });

  it('has one hold a browser: a second tab’s choice gives the first back', async () => {
    const client = new Client(base);
    const first = await freeTime(base, FOLLOW_UP, 4);
    const { hold } = dataOf(await client.call(placeHold, first));
    const second = await freeTime(base, FOLLOW_UP, 6);
    await client.call(placeHold, second);
    expect((await new Client(base).call(placeHold, first)).status).toBe(200);
    const late = refusalOf(
      await client.call(bookHeld, { holdId: hold.id, requested: first, language: 'en', person: MARTA }),
    );
    expect(late.tag).toBe('HoldGone');
    expect(late.nearest?.length).toBeGreaterThan(0);
  });

  it('books once on a double click, and says so when the details differ', async () => {
    const { client, id, requested, holdId } = await bookedVisit(base, 5);
    const twice = await client.call(bookHeld, { holdId, requested, language: 'en', person: MARTA });
    expect(dataOf(twice).visit.id).toBe(id);
    expect(
      refusalOf(
        await client.call(bookHeld, { holdId, requested, language: 'en', person: { ...MARTA, givenName: 'Other' } }),
      ).tag,
    ).toBe('HoldUsed');
    // Another browser learns nothing of the visit.
    expect(
      refusalOf(await new Client(base).call(bookHeld, { holdId, requested, language: 'en', person: MARTA })).tag,
    ).toBe('HoldUsed');
    const { rows } = await world.sql.query(
      'select origin, identity, patient_id, reason_text from appointment where id = $1',
      [id],
    );
    expect(rows).toEqual([{ origin: 'self', identity: 'unknown', patient_id: null, reason_text: MARTA.reason }]);
  });

  it('says the hold ran out, with the same time among the others while it is still free', async () => {
    const requested = await freeTime(base, FOLLOW_UP, 6);
    const client = new Client(base);
    const { hold } = dataOf(await client.call(placeHold, requested));
    await passMinutes(world, 11);
    const refused = refusalOf(
      await client.call(bookHeld, { holdId: hold.id, requested, language: 'en', person: MARTA }),
    );
    expect(refused.tag).toBe('HoldGone');
    expect(refused.nearest?.map((other) => other.start)).toContain(requested.start);
  });

  // RFC 5545; parsed back by ical.js. The title is neutral: neither the visit type nor the name is in the file.
  it('gives the visit as an iCalendar file to the browser that booked it, and to no other', async () => {
    const { client, id, requested } = await bookedVisit(base, 7);
    const answer = await client.call(visitCalendar, { id, language: 'es' });
    expect(answer.headers.get('content-type')).toContain('text/calendar');
    for (const line of answer.text.split('\r\n')) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
    const calendar = new ICAL.Component(ICAL.parse(answer.text));
    const event = new ICAL.Event(calendar.getFirstSubcomponent('vevent') as ICAL.Component);
    expect(event.startDate.toJSDate().toISOString()).toBe(requested.start);
    expect(event.duration.toSeconds()).toBe(20 * 60);
    expect(event.summary).toBe('Cita, Brindlewood Allergy & Asthma');
    expect(event.location).toContain('14 Canal Row');
    expect(event.sequence).toBe(0);
    expect(answer.text).not.toMatch(/Marta|Ruiz|follow/i);
    expect((await new Client(base).call(visitCalendar, { id, language: 'en' })).status).toBe(404);
  });

  it('takes a visit of parts as its parts: the room for all of it, the provider only for the reading', async () => {
    const criteria = { siteId: SITES.canal, visitTypeId: TYPES.skin, kind: 'established' as const };
    const requested = await freeTime(base, criteria, 1);
    const client = new Client(base);
    const { hold } = dataOf(await client.call(placeHold, requested));
    await verify(client, MARTA.contact);
    await client.call(bookHeld, { holdId: hold.id, requested, language: 'en', person: MARTA });
    const { rows } = await world.sql.query<{ kind: string; name: string; from_min: number; to_min: number }>(
      `select r.kind, r.name, extract(epoch from lower(o.during) - a.starts_at)::int / 60 as from_min, extract(epoch from upper(o.during) - a.starts_at)::int / 60 as to_min
       from appointment a join occupancy o on o.appointment_id = a.id join resource r on r.id = o.resource_id where a.starts_at = $1 and a.visit_type_id = $2 order by from_min, to_min`,
      [requested.start, TYPES.skin],
    );
    expect(rows.map((row) => [row.kind, row.from_min, row.to_min])).toEqual([
      ['room', 0, 20],
      ['room', 20, 40],
      ['provider', 40, 55],
      ['room', 40, 60],
    ]);
    expect(new Set(rows.filter((row) => row.kind === 'room').map((row) => row.name)).size).toBe(1);
  });

  it('books a visit that takes nothing once, and lets its hold go', async () => {
    const { rows: needs } = await world.sql.query(
      'delete from visit_type_need where part_id in (select id from visit_type_part where visit_type_id = $1) returning *',
      [TYPES.skin],
    );
    const { first } = dataOf(
      await new Client(base).call(publicDays, {
        siteId: SITES.canal,
        visitTypeId: TYPES.skin,
        kind: 'established',
      }),
    );
    if (!first) throw new Error('A visit that needs nobody has times whenever the site is open.');
    const requested = { siteId: SITES.canal, visitTypeId: TYPES.skin, kind: 'established' as const, ...first };
    const client = new Client(base);
    const { hold } = dataOf(await client.call(placeHold, requested));
    await verify(client, MARTA.contact);
    const book = () => client.call(bookHeld, { holdId: hold.id, requested, language: 'en', person: MARTA });
    const [one, two] = [dataOf(await book()), dataOf(await book())];
    expect(two.visit.id).toBe(one.visit.id);
    expect((await world.sql.query('select 1 from hold where id = $1', [hold.id])).rows).toEqual([]);
    for (const need of needs)
      await world.sql.query(
        `insert into visit_type_need (${Object.keys(need).join(', ')}) values (${Object.keys(need).map((_, i) => `$${i + 1}`)})`,
        Object.values(need),
      );
  });

  it.each([
    ['February 31 as a date of birth', { birthDate: '1987-02-31' }, 'person.birthDate', 'not-a-date'],
    ['a phone that is none', { contact: '12345' }, 'person.contact', 'phone-not-a-phone'],
    ['no name at all', { givenName: ' ', familyName: '' }, 'person.givenName', 'name-empty'],
    ['a name of 200 characters', { givenName: 'a'.repeat(200) }, 'person.givenName', 'name-too-long'],
    ['a name without letters', { familyName: '12 34' }, 'person.familyName', 'name-no-letters'],
    ['a reason without end', { reason: 'x'.repeat(501) }, 'person.reason', 'reason-too-long'],
  ])('refuses %s and names the field, not the value', async (_what, change, path, code) => {
    const requested = await freeTime(base, FOLLOW_UP, 0);
    const answer = await new Client(base).send('post', '/public/bookings', {
      holdId: '00000000-0000-4000-8000-000000000000',
      requested,
      language: 'en',
      person: { ...MARTA, ...change },
    });
    expect(refusalOf(answer).issues).toEqual([{ path, code }]);
  });

  it.each([
    ['one word', { givenName: 'Sukarno', familyName: '' }],
    ['another script', { givenName: '李', familyName: 'Nguyễn Thị' }],
  ])('takes a name of %s as it is', async (_what, change) => {
    const { id } = await bookedVisit(base, 1, { ...MARTA, ...change });
    const { rows } = await world.sql.query(
      'select given_name, family_name from self_booking where appointment_id = $1',
      [id],
    );
    expect(rows).toEqual([{ given_name: change.givenName, family_name: change.familyName }]);
  });

  it('refuses a time that was never offered, with the reasons', async () => {
    const requested = {
      ...FOLLOW_UP,
      kind: 'new' as const,
      providerId: PROVIDERS.amaya,
      start: '2026-12-05T15:05:00.000Z',
    };
    const refused = refusalOf(await new Client(base).call(placeHold, requested));
    expect(refused.tag).toBe('NotOffered');
    expect(refused.codes).toEqual(['outside-site-hours', 'kind-not-offered', 'off-grid', 'no-hours']);
    expect(
      refusalOf(await new Client(base).call(placeHold, { ...requested, start: '2026-12-05T15:03:00.000Z' })).tag,
    ).toBe('InvalidInput');
    expect(refusalOf(await new Client(base).call(placeHold, { ...requested, providerId: null })).tag).toBe('NotFound');
  });
});
