import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { scheduleOf } from '../../tests/randomEdits.ts';
import { DAY, HOURS, otherVisit, smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { alternatives, impactOf, placeAll } from '../impact/index.ts';
import { type ClinicSnapshot, ClinicStore } from '../openings/index.ts';
import { addDays, and, andNot, cellsOf, datesFrom, wallToEpoch } from '../time/index.ts';
import { cellsOfSpan } from '../availability/index.ts';
import { changedDays, resolveEdits, type ScheduleEdit, touchedBy } from './index.ts';

const colleague = { id: 'colleague', kind: 'provider' as const, bookableOnline: true, capabilities: [] };
const clinic = (change: Partial<ClinicSnapshot> = {}) =>
  smallClinic({ resources: [...smallClinic().resources, colleague], ...change });
const off = (change: object = {}): ScheduleEdit => ({
  do: 'time-off',
  resourceIds: ['doctor'],
  siteId: null,
  reason: '',
  startDate: DAY,
  startMinute: 0,
  endDate: addDays(DAY, 1),
  endMinute: 1440,
  coverId: 'colleague',
  ...change,
});

function resolve(edit: ScheduleEdit, snapshot: ClinicSnapshot) {
  let made = 0;
  const store = new ClinicStore(snapshot);
  const rows = scheduleOf(snapshot);
  return { store, standing: rows, ...resolveEdits([edit], { store, rows, today: DAY, newId: () => `new-${made++}` }) };
}
const extra = (edit: ScheduleEdit, snapshot = clinic()) =>
  resolve(edit, snapshot).changes.dateChanges?.put.map(({ subject, date, hours }) => [
    subject.id,
    date,
    hours?.fromMinute,
    hours?.toMinute,
  ]);

describe('cover for someone who is away', () => {
  it('gets the hours they would have worked, and no more', () => {
    expect(extra(off())).toEqual([
      ['colleague', DAY, 480, 720],
      ['colleague', addDays(DAY, 1), 480, 720],
    ]);
    // From ten on; and what they work there themselves is not doubled.
    expect(extra(off({ startMinute: 600, endDate: DAY }))).toEqual([['colleague', DAY, 600, 720]]);
    const own = { ...HOURS, id: 'own', subject: { of: 'resource' as const, id: 'colleague' }, fromMinute: 540 };
    expect(extra(off({ endDate: DAY }), clinic({ workingHours: [HOURS, { ...own, toMinute: 600 }] }))).toEqual([
      ['colleague', DAY, 480, 540],
      ['colleague', DAY, 600, 720],
    ]);
    // Nothing is covered where they would not have been there anyway.
    const vacation = {
      id: 'v',
      resourceId: 'doctor',
      siteId: null,
      startDate: DAY,
      startMinute: 0,
      endDate: DAY,
      endMinute: 1440,
    };
    expect(extra(off({ endDate: DAY }), clinic({ timeOff: [vacation] }))).toBeUndefined();
  });

  it('takes over on the same terms', () => {
    const mine = {
      ...HOURS,
      accepts: { visitTypeIds: ['visit'], kinds: ['new' as const], invitedOnly: true },
      online: false,
    };
    const [row] = resolve(off(), clinic({ workingHours: [mine] })).changes.dateChanges?.put ?? [];
    expect(row.hours).toMatchObject({ accepts: mine.accepts, online: false, places: 1, siteId: 'site' });
  });

  it('is refused for oneself, and where the cover works elsewhere at that time', () => {
    expect(resolve(off({ coverId: 'doctor' }), clinic()).faults.map(({ code }) => code)).toEqual(['covers-themselves']);
    const away = {
      id: 'a',
      resourceId: 'colleague',
      siteId: null,
      startDate: DAY,
      startMinute: 700,
      endDate: DAY,
      endMinute: 1440,
    };
    expect(resolve(off(), clinic({ timeOff: [away] })).faults).toEqual([
      expect.objectContaining({ code: 'cover-away', facts: { resourceId: 'colleague', siteId: 'site', date: DAY } }),
    ]);
    const sites = [...clinic().sites, { id: 'far', zone: ZONE, bookableOnline: true }];
    const there = { ...HOURS, id: 'there', siteId: 'far', subject: { of: 'resource' as const, id: 'colleague' } };
    const { faults, changes } = resolve(off(), clinic({ sites, workingHours: [HOURS, there] }));
    expect(faults.map(({ code }) => code)).toContain('overlap');
    expect(changes).toEqual({});
  });

  it('is proposed first to the visits it is for, at their own times', () => {
    const visits = [540, 570, 600].map((from, i) => otherVisit(from, from + 30, { id: `v${i}`, patientId: `p${i}` }));
    const occupied = visits.map((visit) => ({
      resourceId: 'doctor',

      start: visit.start,
      end: visit.end,
      visitId: visit.id,
    }));
    const { store, standing, rows, changes } = resolve(off({ endDate: DAY }), clinic({ visits, occupied }));
    const after = store.withSchedule(rows);
    const now = wallToEpoch(ZONE, DAY, 300);
    const days = changedDays(store, after, touchedBy(store, standing, changes), DAY, addDays(DAY, 3));
    expect(impactOf({ before: store, after, days, now, placesOnDates: 0 }).visitsToMove).toHaveLength(3);
    const wanted = { daysBefore: 0, daysAfter: 6, limit: 3, siteIds: ['site'] };
    const [first] = alternatives(after, now, visits[1], wanted);
    expect(first).toMatchObject({ providerId: 'colleague', start: visits[1].start, cost: 0 });
    const placed = placeAll(after, now, visits, wanted);
    expect(placed.map(({ alternative }) => [alternative?.providerId, alternative?.start])).toEqual(
      visits.map(({ start }) => ['colleague', start]),
    );
  });

  it('leaves the clinic with as many cells worked as before, on random clinics', () => {
    let covered = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, date } = randomCase(draw);
        const store = new ClinicStore(snapshot);
        const rows = scheduleOf(snapshot);
        const [away, cover] = draw.chance(50) ? ['p1', 'p2'] : ['p2', 'p1'];
        const span = {
          startDate: date,
          startMinute: draw.int(0, 100) * 5,
          endDate: addDays(date, 1),
          endMinute: draw.int(100, 288) * 5,
        };
        const edit: ScheduleEdit = {
          do: 'time-off',
          resourceIds: [away],
          siteId: null,
          reason: '',
          coverId: cover,
          ...span,
        };
        let made = 0;
        const resolved = resolveEdits([edit], { store, rows, today: date, newId: () => `new-${made++}` });
        if (resolved.faults.length) return;
        const after = store.withSchedule(resolved.rows);
        for (const on of datesFrom(date, addDays(date, 1)))
          for (const { id: siteId } of snapshot.sites) {
            const day = store.day(siteId, on);
            const of = (clinicNow: ClinicStore, id: string) => clinicNow.planOn(clinicNow.lane(id, siteId), day);
            const was = of(store, away);
            const missed = andNot(
              and(andNot(andNot(was.hours, was.timeOff), was.keptFree), cellsOfSpan(day, span)),
              of(after, cover).hours,
            );
            expect(cellsOf(missed)).toEqual([]);
            covered += cellsOf(andNot(of(after, cover).hours, of(store, cover).hours)).length;
          }
      }),
      { numRuns: 300, endOnFailure: true },
    );
    expect(covered).toBeGreaterThan(200);
  });
});
