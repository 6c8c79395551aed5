import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import type { Draw } from '../../tests/randomParts.ts';
import { DAY, HOURS, otherVisit, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, type ClinicSnapshot, ClinicStore, openStarts, providersToTry } from '../openings/index.ts';
import { addDays, cellsOf, datesFrom, type LocalDate, wallToEpoch } from '../time/index.ts';
import { checkBookedVisit, planTouches, setupImpact } from './index.ts';

/** One thing set up differently. */
function randomSetup(draw: Draw, snapshot: ClinicSnapshot): Partial<ClinicSnapshot> {
  const one = <T>(rows: readonly T[], change: (row: T) => T): T[] => {
    const at = draw.int(0, Math.max(0, rows.length - 1));
    return rows.map((row, i) => (i === at ? change(row) : row));
  };
  const without = <T>(rows: readonly T[]) => rows.filter((_, i) => i !== 0);
  return draw.pick<() => Partial<ClinicSnapshot>>([
    () => ({ sites: one(snapshot.sites, (site) => ({ ...site, bookableOnline: !site.bookableOnline })) }),
    () => ({ siteHours: draw.chance(50) ? [] : one(snapshot.siteHours, (row) => ({ ...row, toMinute: 600 })) }),
    () => ({ closures: [] }),
    () => ({
      closures: [
        {
          id: 'c',
          siteId: draw.pick(['a', 'b']),
          startDate: DAY,
          startMinute: 0,
          endDate: '2027-12-01',
          endMinute: 720,
        },
      ],
    }),
    () => ({
      resources: one(snapshot.resources, (row) => ({
        ...row,
        bookableOnline: !row.bookableOnline,
        capabilities: row.capabilities.length ? [] : ['treats'],
      })),
    }),
    () => ({ pools: one(snapshot.pools, (pool) => ({ ...pool, memberIds: without(pool.memberIds) })) }),
    () => ({ visitTypes: one(snapshot.visitTypes, (type) => ({ ...type, afterMin: type.afterMin + 10 })) }),
    () => ({ visitTypes: without(snapshot.visitTypes) }),
    () => ({ policies: one(snapshot.policies, (row) => ({ ...row, gridMin: 60 })) }),
    () => ({ caps: without(snapshot.caps) }),
    () => ({ travel: draw.chance(50) ? [] : one(snapshot.travel, (row) => ({ ...row, minutes: row.minutes + 90 })) }),
  ])();
}

/** Every start of every provider on every date, asked one day at a time. */
function allStarts(store: ClinicStore, now: number, channel: 'online' | 'desk', dates: readonly LocalDate[]) {
  const found = new Set<string>();
  const kinds = channel === 'desk' ? (['established'] as const) : (['new', 'established'] as const);
  const index = new ClinicIndex(store, now);
  for (const { id: visitTypeId } of store.plan.visitTypes)
    for (const { id: siteId } of store.plan.sites)
      for (const kind of kinds)
        for (const date of dates)
          for (const providerId of providersToTry(index, visitTypeId, null))
            for (const cell of cellsOf(openStarts(index, { visitTypeId, kind, channel }, siteId, providerId, date)))
              found.add([visitTypeId, siteId, providerId, date, cell].join(' '));
  return found;
}

describe('what a change of set-up does', () => {
  it('is the difference of two full searches, and names every visit that no longer fits, on random clinics', () => {
    // Cases are counted, not starts: a few cases carry nearly all of those, so that their sum varies tenfold.
    const seen = { gained: 0, lost: 0, visitsToMove: 0 };
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, now, date } = randomCase(draw);
        const changed = { ...snapshot, ...randomSetup(draw, snapshot) };
        const [before, after] = [new ClinicStore(snapshot), new ClinicStore(changed)];
        const [from, until] = [addDays(date, -1), addDays(date, 8)];
        const dates = datesFrom(from, until);
        const impact = setupImpact({ before, after, now, from, until });
        for (const channel of ['online', 'desk'] as const) {
          const [was, becomes] = [before, after].map((store) => allStarts(store, now, channel, dates));
          const sum = (what: 'gained' | 'lost') => impact.types.reduce((n, row) => n + row[channel][what], 0);
          expect(sum('gained')).toBe([...becomes].filter((key) => !was.has(key)).length);
          expect(sum('lost')).toBe([...was].filter((key) => !becomes.has(key)).length);
          seen.gained += Number(sum('gained') > 0);
          seen.lost += Number(sum('lost') > 0);
        }
        // A visit's own type may have changed: then it keeps what it was booked with, and is not judged for that.
        const { visitTypeIds } = planTouches(before, after);
        if (visitTypeIds.length) return;
        const fallen = dates.flatMap((day) =>
          after.taken
            .visitsOn(day)
            .filter((visit) => visit.start >= now)
            .filter((visit) => checkBookedVisit(after, now, visit) && !checkBookedVisit(before, now, visit))
            .map(({ id }) => id),
        );
        expect(impact.visitsToMove.map(({ visit }) => visit.id).sort()).toEqual(fallen.sort());
        expect(
          setupImpact({ before, after, now, from, until, visitsOnly: true })
            .visitsToMove.map(({ visit }) => visit.id)
            .sort(),
        ).toEqual(fallen);
        seen.visitsToMove += fallen.length;
      }),
      { numRuns: 400, endOnFailure: true },
    );
    expect(seen.gained).toBeGreaterThan(2);
    expect(seen.lost).toBeGreaterThan(20);
    expect(seen.visitsToMove).toBeGreaterThan(0);
  });

  const visit = otherVisit(540, 570);
  const booked = smallClinic({
    visits: [visit],
    occupied: [{ resourceId: 'doctor', start: visit.start, end: visit.end, visitId: visit.id }],
    workingHours: [{ ...HOURS, followsSiteHours: true }],
  });
  const impactOn = (change: Partial<ClinicSnapshot>) =>
    setupImpact({
      before: new ClinicStore(booked),
      after: new ClinicStore({ ...booked, ...change }),
      now: wallToEpoch(ZONE, DAY, 400),
      from: DAY,
      until: addDays(DAY, 27),
    });

  it('names the days and the visits: hours that follow the site’s, closures', () => {
    const later = impactOn({ siteHours: booked.siteHours.map((row) => ({ ...row, fromMinute: 600 })) });
    expect(later.visitsToMove.map((row) => row.reasons.map(({ code }) => code))).toEqual([['no-hours']]);
    // 28 days from a Wednesday hold 20 weekdays; the site is not open on the others.
    expect(later.days).toHaveLength(20);
    const closure = { id: 'c', siteId: 'site', startDate: DAY, startMinute: 0, endDate: DAY, endMinute: 1440 };
    const closed = impactOn({ closures: [closure] });
    expect(closed.days.map(({ date }) => date)).toEqual([DAY]);
    expect(closed.visitsToMove.map((row) => row.reasons[0].code)).toEqual(['site-closed']);
  });

  it('does nothing where only ids differ, and leaves booked visits what their type was when they were booked', () => {
    const same = impactOn({ siteHours: booked.siteHours.map((row) => ({ ...row, id: 'another' })) });
    expect(same).toEqual({ types: [], visitsToMove: [], fittingAgain: [], days: [] });
    const longer = impactOn({ visitTypes: [{ ...VISIT, parts: [{ ...VISIT.parts[0], lengthMin: 240 }] }] });
    expect(longer.visitsToMove).toEqual([]);
    expect(longer.types[0].desk.lost).toBeGreaterThan(0);
    expect(longer.types[0].desk.gained).toBe(0);
  });

  it('counts a visit type that is new or gone on one side only', () => {
    const gone = impactOn({ visitTypes: [] });
    expect(gone.types.map(({ desk }) => [desk.gained, desk.lost > 0])).toEqual([[0, true]]);
    const more = impactOn({ visitTypes: [VISIT, { ...VISIT, id: 'second' }] });
    expect(more.types.map(({ visitTypeId, desk }) => [visitTypeId, desk.gained > 0, desk.lost])).toEqual([
      ['second', true, 0],
    ]);
  });
});
