import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { type RandomCase, randomCase } from '../../tests/randomClinic.ts';
import { DAY, HOURS, otherVisit, POLICY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { planVisit } from '../booking/index.ts';
import {
  ClinicIndex,
  type ClinicSnapshot,
  ClinicStore,
  openStarts,
  providersToTry,
  type SearchCriteria,
} from '../openings/index.ts';
import { addDays, cellsOf, datesFrom, epochOfCell, epochToWall, wallToEpoch } from '../time/index.ts';
import {
  budgetOf,
  countsByDate,
  firstPerProvider,
  firstTimes,
  householdTimes,
  minimalRelaxations,
  linkedTimes,
  seriesTimes,
  type Time,
  type Where,
} from './index.ts';

const NOW = wallToEpoch(ZONE, addDays(DAY, -1), 600);
const WISH: SearchCriteria = { visitTypeId: 'visit', kind: 'established', channel: 'desk' };
const anywhere = (more: Partial<Where> = {}): Where => ({
  siteIds: ['site'],
  providerIds: null,
  from: DAY,
  until: addDays(DAY, 6),
  weekdays: null,
  fromMinute: 0,
  toMinute: 1440,
  language: null,
  ...more,
});
const clock = ({ date, start }: Time) => `${date} ${epochToWall(ZONE, start).minute}`;
const two = {
  resources: [
    ...smallClinic().resources,
    { id: 'second', kind: 'provider' as const, bookableOnline: true, capabilities: [], languages: ['en', 'es'] },
  ],
  workingHours: [
    HOURS,
    { ...HOURS, id: 'others', subject: { of: 'resource' as const, id: 'second' }, fromMinute: 600, toMinute: 660 },
  ],
};

/** Every time of a day, asked of each provider alone. */
function allTimes(
  snapshot: ClinicSnapshot,
  now: number,
  criteria: SearchCriteria,
  siteId: string,
  date: string,
): { providerId: string | null; start: number }[] {
  const index = new ClinicIndex(snapshot, now);
  const day = index.day(siteId, date);
  return providersToTry(index, criteria.visitTypeId, null).flatMap((providerId) =>
    cellsOf(openStarts(index, criteria, siteId, providerId, date)).map((cell) => ({
      providerId,
      start: epochOfCell(day, cell),
    })),
  );
}

/** The clinic with a time booked in it. */
function booked(
  snapshot: ClinicSnapshot,
  now: number,
  criteria: SearchCriteria,
  siteId: string,
  time: { providerId: string | null; start: number },
): ClinicSnapshot | null {
  const planned = planVisit(new ClinicIndex(snapshot, now), criteria, siteId, time.providerId, time.start);
  if (!planned.ok) return null;
  const { plan } = planned;
  const type = snapshot.visitTypes.find(({ id }) => id === criteria.visitTypeId);
  const visit = {
    id: 'first',
    visitTypeId: criteria.visitTypeId,
    siteId,
    providerId: time.providerId,
    patientId: criteria.patientId ?? null,
    kind: criteria.kind,
    selfBooked: criteria.channel !== 'desk',
    start: plan.start,
    end: plan.end,
    providerStart: plan.providerStart,
    providerEnd: plan.providerEnd,
    beforeMin: type?.beforeMin ?? 0,
    afterMin: type?.afterMin ?? 0,
    date: plan.date,
  };
  return {
    ...snapshot,
    visits: [...snapshot.visits, visit],
    occupied: [...snapshot.occupied, ...plan.occupancy.map((row) => ({ ...row, visitId: 'first' }))],
  };
}

describe('finding a time', () => {
  it('keeps to days, hours, people and language, by time and by provider', () => {
    const index = new ClinicIndex(smallClinic(two), NOW);
    const where = anywhere({ weekdays: [5], fromMinute: 595, toMinute: 605 });
    expect(firstTimes(index, WISH, where, 9).map((time) => `${clock(time)} ${time.providerId}`)).toEqual([
      '2026-06-12 595 doctor',
      '2026-06-12 600 doctor',
      '2026-06-12 600 second',
    ]);
    expect(firstTimes(index, WISH, anywhere({ language: 'es' }), 1).map(({ providerId }) => providerId)).toEqual([
      'second',
    ]);
    expect(firstPerProvider(index, WISH, anywhere()).map((time) => `${time.providerId} ${clock(time)}`)).toEqual([
      'doctor 2026-06-10 480',
      'second 2026-06-10 600',
    ]);
    expect(countsByDate(index, WISH, where)).toEqual([{ date: '2026-06-12', starts: 2 }]);
  });

  it('thins starts to the type’s grid, and the first after what is booked', () => {
    const visit = otherVisit(480, 500);
    const clinic = smallClinic({
      policies: [{ ...POLICY, gridMin: 30 }],
      visits: [visit],
      occupied: [{ resourceId: 'doctor', start: visit.start, end: visit.end, visitId: 'other' }],
    });
    const times = firstTimes(new ClinicIndex(clinic, NOW), WISH, anywhere({ thinned: true }), 3);
    expect(times.map(clock)).toEqual(['2026-06-10 500', '2026-06-10 510', '2026-06-10 540']);
  });

  it('tells the fewest criteria to give up, every choice of that many, the soonest first', () => {
    const index = new ClinicIndex(smallClinic(two), NOW);
    const ask = (more: Partial<Where>, criteria = WISH) =>
      minimalRelaxations(index, criteria, anywhere(more), ['site']).map(({ giveUp }) => giveUp.join('+'));
    // At nine only the doctor works, who speaks no Spanish.
    expect(ask({ fromMinute: 540, toMinute: 545, language: 'es' })).toEqual(['language', 'hour']);
    expect(ask({ providerIds: ['second'], fromMinute: 480, toMinute: 540 })).toEqual(['provider', 'hour']);
    const never = new ClinicIndex(smallClinic({ workingHours: [] }), NOW);
    expect(minimalRelaxations(never, WISH, anywhere(), ['site'])).toEqual([]);
    const offered = { ...WISH, channel: 'online' } as const;
    const closed = new ClinicIndex(smallClinic({ policies: [{ ...POLICY, offered: false }] }), NOW);
    expect(minimalRelaxations(closed, offered, anywhere(), ['site']).map(({ giveUp }) => giveUp)).toEqual([['desk']]);
  });
});

describe('a household', () => {
  const member = (patientId: string): SearchCriteria => ({ ...WISH, patientId });

  it('comes back to back with one provider, and side by side only with two', () => {
    const store = new ClinicStore(smallClinic());
    const criteriaList = [member('a'), member('b'), member('c')];
    const ask = (how: 'back-to-back' | 'side-by-side', clinic = store) =>
      householdTimes(
        clinic,
        NOW,
        { criteriaList, where: anywhere({ until: DAY }), how, mostWaitMin: 0 },
        2,
        budgetOf(),
      ).found.map(({ times }) => times.map((time) => epochToWall(ZONE, time.start).minute).sort((a, b) => a - b));
    expect(ask('back-to-back')).toEqual([
      [480, 510, 540],
      [485, 515, 545],
    ]);
    expect(ask('side-by-side')).toEqual([]);
    const pair = householdTimes(
      new ClinicStore(smallClinic(two)),
      NOW,
      { criteriaList: criteriaList.slice(0, 2), where: anywhere({ until: DAY }), how: 'side-by-side', mostWaitMin: 0 },
      1,
      budgetOf(),
    );
    expect(pair.found[0].times.map((time) => `${clock(time)} ${time.providerId}`).sort()).toEqual([
      '2026-06-10 600 doctor',
      '2026-06-10 600 second',
    ]);
  });

  it('knows without trying how many one provider can see within the wait', () => {
    const together = (n: number, mostWaitMin: number, limit = 1) => {
      let tried = 0;
      const budget = budgetOf();
      const counted = {
        ...budget,
        take: () => {
          tried++;
          budget.take();
        },
      };
      const criteriaList = ['a', 'b', 'c', 'd', 'e'].slice(0, n).map(member);
      const wanted = { criteriaList, where: anywhere({ until: DAY }), how: 'side-by-side' as const, mostWaitMin };
      const { found, gaveUp } = householdTimes(new ClinicStore(smallClinic()), NOW, wanted, limit, counted);
      return {
        starts: found.map(({ times }) => times.map(({ start }) => epochToWall(ZONE, start).minute)),
        tried,
        gaveUp,
      };
    };
    // Visits of half an hour: the second begins when the first ends, the third an hour after it.
    expect(together(2, 25)).toEqual({ starts: [], tried: 0, gaveUp: false });
    expect(together(2, 30).starts[0].sort((a, b) => a - b)).toEqual([480, 510]);
    expect(together(3, 55)).toEqual({ starts: [], tried: 0, gaveUp: false });
    expect(together(3, 60).starts[0].sort((a, b) => a - b)).toEqual([480, 510, 540]);
  });

  it('ends with what it has where a long wait leaves more ways than anyone would try', () => {
    // Two hours for five visits of half an hour: never, in millions of ways.
    const short = new ClinicStore(smallClinic({ workingHours: [{ ...HOURS, toMinute: 600 }] }));
    const criteriaList = ['a', 'b', 'c', 'd', 'e'].map(member);
    const wanted = { criteriaList, where: anywhere({ until: DAY }), how: 'side-by-side' as const, mostWaitMin: 120 };
    expect(householdTimes(short, NOW, wanted, 1, budgetOf(40))).toEqual({ found: [], gaveUp: true });
  });

  /** Every start of the first with the soonest end of all, by trying every order, provider and start; minutes of instants. */
  function tryEverything(
    c: RandomCase,
    criteriaList: readonly SearchCriteria[],
    how: 'back-to-back' | 'side-by-side',
    mostWaitMin: number,
    inHours: (time: { start: number }) => boolean,
  ): Map<number, number> {
    const best = new Map<number, number>();
    const lengthOf = (criteria: SearchCriteria) =>
      c.snapshot.visitTypes
        .find(({ id }) => id === criteria.visitTypeId)
        ?.parts.reduce((n, part) => n + part.lengthMin, 0) ?? 0;
    const goOn = (
      snapshot: ClinicSnapshot,
      left: readonly SearchCriteria[],
      first: number | null,
      base: number,
      end: number,
    ) => {
      if (!left.length && first !== null) best.set(first, Math.min(best.get(first) ?? Number.POSITIVE_INFINITY, end));
      for (const criteria of left)
        for (const time of allTimes(snapshot, c.now, criteria, 'a', c.date).filter(inHours)) {
          if (first !== null && (time.start < base || time.start > base + mostWaitMin)) continue;
          const over = time.start + lengthOf(criteria);
          const rest = left.filter((other) => other !== criteria);
          const after = rest.length ? booked(snapshot, c.now, criteria, 'a', time) : snapshot;
          if (!after) throw new Error('What is open can be booked.');
          goOn(
            after,
            rest,
            first ?? time.start,
            how === 'side-by-side' ? (first ?? time.start) : over,
            Math.max(end, over),
          );
        }
    };
    goOn(c.snapshot, criteriaList, null, 0, 0);
    return best;
  }

  for (const [members, cells, runs, replay] of [
    [2, 12, 200, {}],
    [3, 6, 200, {}],
    // One in which the first to be put down took the room that only another one could have used.
    [3, 6, 1, { seed: 916_685_347, path: '65' }],
  ] as const)
    it(`finds for ${members} the starts, and the soonest ends, that trying everything finds, on ${runs} random clinic${runs === 1 ? '' : 's'}`, () => {
      let some = 0;
      fc.assert(
        fc.property(fc.gen(), (gen) => {
          const draw = drawFrom(gen);
          const c: RandomCase = randomCase(draw);
          const criteriaList = Array.from(
            { length: members },
            (_, i): SearchCriteria => ({
              visitTypeId: i === 0 ? 't1' : draw.pick(['t1', 't2', 't2']),
              kind: 'established',
              channel: 'desk',
              patientId: `patient ${i}`,
            }),
          );
          const mostWaitMin = draw.pick([0, 15]);
          const how = draw.pick(['back-to-back', 'side-by-side'] as const);
          // A few starts at most: trying everything books the clinic anew for each of them.
          const from = draw.int(100, 180) * 5;
          const toMinute = from + (how === 'back-to-back' && members > 2 ? 60 : cells * 5);
          const where: Where = {
            ...anywhere(),
            siteIds: ['a'],
            from: c.date,
            until: c.date,
            fromMinute: from,
            toMinute,
          };
          const answer = householdTimes(
            new ClinicStore(c.snapshot),
            c.now,
            { criteriaList, where, how, mostWaitMin },
            1000,
            budgetOf(100_000),
          );
          const { zone } = c.snapshot.sites[0];
          const expected = tryEverything(c, criteriaList, how, mostWaitMin, ({ start }) => {
            const { minute } = epochToWall(zone, start);
            return minute >= from && minute < toMinute;
          });
          expect(answer.gaveUp).toBe(false);
          expect(
            answer.found.map(({ times }) => [
              Math.min(...times.map(({ start }) => start)),
              Math.max(...times.map(({ end }) => end)),
            ]),
          ).toEqual([...expected].sort(([x], [y]) => x - y));
          some += expected.size;
        }),
        { numRuns: runs, endOnFailure: true, ...replay },
      );
      // Three together fit into few clinics of chance: how many is chance as well.
      if (runs > 1) expect(some).toBeGreaterThan(0);
    });

  it('says so when the budget was not enough, and ends at once when nobody waits any more', () => {
    const ask = (budget: ReturnType<typeof budgetOf>) =>
      householdTimes(
        new ClinicStore(smallClinic()),
        NOW,
        {
          criteriaList: [member('a'), member('b'), member('c')],
          where: anywhere(),
          how: 'back-to-back',
          mostWaitMin: 0,
        },
        50,
        budget,
      );
    expect(ask(budgetOf())).toMatchObject({ gaveUp: false });
    const some = ask(budgetOf(8));
    expect([some.gaveUp, some.found.length > 0]).toEqual([true, true]);
    expect(ask(budgetOf(1000, () => true))).toMatchObject({ gaveUp: true, found: [] });
  });
});

describe('a series', () => {
  const where = anywhere({ until: DAY, fromMinute: 540, toMinute: 545 });
  const ask = (snapshot: ClinicSnapshot, toleranceDays: number) =>
    seriesTimes(
      new ClinicStore(snapshot),
      NOW,
      { criteria: WISH, where, everyWeeks: 4, count: 3, toleranceDays, sameProvider: true },
      1,
      budgetOf(),
    ).found.map(({ times }) => times.map(clock));

  it('keeps its weekday and hour', () => {
    expect(ask(smallClinic(), 0)).toEqual([['2026-06-10 540', '2026-07-08 540', '2026-08-05 540']]);
  });

  it('steps aside within its tolerance, to the nearest day, and is not found beyond it', () => {
    const off = {
      id: 'off',
      resourceId: 'doctor',
      siteId: null,
      startDate: '2026-07-07',
      startMinute: 0,
      endDate: '2026-07-08',
      endMinute: 1440,
    };
    const away = smallClinic({ timeOff: [off] });
    expect(ask(away, 0)).toEqual([]);
    expect(ask(away, 2)).toEqual([['2026-06-10 540', '2026-07-09 540', '2026-08-05 540']]);
  });

  it('keeps to the spacing between its own visits', () => {
    const spaced = { ...VISIT, spacing: [{ otherTypeId: 'visit', minDays: 28, maxDays: null }] };
    const off = {
      id: 'off',
      resourceId: 'doctor',
      siteId: null,
      startDate: '2026-07-08',
      startMinute: 0,
      endDate: '2026-07-08',
      endMinute: 1440,
    };
    const clinic = smallClinic({ visitTypes: [spaced], timeOff: [off] });
    const criteria = { ...WISH, patientId: 'me' };
    const { found } = seriesTimes(
      new ClinicStore(clinic),
      NOW,
      { criteria, where, everyWeeks: 4, count: 3, toleranceDays: 1, sameProvider: true },
      1,
      budgetOf(),
    );
    // July 7 is nearer, but 27 days after the first.
    expect(found[0].times.map(clock)).toEqual(['2026-06-10 540', '2026-07-09 540', '2026-08-06 540']);
  });

  it('exists where trying every choice of days finds one, on random clinics', () => {
    let some = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const criteria: SearchCriteria = { visitTypeId: 't2', kind: 'established', channel: 'desk', patientId: 'me' };
        const tolerance = draw.pick([0, 1]);
        const span = anywhere({ siteIds: ['a'], from: c.date, until: c.date, fromMinute: draw.int(100, 160) * 5 });
        const asked: Where = { ...span, toMinute: span.fromMinute + 60 };
        const { zone } = c.snapshot.sites[0];
        const inHours = ({ start }: { start: number }) => {
          const { minute } = epochToWall(zone, start);
          return minute >= asked.fromMinute && minute < asked.toMinute;
        };
        const found =
          seriesTimes(
            new ClinicStore(c.snapshot),
            c.now,
            { criteria, where: asked, everyWeeks: 1, count: 2, toleranceDays: tolerance, sameProvider: false },
            1,
            budgetOf(),
          ).found.length > 0;
        const next = addDays(c.date, 7);
        const exists = allTimes(c.snapshot, c.now, criteria, 'a', c.date)
          .filter(inHours)
          .some((first) => {
            const after = booked(c.snapshot, c.now, criteria, 'a', first);
            return (
              after !== null &&
              datesFrom(addDays(next, -tolerance), addDays(next, tolerance)).some((date) =>
                allTimes(after, c.now, criteria, 'a', date).some(inHours),
              )
            );
          });
        expect(found).toBe(exists);
        if (exists) some++;
      }),
      { numRuns: 150, endOnFailure: true },
    );
    expect(some).toBeGreaterThan(5);
  });
});

describe('visits that follow at fixed times', () => {
  it('come at 48 and 96 hours, at the same hour of the clock also over a change of clocks', () => {
    const patch = {
      ...VISIT,
      id: 'patch',
      links: [
        { followTypeId: 'visit', offsetMin: 2880 },
        { followTypeId: 'visit', offsetMin: 5760 },
      ],
    };
    const clinic = smallClinic({ visitTypes: [VISIT, patch] });
    const criteria = { ...WISH, visitTypeId: 'patch' };
    const from = '2026-10-30';
    const store = new ClinicStore(clinic);
    const { found } = linkedTimes(
      store,
      NOW,
      criteria,
      anywhere({ from, until: from, fromMinute: 540, toMinute: 545 }),
      1,
      budgetOf(),
    );
    // Clocks go back on November 1, 2026 (Energy Policy Act of 2005).
    expect(found[0].times.map(clock)).toEqual(['2026-10-30 540', '2026-11-01 540', '2026-11-03 540']);
    const taken = otherVisit(480, 720, {
      date: '2026-11-01',
      start: wallToEpoch(ZONE, '2026-11-01', 480),
      end: wallToEpoch(ZONE, '2026-11-01', 720),
    });
    const full = smallClinic({
      visitTypes: [VISIT, patch],
      occupied: [{ resourceId: 'doctor', start: taken.start, end: taken.end, visitId: 'x' }],
    });
    expect(
      linkedTimes(new ClinicStore(full), NOW, criteria, anywhere({ from, until: from }), 1, budgetOf()).found,
    ).toEqual([]);
  });
});

it('leaves the clinic as it was, whatever is asked', () => {
  const store = new ClinicStore(smallClinic(two));
  const before = firstTimes(new ClinicIndex(store, NOW), WISH, anywhere(), 500);
  householdTimes(
    store,
    NOW,
    { criteriaList: [WISH, WISH, WISH], where: anywhere(), how: 'back-to-back', mostWaitMin: 30 },
    3,
    budgetOf(),
  );
  seriesTimes(
    store,
    NOW,
    { criteria: WISH, where: anywhere(), everyWeeks: 1, count: 6, toleranceDays: 3, sameProvider: false },
    2,
    budgetOf(),
  );
  expect(firstTimes(new ClinicIndex(store, NOW), WISH, anywhere(), 500)).toEqual(before);
});
