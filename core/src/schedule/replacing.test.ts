import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scheduleOf } from '../../tests/randomEdits.ts';
import { DAY, HOURS, smallClinic } from '../../tests/smallClinic.ts';
import type { WorkingHours } from '../availability/index.ts';
import { type ClinicSnapshot, ClinicStore } from '../openings/index.ts';
import { occursOn } from '../recurrence/index.ts';
import { addDays, datesFrom, type LocalDate, type Weekday, weekdayOf } from '../time/index.ts';
import { replaceable, resolveEdits, resolveReplacing, type ResolveWith, type ScheduleEdit } from './index.ts';

const SITES = {
  sites: [
    { id: 'site', zone: 'America/Chicago', bookableOnline: true },
    { id: 'far', zone: 'America/Chicago', bookableOnline: true },
  ],
  travel: [{ fromSiteId: 'site', toSiteId: 'far', minutes: 0 }],
};
const WEEKDAYS: Weekday[] = [1, 2, 3, 4, 5];
/** The doctor's hours at the site, Monday to Friday from 8 to 12. */
const STANDING: WorkingHours = { ...HOURS, rule: { ...HOURS.rule, weekdays: WEEKDAYS, effectiveUntil: null } };

function how(change: Partial<ClinicSnapshot> = {}): ResolveWith {
  const snapshot = smallClinic({ ...SITES, workingHours: [STANDING], ...change });
  let made = 0;
  return { store: new ClinicStore(snapshot), rows: scheduleOf(snapshot), today: DAY, newId: () => `new-${made++}` };
}

const { rule: _, id: __, subject, ...terms } = HOURS;
const away = (more: object = {}, from = DAY): ScheduleEdit => ({
  do: 'add-hours',
  subject,
  from,
  pattern: { ...terms, siteId: 'far', weekdays: [1, 3], everyWeeks: 1, effectiveUntil: null, ...more },
});
const worksOn = (rows: readonly WorkingHours[], siteId: string, date: LocalDate) =>
  rows.some((row) => row.siteId === siteId && occursOn(row.rule, date));

function replacing(edits: ScheduleEdit[], change: Partial<ClinicSnapshot> = {}) {
  const given = how(change);
  const ids = replaceable(resolveEdits(edits, given), given);
  return { ids, ...resolveReplacing(edits, ids, given) };
}

describe('hours in the way', () => {
  it('are told all at once, each with its first date and on how many it comes', () => {
    const twice = [away({ fromMinute: 480, toMinute: 540 }), away({ fromMinute: 600, toMinute: 660 })];
    const { faults } = resolveEdits(twice, how());
    expect(faults.map(({ code, facts }) => [code, facts.date, facts.sourceId])).toEqual([['overlap', DAY, 'hours']]);
    // Two days a week for the 400 days searched; counted by hand on the calendar (401 days from a Wednesday hold 58 Wednesdays and 57 Mondays).
    expect(faults[0].facts.days).toBe(115);
  });

  it('give way on the days in question, and begin again when the new ones have ended', () => {
    const until = addDays(DAY, 20);
    const { ids, faults, rows } = replacing([away({ effectiveUntil: until })]);
    expect([ids, faults]).toEqual([['hours'], []]);
    for (const date of datesFrom(DAY, addDays(DAY, 60))) {
      const taken = [1, 3].includes(weekdayOf(date)) && date <= until;
      expect([date, worksOn(rows.workingHours, 'far', date)]).toEqual([date, taken]);
      expect([date, worksOn(rows.workingHours, 'site', date)]).toEqual([
        date,
        !taken && WEEKDAYS.includes(weekdayOf(date)),
      ]);
    }
  });

  it('are taken off a single date that others are worked on', () => {
    const once: ScheduleEdit = {
      do: 'extra-hours',
      subject,
      date: DAY,
      hours: { siteId: 'far', fromMinute: 540, toMinute: 600, places: 1, accepts: HOURS.accepts, online: true },
    };
    const { rows, faults } = replacing([once]);
    expect(faults).toEqual([]);
    expect(rows.dateChanges.map(({ workingHoursId, date, hours }) => [workingHoursId, date, hours?.siteId])).toEqual([
      ['hours', DAY, undefined],
      [null, DAY, 'far'],
    ]);
  });

  it('stay where only some of their dates are in the way for good, or a pool shares them', () => {
    expect(replacing([away({ everyWeeks: 2 })]).ids).toEqual([]);
    expect(replacing([away({ everyWeeks: 2, effectiveUntil: addDays(DAY, 60) })]).ids).toEqual(['hours']);
    const pools = [{ id: 'pool', siteId: 'site', kind: 'provider' as const, memberIds: [subject.id] }];
    const shared = { ...STANDING, subject: { of: 'pool' as const, id: 'pool' } };
    expect(replacing([away()], { pools, workingHours: [shared] }).ids).toEqual([]);
  });

  it('stay a fault where nobody said that they may go', () => {
    expect(resolveReplacing([away()], ['other'], how()).faults.map(({ code }) => code)).toEqual(['overlap']);
  });
});

it('never leaves a person in two places, and takes nothing from days that are not in question, on random hours', () => {
  const rule = fc.record({
    weekdays: fc.uniqueArray(fc.constantFrom<Weekday>(1, 2, 3, 4, 5, 6, 7), { minLength: 1 }),
    everyWeeks: fc.constantFrom(1, 1, 2, 3),
    from: fc.nat(30),
    until: fc.option(fc.integer({ min: 0, max: 90 })),
    start: fc.nat(8),
    length: fc.integer({ min: 1, max: 4 }),
  });
  let replaced = 0;
  fc.assert(
    fc.property(rule, rule, (old, fresh) => {
      const pattern = ({ weekdays, everyWeeks, from, until, start, length }: typeof old) => ({
        weekdays,
        everyWeeks,
        effectiveUntil: until === null ? null : addDays(DAY, from + until),
        fromMinute: 480 + start * 60,
        toMinute: 480 + (start + length) * 60,
      });
      const first = resolveEdits([away({ ...pattern(old), siteId: 'site' }, addDays(DAY, old.from))], {
        ...how({ workingHours: [] }),
      });
      if (first.faults.length) return;
      const standing = { workingHours: first.rows.workingHours.map((row) => ({ ...row, id: 'old' })) };
      const edits = [away(pattern(fresh), addDays(DAY, fresh.from))];
      const { ids, faults, rows } = replacing(edits, standing);
      const meets = old.start < fresh.start + fresh.length && fresh.start < old.start + old.length;
      if (faults.length || !ids.length) return;
      replaced++;
      for (const date of datesFrom(DAY, addDays(DAY, 200))) {
        const was = worksOn(standing.workingHours, 'site', date);
        const comes = worksOn(rows.workingHours, 'far', date);
        const off = rows.dateChanges.some((row) => row.date === date && row.hours === null);
        const stays = worksOn(rows.workingHours, 'site', date) && !off;
        expect([date, stays]).toEqual([date, was && !(comes && meets)]);
      }
    }),
    { numRuns: 400 },
  );
  expect(replaced).toBeGreaterThan(20);
});
