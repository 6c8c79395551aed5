import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { type Draw, type RandomCase, randomCase } from '../../tests/randomClinic.ts';
import { addDays, cellsOf, datesFrom, wallToEpoch } from '../time/index.ts';
import { ClinicIndex, ClinicStore, openDays, openStarts, providersToTry } from './index.ts';

const RUNS = 400;

/** Everything open around the case's date at both sites, as one text a provider and day. */
function allOpen(c: RandomCase, index: ClinicIndex): string[] {
  const range = { siteIds: ['a', 'b'], providerIds: null, from: addDays(c.date, -2), until: addDays(c.date, 2) };
  return [...openDays(index, c.criteria, range)].map(
    ({ siteId, providerId, day, starts }) => `${day.date} ${siteId} ${providerId}: ${cellsOf(starts)}`,
  );
}

/** The case with more visits booked: a row of occupancy each, on a neighboring day now and then. */
function bookedMore(draw: Draw, c: RandomCase) {
  return Array.from({ length: draw.int(4, 12) }, (_, i) => {
    const date = addDays(c.date, draw.int(-1, 1));
    const start = wallToEpoch(c.snapshot.sites[0].zone, date, draw.int(60, 200) * 5);
    const end = start + draw.int(6, 30) * 5;
    const providerId = draw.pick(['p1', 'p2', null]);
    const id = `more${i}`;
    return {
      visit: {
        id,
        providerId,
        start,
        end,
        date,
        visitTypeId: draw.pick(['t1', 't2']),
        siteId: draw.pick(['a', 'a', 'b']),
        patientId: draw.pick([null, 'me', 'other']),
        kind: 'established' as const,
        selfBooked: draw.chance(50),
        providerStart: start,
        providerEnd: end,
        beforeMin: draw.pick([0, 5]),
        afterMin: draw.pick([0, 10]),
      },
      occupied: [{ resourceId: providerId ?? draw.pick(['r1', 'n1']), start, end, visitId: id }],
    };
  });
}

describe('a search over days, sites and providers', () => {
  it('gives what asking for each day and provider alone gives', () => {
    let withOpenings = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const c = randomCase(drawFrom(gen));
        const alone = datesFrom(addDays(c.date, -2), addDays(c.date, 2)).flatMap((date) =>
          ['a', 'b'].flatMap((siteId) => {
            const index = new ClinicIndex(c.snapshot, c.now);
            return providersToTry(index, 't1', null).flatMap((providerId) => {
              const cells = cellsOf(
                openStarts(new ClinicIndex(c.snapshot, c.now), c.criteria, siteId, providerId, date),
              );
              return cells.length ? [`${date} ${siteId} ${providerId}: ${cells}`] : [];
            });
          }),
        );
        if (alone.length > 1) withOpenings++;
        expect(allOpen(c, new ClinicIndex(c.snapshot, c.now))).toEqual(alone);
      }),
      { numRuns: RUNS, unbiased: true },
    );
    expect(withOpenings).toBeGreaterThan(RUNS / 80);
  }, 120_000);

  it('gives the same from a store that changed visit by visit as from one loaded afresh', () => {
    let differing = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const more = bookedMore(draw, c);
        const store = new ClinicStore(c.snapshot);
        const empty = allOpen(c, new ClinicIndex(store, c.now));
        for (const { visit, occupied } of more) store.put(visit.id, visit, occupied);
        const fresh = new ClinicStore({
          ...c.snapshot,
          visits: [...c.snapshot.visits, ...more.map(({ visit }) => visit)],
          occupied: [...c.snapshot.occupied, ...more.flatMap(({ occupied }) => occupied)],
        });
        const full = allOpen(c, new ClinicIndex(fresh, c.now));
        expect(allOpen(c, new ClinicIndex(store, c.now))).toEqual(full);
        if (full.join() !== empty.join()) differing++;
        for (const { visit } of more) store.drop(visit.id);
        expect(allOpen(c, new ClinicIndex(store, c.now))).toEqual(empty);
      }),
      { numRuns: RUNS, unbiased: true },
    );
    expect(differing).toBeGreaterThan(RUNS / 80);
  }, 120_000);

  it('takes out a visit that was loaded with the snapshot', () => {
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const c = randomCase(drawFrom(gen));
        const store = new ClinicStore(c.snapshot);
        const whole = allOpen(c, new ClinicIndex(store, c.now));
        const away = store.without(['v0', 'nobody'], () => allOpen(c, new ClinicIndex(store, c.now)));
        expect(() =>
          store.without(['v0'], () => {
            throw new Error('stopped');
          }),
        ).toThrow('stopped');
        // It stands as before, however that ended.
        expect(allOpen(c, new ClinicIndex(store, c.now))).toEqual(whole);
        store.drop('v0');
        const without = new ClinicStore({
          ...c.snapshot,
          visits: c.snapshot.visits.filter(({ id }) => id !== 'v0'),
          occupied: c.snapshot.occupied.filter(({ visitId }) => visitId !== 'v0'),
        });
        const expected = allOpen(c, new ClinicIndex(without, c.now));
        expect(allOpen(c, new ClinicIndex(store, c.now))).toEqual(expected);
        expect(away).toEqual(expected);
      }),
      { numRuns: RUNS, unbiased: true },
    );
  }, 120_000);
});
