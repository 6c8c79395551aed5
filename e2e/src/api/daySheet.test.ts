import { daybookDay, unfoldDay, daySheet } from '@zaguan/contracts/daybook';
import ICAL from 'ical.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeRestricted, toldBy } from '../fixtures/restricted.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('the day on one sheet', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('day_sheet');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const sheet = (siteId: string, more: object = {}, who = desk) =>
    who.call(daySheet, { date: TEST_DAY, siteId, ...more } as never);

  it('has every visit that the Daybook draws there, once, in the order of their start', async () => {
    const { sites } = unfoldDay(dataOf(await desk.call(daybookDay, { date: TEST_DAY })));
    for (const { id, lanes } of sites) {
      const drawn = new Set(
        lanes.flatMap(({ plates }) => plates.flatMap((plate) => (plate.kind === 'visit' ? plate.id : []))),
      );
      const { rows } = dataOf(await sheet(id));
      expect(rows.map(({ id }) => id).sort()).toEqual([...drawn].sort());
      expect(rows.map(({ start }) => start)).toEqual(rows.map(({ start }) => start).sort());
    }
    const { rows, of } = dataOf(await sheet(SITES.canal, { resourceId: PROVIDERS.amaya }));
    const lane = sites
      .find(({ id }) => id === SITES.canal)
      ?.lanes.find(({ resourceId }) => resourceId === PROVIDERS.amaya);
    expect(of).toBe(lane?.name);
    expect(rows.map(({ id }) => id).sort()).toEqual(
      lane?.plates.flatMap((plate) => (plate.kind === 'visit' ? plate.id : [])).sort(),
    );
    // Who is reached how stands there for the hour in which nothing else works.
    expect(rows.every(({ patient, birthDate }) => patient.includes(',') && birthDate !== null)).toBe(true);
    expect(rows.some(({ phone }) => phone?.startsWith('+1'))).toBe(true);
  });

  it('is given to who may see the site, of what there is there', async () => {
    const frontDesk = await signedIn(base, 'front-desk');
    expect(refusalOf(await sheet(SITES.mesa, {}, frontDesk)).tag).toBe('NotAllowed');
    expect(refusalOf(await sheet(SITES.mesa, { resourceId: '00000000-0000-4000-8000-000000000000' })).tag).toBe(
      'NotFound',
    );
    expect(refusalOf(await sheet('00000000-0000-4000-8000-000000000000')).tag).toBe('NotFound');
    const other = await fetch(`${base}/api/daybook/${TEST_DAY}/sheet.ics?siteId=${SITES.mesa}`, {
      headers: { cookie: frontDesk.cookieHeader() },
    });
    expect(other.status).toBe(403);
  });

  it('goes to a calendar program without anybody’s name (RFC 5545; read back by ical.js)', async () => {
    const { rows } = dataOf(await sheet(SITES.canal));
    const response = await fetch(`${base}/api/daybook/${TEST_DAY}/sheet.ics?siteId=${SITES.canal}`, {
      headers: { cookie: desk.cookieHeader() },
    });
    expect(response.headers.get('content-type')).toBe('text/calendar; charset=utf-8');
    const text = await response.text();
    const events = new ICAL.Component(ICAL.parse(text))
      .getAllSubcomponents('vevent')
      .map((each) => new ICAL.Event(each));
    expect(events.map((event) => event.startDate.toJSDate().toISOString()).sort()).toEqual(
      rows.map(({ start }) => start).sort(),
    );
    expect(new Set(events.map(({ summary }) => summary))).toEqual(new Set(rows.map(({ visitType }) => visitType)));
    expect(rows.filter(({ patient }) => text.includes(patient.split(',')[0]))).toEqual([]);
  });

  it('tells nothing of a restricted record to who may not open it', async () => {
    const { visitId, date } = await makeRestricted(world);
    const reader = await signedIn(base, 'read-only');
    const { rows } = dataOf(await sheet(SITES.canal, { date }, reader));
    const row = rows.find((each) => each.id === visitId);
    expect(row).toMatchObject({ birthDate: null, phone: null, reason: '', alert: '' });
    expect(toldBy(JSON.stringify(rows))).toEqual([]);
    const open = dataOf(await sheet(SITES.canal, { date })).rows.find((each) => each.id === visitId);
    expect(toldBy(JSON.stringify(open)).length).toBeGreaterThan(1);
  });

  it('is empty on a day off, and refuses a date that is none', async () => {
    expect(dataOf(await sheet(SITES.canal, { date: '2026-12-06' })).rows).toEqual([]);
    expect(refusalOf(await sheet(SITES.canal, { date: '2026-02-30' })).tag).toBe('InvalidInput');
  });
});
