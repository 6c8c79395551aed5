import { editSchedule, visitsToMove } from '@zaguan/contracts/availability';
import * as setup from '@zaguan/contracts/setup';
import { undo } from '@zaguan/contracts/undo';
import { publicDays } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

describe('what a change of set-up does', () => {
  let world: World;
  let base: string;
  let manager: Client;
  beforeAll(async () => {
    world = await makeWorld('setup_impact');
    base = world.servers[0].url;
    manager = await signedIn(base, 'manager');
  });
  afterAll(() => world.close());

  const canal = async () => {
    const found = dataOf(await manager.call(setup.sites.list, {})).records.find(({ id }) => id === SITES.canal);
    if (!found) throw new Error('The excerpt has this site.');
    return { id: found.id, version: found.version, doc: found.doc };
  };
  const closing = (date: string): setup.SiteDoc['closures'][number] => ({
    startDate: date,
    startMinute: 0,
    endDate: date,
    endMinute: 1440,
    reason: 'Floor',
    uid: null,
  });
  const listed = async () =>
    dataOf(await manager.call(visitsToMove, {})).visits.map(({ appointmentId, codes }) => [appointmentId, codes]);
  const startsOn = async (date: string) =>
    dataOf(await manager.call(publicDays, FOLLOW_UP)).days.find((day) => day.date === date)?.starts ?? 0;

  it('is told before it is saved, saves nothing meanwhile, and is what happens then', async () => {
    const { requested, id } = await bookedVisit(base, 2);
    const date = requested.start.slice(0, 10);
    const before = await startsOn(date);
    expect(before).toBeGreaterThan(0);
    const site = await canal();
    const record = { ...site, doc: { ...site.doc, closures: [...site.doc.closures, closing(date)] } };

    const { impact } = dataOf(await manager.call(setup.sites.effects, { records: [record] }));
    expect(impact?.days).toBe(1);
    const shown = impact?.visitsToMove.map((row) => [row.appointmentId, row.codes]) ?? [];
    expect(shown).toContainEqual([id, ['site-closed']]);
    const lost = impact?.types.filter(({ siteId }) => siteId === SITES.canal) ?? [];
    expect(lost.every(({ online, desk }) => online.gained === 0 && desk.gained === 0)).toBe(true);
    expect(Math.max(...lost.map(({ online }) => online.lost))).toBeGreaterThanOrEqual(before);
    expect([await startsOn(date), await canal(), await listed()]).toEqual([before, site, []]);

    const refused = refusalOf(await manager.call(setup.sites.save, { records: [record] }));
    expect(refused).toMatchObject({
      tag: 'AgreementNeeded',
      codes: ['visits-to-move'],
      facts: { visits: shown.length },
    });
    expect([await startsOn(date), await canal()]).toEqual([before, site]);

    const saved = dataOf(await manager.call(setup.sites.save, { records: [record], agreed: ['visits-to-move'] }));
    expect([await startsOn(date), await listed()]).toEqual([0, shown]);
    dataOf(await manager.call(undo, { id: saved.undo.id }));
    expect([await startsOn(date), await listed()]).toEqual([before, []]);
  });

  it('reaches whoever follows the site’s hours, and nothing where only words change', async () => {
    const { requested, id } = await bookedVisit(base, 4);
    const site = await canal();
    const { rows } = await world.sql.query<{ provider_id: string }>(
      'select provider_id from appointment where id = $1',
      [id],
    );
    await world.sql.query('update working_hours set follows_site_hours = true where resource_id = $1', [
      rows[0].provider_id,
    ]);
    const words = { ...site, doc: { ...site.doc, directionsEn: 'Ring at the blue door.' } };
    expect(dataOf(await manager.call(setup.sites.effects, { records: [words] })).impact).toMatchObject({
      days: 0,
      types: [],
      visitsToMove: [],
    });
    dataOf(await manager.call(setup.sites.save, { records: [words] }));
    const now = await canal();
    const shut = {
      ...now,
      doc: { ...now.doc, hours: now.doc.hours.map((row) => ({ ...row, toMinute: row.fromMinute + 5 })) },
    };
    const { impact } = dataOf(await manager.call(setup.sites.effects, { records: [shut] }));
    expect(impact?.visitsToMove.map((row) => row.appointmentId)).toContain(id);
    expect(impact?.days).toBeGreaterThan(20);
    expect(requested.start > '2026').toBe(true);
  });

  it('is not told to whoever may not change set-up, and not where it would be refused anyway', async () => {
    const site = await canal();
    const desk = await signedIn(base, 'front-desk');
    expect(refusalOf(await desk.call(setup.sites.effects, { records: [site] })).tag).toBe('NotAllowed');
    const stale = {
      ...site,
      version: site.version + 5,
      doc: { ...site.doc, bookableOnline: !site.doc.bookableOnline },
    };
    expect(dataOf(await manager.call(setup.sites.effects, { records: [stale] })).impact).toBeNull();
    const bad = { ...site, doc: { ...site.doc, timeZone: 'Nowhere/Land' } };
    expect((await manager.call(setup.sites.effects, { records: [bad] })).status).toBe(400);
  });

  it('counts start times for a switched-off provider and a longer visit, which booked visits outlast', async () => {
    const { id } = await bookedVisit(base, 6);
    const people = dataOf(await manager.call(setup.people.list, {})).records;
    const amaya = people.find((row) => row.id === PROVIDERS.amaya) as (typeof people)[number];
    const off = { id: amaya.id, version: amaya.version, doc: { ...amaya.doc, bookableOnline: false } };
    const ofPerson = dataOf(await manager.call(setup.people.effects, { records: [off] })).impact;
    expect(ofPerson?.types.length).toBeGreaterThan(0);
    expect(ofPerson?.types.every(({ online, desk }) => online.gained === 0 && desk.lost === 0)).toBe(true);
    expect(ofPerson?.visitsToMove).toEqual([]);
    const types = dataOf(await manager.call(setup.visitTypes.list, {})).records;
    const follow = types.find((row) => row.id === FOLLOW_UP.visitTypeId) as (typeof types)[number];
    const parts = follow.doc.parts.map((part) => ({ ...part, lengthMin: part.lengthMin + 60 }));
    const longer = { id: follow.id, version: follow.version, doc: { ...follow.doc, parts } };
    const ofType = dataOf(await manager.call(setup.visitTypes.effects, { records: [longer] })).impact;
    expect(new Set(ofType?.types.map(({ visitTypeId }) => visitTypeId))).toEqual(new Set([follow.id]));
    expect(ofType?.types.some(({ desk }) => desk.lost > 0)).toBe(true);
    expect(ofType?.visitsToMove).toEqual([]);
    expect(await listed()).not.toContainEqual([id, expect.anything()]);
  });

  it('judges visits booked further ahead than can be booked online', async () => {
    const { id } = await bookedVisit(base, 8);
    // A series goes on for longer than the window of self-booking.
    await world.sql.query(
      `update appointment set starts_at = starts_at + interval '280 days', ends_at = ends_at + interval '280 days', provider_starts_at = provider_starts_at + interval '280 days',
         provider_ends_at = provider_ends_at + interval '280 days', site_date = site_date + 280 where id = $1`,
      [id],
    );
    await world.sql.query(
      `update occupancy set during = tstzrange(lower(during) + interval '280 days', upper(during) + interval '280 days') where appointment_id = $1`,
      [id],
    );
    const { rows } = await world.sql.query<{ date: string }>(
      'select site_date::text as date from appointment where id = $1',
      [id],
    );
    const { date } = rows[0];
    const close = {
      do: 'close-site' as const,
      siteId: SITES.canal,
      reason: '',
      startDate: date,
      startMinute: 0,
      endDate: date,
      endMinute: 1440,
    };
    const saved = dataOf(await manager.call(editSchedule, { edits: [close], agreed: true }));
    expect(saved.toMove).toBe(1);
    expect((await listed()).map(([row]) => row)).toContain(id);
    dataOf(await manager.call(undo, { id: saved.undo.id }));
  });

  it('archives nobody without whom booked visits would not stand, though none is with them', async () => {
    // Somebody who can treat is at Canal Row all day; nobody else there can any more.
    const id = crypto.randomUUID();
    const able = 'treats-anaphylaxis';
    await world.sql.query("update resource set capabilities = '{}' where $1 = any(capabilities)", [able]);
    await world.sql.query(
      `insert into resource (id, kind, name, short_name, home_site_id, capabilities, sort_order) values ($1, 'staff', 'Noa Brandt', 'Noa B', $2, $3, 90)`,
      [id, SITES.canal, [able]],
    );
    await world.sql.query('insert into resource_site (resource_id, site_id) values ($1, $2)', [id, SITES.canal]);
    const everyone = { visitTypeIds: null, kinds: null, invitedOnly: false };
    const always = { weekdays: [1, 2, 3, 4, 5] as never, everyWeeks: 1, effectiveUntil: null, followsSiteHours: false };
    const pattern = { ...always, siteId: SITES.canal, fromMinute: 420, toMinute: 1140, places: 1, accepts: everyone };
    const hours = {
      ...{ do: 'add-hours' as const, subject: { of: 'resource' as const, id }, from: '2026-12-01' },
      pattern: { ...pattern, online: false, release: null, caps: [] },
    };
    dataOf(await manager.call(editSchedule, { edits: [hours], agreed: true }));
    const refused = refusalOf(await manager.call(setup.people.archive, { ids: [id as never], active: false }));
    expect(refused.issues).toEqual([{ path: 'active', code: 'visits-stand-on-it' }]);
    expect(Number(refused.facts.visits)).toBeGreaterThan(0);
    const { rows } = await world.sql.query('select active from resource where id = $1', [id]);
    expect(rows[0].active).toBe(true);
  });
});
