import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { randomEdit, scheduleOf } from '../../tests/randomEdits.ts';
import { DAY, HOURS, otherVisit, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, type ClinicSnapshot, ClinicStore, openStarts, providersToTry } from '../openings/index.ts';
import { changedDays, resolveEdits, type ScheduleEdit, touchedBy } from '../schedule/index.ts';
import { addDays, cellsOf, datesFrom, type LocalDate, wallToEpoch } from '../time/index.ts';
import { alternatives, impactOf, checkBookedVisit, placeAll } from './index.ts';

let made = 0;
const newId = () => `new-${made++}`;

function stores(snapshot: ClinicSnapshot, edits: readonly ScheduleEdit[], today: LocalDate) {
  const before = new ClinicStore(snapshot);
  const rows = scheduleOf(snapshot);
  const resolved = resolveEdits(edits, { store: before, rows, today, newId });
  const after = before.withSchedule(resolved.rows);
  const days = changedDays(
    before,
    after,
    touchedBy(before, rows, resolved.changes),
    addDays(today, -1),
    addDays(today, 20),
  );
  return { before, after, days, resolved };
}

/** Every start of every provider on every date, asked one day at a time. */
function allStarts(
  store: ClinicStore,
  now: number,
  channel: 'online' | 'desk',
  dates: readonly LocalDate[],
): Set<string> {
  const found = new Set<string>();
  const kinds = channel === 'desk' ? (['established'] as const) : (['new', 'established'] as const);
  for (const { id: visitTypeId } of store.plan.visitTypes)
    for (const { id: siteId } of store.plan.sites)
      for (const kind of kinds)
        for (const date of dates) {
          const index = new ClinicIndex(store, now);
          for (const providerId of providersToTry(index, visitTypeId, null))
            for (const cell of cellsOf(openStarts(index, { visitTypeId, kind, channel }, siteId, providerId, date)))
              found.add([visitTypeId, siteId, providerId, date, cell].join(' '));
        }
  return found;
}

describe('what a change does', () => {
  it('is the difference of two full searches, on random clinics and edits', () => {
    // Cases, not starts: a few cases carry nearly all of those.
    let gained = 0;
    let lost = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, now, date } = randomCase(draw);
        const edit = randomEdit(draw, scheduleOf(snapshot), date);
        const { before, after, days, resolved } = stores(snapshot, [edit], date);
        if (resolved.faults.length) return;
        const impact = impactOf({ before, after, days, now, placesOnDates: 0 });
        const dates = datesFrom(addDays(date, -1), addDays(date, 10));
        const inReach = days.filter((day) => dates.includes(day.date));
        const near = impactOf({ before, after, days: inReach, now, placesOnDates: 0 });
        for (const channel of ['online', 'desk'] as const) {
          const was = allStarts(before, now, channel, dates);
          const becomes = allStarts(after, now, channel, dates);
          const sum = (what: 'gained' | 'lost') => near.types.reduce((n, row) => n + row[channel][what], 0);
          expect(sum('gained')).toBe([...becomes].filter((key) => !was.has(key)).length);
          expect(sum('lost')).toBe([...was].filter((key) => !becomes.has(key)).length);
          gained += Number(sum('gained') > 0);
          lost += Number(sum('lost') > 0);
        }
        expect(
          impact.visitsToMove.every(
            ({ visit }) => checkBookedVisit(after, now, visit) && !checkBookedVisit(before, now, visit),
          ),
        ).toBe(true);
      }),
      { numRuns: 250 },
    );
    expect(gained).toBeGreaterThan(5);
    expect(lost).toBeGreaterThan(5);
  });

  it('names the booked visits that no longer fit, each with the rule, and those that fit again', () => {
    const visit = otherVisit(540, 570);
    const snapshot = smallClinic({
      visits: [visit],
      occupied: [{ resourceId: 'doctor', start: visit.start, end: visit.end, visitId: visit.id }],
    });
    const now = wallToEpoch(ZONE, DAY, 400);
    const reasonsOf = (edit: ScheduleEdit, clinic = snapshot) => {
      const { before, after, days } = stores(clinic, [edit], DAY);
      const impact = impactOf({ before, after, days, now, placesOnDates: 5 });
      return impact.visitsToMove.flatMap(({ reasons }) => reasons.map(({ code }) => code));
    };
    const off = { startDate: DAY, startMinute: 0, endDate: DAY, endMinute: 1440, reason: '' } as const;
    expect(reasonsOf({ do: 'time-off', resourceIds: ['doctor'], siteId: null, ...off })).toEqual(['time-off']);
    expect(reasonsOf({ do: 'close-site', siteId: 'site', ...off })).toEqual(['site-closed']);
    // Exactly to the end of the visit is enough; five minutes less is not.
    const until = (toMinute: number): ScheduleEdit => ({
      do: 'change-hours',
      hoursId: HOURS.id,
      reach: { of: 'date', date: DAY },
      to: { toMinute },
    });
    expect(reasonsOf(until(570))).toEqual([]);
    expect(reasonsOf(until(565))).toEqual(['changed-that-date']);
    // Less notice than asked online, and no new day's hours: neither keeps a booked visit from fitting.
    expect(
      reasonsOf({
        do: 'brush',
        siteId: 'site',
        strokes: [{ resourceId: 'doctor', date: DAY, fromMinute: 480, toMinute: 720 }],
        value: 'desk-only',
      }),
    ).toEqual([]);
  });

  it('tells what a sick call breaks elsewhere: nobody able to treat is there any more', () => {
    const visit = otherVisit(540, 570, { providerId: 'other' });
    const watched = {
      ...VISIT,
      parts: [
        {
          lengthMin: 30,
          needs: [...VISIT.parts[0].needs, { key: 'w', what: 'present' as const, capability: 'treats' }],
        },
      ],
    };
    const snapshot = smallClinic({
      visitTypes: [watched],
      resources: [
        { id: 'doctor', kind: 'provider', bookableOnline: true, capabilities: ['treats'] },
        { id: 'other', kind: 'provider', bookableOnline: true, capabilities: [] },
      ],
      pools: [],
      workingHours: [HOURS, { ...HOURS, id: 'others', subject: { of: 'resource', id: 'other' } }],
      visits: [visit],
      occupied: [{ resourceId: 'other', start: visit.start, end: visit.end, visitId: visit.id }],
    });
    const sick: ScheduleEdit = {
      do: 'time-off',
      resourceIds: ['doctor'],
      siteId: null,
      reason: '',
      startDate: DAY,
      startMinute: 0,
      endDate: DAY,
      endMinute: 1440,
    };
    const { before, after, days } = stores(snapshot, [sick], DAY);
    const { visitsToMove } = impactOf({ before, after, days, now: wallToEpoch(ZONE, DAY, 400), placesOnDates: 0 });
    expect(visitsToMove.map((row) => [row.visit.id, row.reasons[0].code])).toEqual([['other', 'nobody-present']]);
  });

  it('tells a room that is gone from a visit that must move: another room is free', () => {
    const visit = otherVisit(540, 570);
    const inRoom = {
      ...VISIT,
      parts: [
        { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'room', what: 'pool' as const, poolKind: 'room' }] },
      ],
    };
    const rows = ['doctor', 'room-a'].map((resourceId) => ({
      resourceId,

      start: visit.start,
      end: visit.end,
      visitId: visit.id,
    }));
    const store = new ClinicStore(smallClinic({ visitTypes: [inRoom], visits: [visit], occupied: rows }));
    const rule = { ...HOURS.rule };
    const painting = { id: 'k', resourceId: 'room-a', siteId: null, rule, fromMinute: 480, toMinute: 720 };
    const now = wallToEpoch(ZONE, DAY, 400);
    expect(checkBookedVisit(store, now, visit)).toBeNull();
    expect(checkBookedVisit(store.withSchedule({ keptFree: [painting] }), now, visit)).toMatchObject({
      otherSeat: true,
      reasons: [{ code: 'kept-free', facts: [{ resourceId: 'room-a' }] }],
    });
  });
});

describe('other times for a visit', () => {
  const now = wallToEpoch(ZONE, DAY, 400);
  const wanted = { daysBefore: 0, daysAfter: 6, limit: 4, siteIds: ['site'] };
  const three = [540, 570, 600].map((from, i) => otherVisit(from, from + 30, { id: `v${i}`, patientId: `p${i}` }));
  const taken = three.map((visit) => ({
    resourceId: 'doctor',

    start: visit.start,
    end: visit.end,
    visitId: visit.id,
  }));
  const away = {
    id: 'off',
    resourceId: 'doctor',
    siteId: null,
    startDate: DAY,
    startMinute: 0,
    endDate: DAY,
    endMinute: 1440,
  };
  const store = () => new ClinicStore(smallClinic({ visits: three, occupied: taken, timeOff: [away] }));

  it('are the nearest in day and hour, by the desk’s rules', () => {
    const found = alternatives(store(), now, three[0], wanted);
    expect(found.map(({ date, start }) => [date, start - wallToEpoch(ZONE, date, 0)])).toEqual([
      [addDays(DAY, 1), 540],
      [addDays(DAY, 1), 535],
      [addDays(DAY, 1), 545],
      [addDays(DAY, 1), 530],
    ]);
    expect(found.every((row, i) => i === 0 || found[i - 1].cost <= row.cost)).toBe(true);
  });

  it('begin with the visit’s own, where only its room is gone and another one is free', () => {
    const parts = [
      { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'room', what: 'pool' as const, poolKind: 'room' }] },
    ];
    const [visit] = three;
    const occupied = ['doctor', 'room-a'].map((resourceId) => ({
      ...{ resourceId, start: visit.start, end: visit.end, visitId: visit.id },
    }));
    const clinic = new ClinicStore(smallClinic({ visitTypes: [{ ...VISIT, parts }], visits: [visit], occupied }));
    const gone = clinic.withSchedule({ timeOff: [{ ...away, resourceId: 'room-a' }] });
    expect(checkBookedVisit(gone, now, visit)?.otherSeat).toBe(true);
    const [first, second] = alternatives(gone, now, visit, wanted);
    expect(first).toMatchObject({ start: visit.start, providerId: 'doctor', cost: 0 });
    expect(second.cost).toBeGreaterThan(0);
    const both = clinic.withSchedule({
      timeOff: [away, { ...away, id: 'b', resourceId: 'room-a' }].map((row) => ({ ...row })),
    });
    expect(alternatives(both, now, visit, wanted)[0].date).not.toBe(DAY);
  });

  it('for several at once are in nobody’s way, and leave the clinic as it was', () => {
    const clinic = store();
    const placed = placeAll(clinic, now, three, wanted);
    const starts = placed.map(({ alternative }) => alternative?.start ?? 0).sort((a, b) => a - b);
    expect(starts).toHaveLength(3);
    for (let i = 1; i < starts.length; i++) expect(starts[i] - starts[i - 1]).toBeGreaterThanOrEqual(30);
    expect(three.map((visit) => clinic.taken.occupiedBy(visit.id).map(({ start }) => start))).toEqual(
      taken.map(({ start }) => [start]),
    );
  });

  it('are never sooner than two hours from now', () => {
    const clinic = new ClinicStore(smallClinic({ visits: three, occupied: taken }));
    const late = wallToEpoch(ZONE, DAY, 500);
    const [first] = alternatives(clinic, late, three[0], { ...wanted, daysAfter: 0 }).sort((a, b) => a.start - b.start);
    expect(first.start).toBeGreaterThanOrEqual(late + 120);
  });
});
