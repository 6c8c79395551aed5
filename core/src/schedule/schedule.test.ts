import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { randomEdit, scheduleOf } from '../../tests/randomEdits.ts';
import { DAY, HOURS, smallClinic } from '../../tests/smallClinic.ts';
import type { WorkingHours } from '../availability/index.ts';
import { type ClinicSnapshot, ClinicStore } from '../openings/index.ts';
import { expandWeekly } from '../recurrence/index.ts';
import { addDays, type Weekday } from '../time/index.ts';
import {
  applyChanges,
  changedDays,
  inverseOf,
  orphansOf,
  resolveEdits,
  type ScheduleEdit,
  touchedBy,
} from './index.ts';

/** A Wednesday; the small clinic's doctor works 8:00 to 12:00 every day. */
const UNTIL = addDays(DAY, 60);

function resolve(edits: readonly ScheduleEdit[], change: Partial<ClinicSnapshot> = {}, today = DAY) {
  const snapshot = smallClinic(change);
  let made = 0;
  return resolveEdits(edits, {
    store: new ClinicStore(snapshot),
    rows: scheduleOf(snapshot),
    today,
    newId: () => `new-${made++}`,
  });
}

/** Who works when, on every date: `date from-to`. */
function worked(workingHours: readonly WorkingHours[], from = DAY, until = UNTIL): string[] {
  return workingHours
    .flatMap((hoursRow) =>
      expandWeekly(hoursRow.rule, from, until).map((date) => `${date} ${hoursRow.fromMinute}-${hoursRow.toMinute}`),
    )
    .sort();
}

const TUESDAY: Weekday = 2;
const biweekly: WorkingHours = {
  ...HOURS,
  rule: {
    weekdays: [1, 2],
    everyWeeks: 2,
    anchorDate: '2026-06-01',
    effectiveFrom: '2026-06-01',
    effectiveUntil: null,
  },
};

describe('a change of recurring hours', () => {
  it('from a date on keeps which weeks are on, and what was before', () => {
    const { rows, faults } = resolve(
      [{ do: 'change-hours', hoursId: 'hours', reach: { of: 'from', date: '2026-06-24' }, to: { toMinute: 660 } }],
      { workingHours: [biweekly] },
    );
    expect(faults).toEqual([]);
    const was = worked([biweekly], '2026-06-01');
    expect(worked(rows.workingHours, '2026-06-01')).toEqual(
      was.map((line) => (line >= '2026-06-24' ? line.replace('480-720', '480-660') : line)),
    );
    expect(was.filter((line) => line.startsWith('2026-06-29'))).toHaveLength(1);
  });

  it('of one weekday leaves the others as they were', () => {
    const edit = (to: object): ScheduleEdit => ({
      do: 'change-hours',
      hoursId: 'hours',
      reach: { of: 'all', weekdays: [TUESDAY] },
      to,
    });
    const { rows } = resolve([edit({ fromMinute: 540 })], { workingHours: [biweekly] });
    const byDay = worked(rows.workingHours).map((line) => line.slice(11));
    expect(new Set(byDay)).toEqual(new Set(['480-720', '540-720']));
    expect(worked(rows.workingHours)).toHaveLength(worked([biweekly]).length);
    // Tuesday's hours on Thursday instead.
    const moved = resolve([edit({ weekdays: [4] })], { workingHours: [biweekly] });
    expect(expandWeekly(moved.rows.workingHours.at(-1)?.rule ?? HOURS.rule, DAY, UNTIL)[0]).toBe('2026-06-18');
  });

  it('never rewrites what was worked before today', () => {
    const { rows } = resolve([{ do: 'end-hours', hoursId: 'hours', reach: { of: 'all' } }]);
    expect(rows.workingHours).toEqual([{ ...HOURS, rule: { ...HOURS.rule, effectiveUntil: addDays(DAY, -1) } }]);
  });

  it('or of a date that is over is refused', () => {
    const yesterday = addDays(DAY, -1);
    const codes = (edit: ScheduleEdit) => resolve([edit]).faults.map(({ code }) => code);
    const reach = (date: string) => ({ of: 'date', date }) as const;
    expect(codes({ do: 'end-hours', hoursId: 'hours', reach: reach(yesterday) })).toEqual(['over']);
    expect(codes({ do: 'end-hours', hoursId: 'hours', reach: reach(DAY) })).toEqual([]);
    expect(codes({ do: 'change-hours', hoursId: 'hours', reach: reach(DAY), to: {}, onDate: yesterday })).toEqual([
      'over',
    ]);
  });

  it('of one date stands beside the hours, and a second one takes its place', () => {
    const on = (to: object): ScheduleEdit => ({
      do: 'change-hours',
      hoursId: 'hours',
      reach: { of: 'date', date: DAY },
      to,
    });
    const { rows } = resolve([on({ toMinute: 600 }), on({ fromMinute: 500 })]);
    expect(rows.workingHours).toEqual([HOURS]);
    expect(rows.dateChanges).toMatchObject([
      { workingHoursId: 'hours', date: DAY, hours: { fromMinute: 500, toMinute: 600 } },
    ]);
  });

  it('takes single-date changes along; those whose date it leaves are listed, not dropped', () => {
    const change = { id: 'c', subject: HOURS.subject, workingHoursId: 'hours', date: '2026-06-16', hours: null };
    const to = { weekdays: [1, 3] as Weekday[] };
    const { rows, warnings } = resolve(
      [{ do: 'change-hours', hoursId: 'hours', reach: { of: 'from', date: '2026-06-12' }, to }],
      { dateChanges: [change] },
    );
    expect(orphansOf(rows).map(({ id, date }) => [id, date])).toEqual([['c', '2026-06-16']]);
    expect(warnings.map(({ code }) => code)).toContain('change-without-hours');
  });

  it('that would never hold, or of a date on which nothing is worked, is refused', () => {
    const sunday = { ...HOURS.rule, weekdays: [7] as Weekday[], effectiveUntil: '2026-06-13' };
    const codes = (edit: ScheduleEdit, change: Partial<ClinicSnapshot> = {}) =>
      resolve([edit], change).faults.map(({ code }) => code);
    const { rule: _, id: __, subject, ...pattern } = HOURS;
    const add = {
      do: 'add-hours',
      subject,
      from: '2026-06-10',
      pattern: { ...pattern, weekdays: [7], everyWeeks: 1, effectiveUntil: '2026-06-13' },
    } as const;
    expect(codes(add)).toEqual(['never-holds']);
    expect(
      codes(
        { do: 'end-hours', hoursId: 'hours', reach: { of: 'date', date: DAY } },
        { workingHours: [{ ...HOURS, rule: sunday }] },
      ),
    ).toEqual(['not-on-that-date']);
    const late = { fromMinute: 720 };
    expect(codes({ do: 'change-hours', hoursId: 'hours', reach: { of: 'all' }, to: late })).toEqual([
      'across-midnight',
    ]);
    expect(codes({ do: 'change-hours', hoursId: 'hours', reach: { of: 'date', date: DAY }, to: late })).toEqual([
      'across-midnight',
    ]);
    expect(codes({ do: 'end-hours', hoursId: 'gone', reach: { of: 'all' } })).toEqual(['gone']);
  });
});

describe('hours that follow the site’s', () => {
  const open = (id: string, fromMinute: number, toMinute: number) => ({
    id,
    siteId: 'site',
    rule: { ...HOURS.rule, weekdays: [1, 2, 3, 4, 5] as Weekday[] },
    fromMinute,
    toMinute,
  });
  const follows = {
    workingHours: [{ ...HOURS, followsSiteHours: true, fromMinute: 0, toMinute: 1440 }],
    siteHours: [open('am', 480, 720), open('pm', 780, 1020)],
  };
  const on = (to: object): ScheduleEdit => ({
    do: 'change-hours',
    hoursId: 'hours',
    reach: { of: 'date', date: DAY },
    to,
  });
  const spans = (to: object) =>
    resolve([on(to)], follows).rows.dateChanges.map(({ workingHoursId, hours }) => [
      workingHoursId,
      hours?.fromMinute,
      hours?.toMinute,
      hours?.online,
    ]);

  it('keep the site’s stretches on a date whose other terms change, and take the times that are given', () => {
    expect(spans({ online: false })).toEqual([
      ['hours', 480, 720, false],
      [null, 780, 1020, false],
    ]);
    expect(spans({ fromMinute: 540, toMinute: 600 })).toEqual([['hours', 540, 600, true]]);
  });

  it('have no date of their own where the site is not open', () => {
    const { faults } = resolve(
      [{ ...on({ online: false }), reach: { of: 'date', date: '2026-06-13' } } as ScheduleEdit],
      follows,
    );
    expect(faults.map(({ code }) => code)).toEqual(['not-on-that-date']);
  });
});

describe('a person in two places', () => {
  const two = {
    sites: [
      { id: 'site', zone: 'America/Chicago', bookableOnline: true },
      { id: 'far', zone: 'America/Denver', bookableOnline: true },
    ],
    travel: [{ fromSiteId: 'site', toSiteId: 'far', minutes: 45 }],
  };
  const { rule: _, id: __, subject, ...pattern } = HOURS;
  const add = (fromMinute: number): ScheduleEdit => ({
    do: 'add-hours',
    subject,
    from: DAY,
    pattern: {
      ...pattern,
      siteId: 'far',
      fromMinute,
      toMinute: 900,
      weekdays: [3],
      everyWeeks: 1,
      effectiveUntil: null,
    },
  });
  // 12:00 in Chicago is 11:00 in Denver.
  const faultOf = (fromMinute: number) =>
    resolve([add(fromMinute)], two).faults.map(({ code, facts }) => [code, facts.travelMin]);

  it('is refused, and so is no time to get there; exactly the time it takes is enough', () => {
    expect(faultOf(655)).toEqual([['overlap', undefined]]);
    expect(faultOf(660)).toEqual([['no-travel-time', 45]]);
    expect(faultOf(700)).toEqual([['no-travel-time', 45]]);
    expect(faultOf(705)).toEqual([]);
  });

  it('may have extra hours over recurring ones at the same site: they take their place', () => {
    const hours = { siteId: 'site', fromMinute: 500, toMinute: 560, places: 1, accepts: HOURS.accepts, online: false };
    expect(resolve([{ do: 'extra-hours', subject, date: DAY, hours }]).faults).toEqual([]);
  });
});

describe('time off', () => {
  const off = {
    id: 'off',
    resourceId: 'doctor',
    siteId: null,
    startDate: '2026-06-08',
    startMinute: 0,
    endDate: '2026-06-12',
    endMinute: 1440,
  };
  const hours = { siteId: 'site', fromMinute: 540, toMinute: 600, places: 1, accepts: HOURS.accepts, online: false };
  const extra = (splitTimeOff?: boolean): ScheduleEdit => ({
    do: 'extra-hours',
    subject: HOURS.subject,
    date: DAY,
    hours,
    splitTimeOff,
  });

  it('refuses extra hours inside it, and gives way to them if asked', () => {
    expect(resolve([extra()], { timeOff: [off] }).faults).toMatchObject([
      { code: 'inside-time-off', facts: { startDate: '2026-06-08' } },
    ]);
    const { rows } = resolve([extra(true)], { timeOff: [off] });
    expect(rows.timeOff).toMatchObject([
      { startDate: '2026-06-08', startMinute: 0, endDate: DAY, endMinute: 540 },
      { startDate: DAY, startMinute: 600, endDate: '2026-06-12', endMinute: 1440 },
    ]);
  });

  it('that the extra hours use up leaves nothing behind', () => {
    const only = { ...off, startDate: DAY, startMinute: 540, endDate: DAY, endMinute: 600 };
    expect(resolve([extra(true)], { timeOff: [only] }).rows.timeOff).toEqual([]);
  });
});

describe('copying', () => {
  it('puts one weekday’s hours in the place of others’', () => {
    const { rows } = resolve([{ do: 'copy-day', subject: HOURS.subject, weekday: 3, to: [4, 5], from: '2026-06-15' }], {
      workingHours: [
        { ...HOURS, rule: { ...HOURS.rule, weekdays: [3] }, fromMinute: 600 },
        { ...HOURS, id: 'rest', rule: { ...HOURS.rule, weekdays: [1, 4] } },
      ],
    });
    const lines = (date: string) =>
      worked(rows.workingHours)
        .filter((line) => line.startsWith(date))
        .map((line) => line.slice(11));
    expect([
      lines('2026-06-11'),
      lines('2026-06-15'),
      lines('2026-06-17'),
      lines('2026-06-18'),
      lines('2026-06-19'),
    ]).toEqual([['480-720'], ['480-720'], ['600-720'], ['600-720'], ['600-720']]);
  });

  it('puts a person’s week in the place of others’, from a date on, with the same weeks on', () => {
    const { rows } = resolve([{ do: 'copy-week', of: 'doctor', to: ['second', 'third'], from: '2026-06-15' }], {
      workingHours: [biweekly, { ...HOURS, id: 'old', subject: { of: 'resource', id: 'second' } }],
    });
    const of = (id: string) => rows.workingHours.filter(({ subject }) => subject.id === id);
    expect(worked(of('third'))).toEqual(worked([biweekly], '2026-06-15'));
    expect(worked(of('second'), DAY, '2026-06-14')).toHaveLength(5);
    expect(worked(of('second'), '2026-06-15')).toEqual(worked([biweekly], '2026-06-15'));
  });

  it('is refused where there is nothing to copy', () => {
    expect(resolve([{ do: 'copy-week', of: 'room-a', to: ['doctor'], from: DAY }]).faults).toMatchObject([
      { code: 'nothing-to-copy' },
    ]);
  });
});

describe('the brush', () => {
  const paint = (fromMinute: number, toMinute: number, ids = ['doctor']): ScheduleEdit => ({
    do: 'brush',
    siteId: 'site',
    strokes: ids.map((resourceId) => ({ resourceId, date: DAY, fromMinute, toMinute })),
    value: 'desk-only',
  });

  it('over closed time changes nothing and says so; over both, what is worked counts', () => {
    expect(resolve([paint(800, 860)]).faults).toMatchObject([{ code: 'nothing-to-brush' }]);
    const both = resolve([paint(700, 760)]);
    expect([both.faults, both.warnings.map(({ code }) => code), both.rows.brush.length]).toEqual([
      [],
      ['brush-outside-hours'],
      1,
    ]);
    expect(resolve([paint(480, 720)]).warnings).toEqual([]);
  });

  it('drops strokes that lie wholly under a new one', () => {
    const { rows } = resolve([paint(500, 520), paint(600, 640), paint(490, 530)]);
    expect(rows.brush.map(({ fromMinute }) => fromMinute).sort()).toEqual([490, 600]);
  });
});

describe('what is worth knowing', () => {
  const { rule: _, id: __, ...kept } = HOURS;
  const { subject: ___, ...pattern } = kept;
  const add = (more: object, from = DAY): ScheduleEdit => ({
    do: 'add-hours',
    subject: { of: 'resource', id: 'second' },
    from,
    pattern: { ...pattern, weekdays: [7], everyWeeks: 1, effectiveUntil: null, ...more },
  });
  const people = {
    resources: [
      ...smallClinic().resources,
      { id: 'second', kind: 'provider' as const, bookableOnline: true, capabilities: [] },
    ],
  };
  const told = (more: object, from?: string) =>
    resolve([add(more, from)], people).warnings.map(({ code, facts }) => [code, facts.date]);

  it('are times that do not exist or come twice on a Sunday when clocks change (Energy Policy Act of 2005)', () => {
    expect(told({ fromMinute: 150, toMinute: 240, online: false }, '2026-11-08')).toEqual([
      ['no-such-time', '2027-03-14'],
    ]);
    expect(told({ fromMinute: 60, toMinute: 300, online: false })).toEqual([['time-twice', '2026-11-01']]);
    expect(told({ fromMinute: 180, toMinute: 240, online: false }, '2026-11-08')).toEqual([]);
  });

  it('are hours shown online beyond the site’s, and a release that no patient sees', () => {
    expect(told({ weekdays: [3], fromMinute: 420, toMinute: 480 })).toEqual([['outside-site-hours', DAY]]);
    const release = { beforeMin: 0, accepts: HOURS.accepts, online: true };
    expect(
      resolve([add({ weekdays: [3], release })], {
        ...people,
        policies: [{ ...smallClinic().policies[0], leadMin: 60 }],
      }).warnings.map(({ code }) => code),
    ).toEqual(['release-under-lead']);
  });

  it('are a provider whom no visit type lists, and what the brush shows beyond the site’s hours', () => {
    const [type] = smallClinic().visitTypes;
    const unlisted = { ...people, visitTypes: [{ ...type, providerIds: ['doctor'] }] };
    const codes = (edit: ScheduleEdit, change: Partial<ClinicSnapshot>) =>
      resolve([edit], change).warnings.map(({ code }) => code);
    expect(codes(add({ weekdays: [3] }), unlisted)).toEqual(['no-visit-type']);
    expect(codes(add({ weekdays: [3] }), people)).toEqual([]);
    const early = { ...HOURS, fromMinute: 420 };
    const paint = (value: 'shown' | 'desk-only'): ScheduleEdit => ({
      do: 'brush',
      siteId: 'site',
      strokes: [{ resourceId: HOURS.subject.id, date: DAY, fromMinute: 420, toMinute: 540 }],
      value,
    });
    expect(codes(paint('shown'), { workingHours: [early] })).toEqual(['outside-site-hours']);
    expect(codes(paint('desk-only'), { workingHours: [early] })).toEqual([]);
  });
});

it('brings everything back by its inverse, and touches no day it does not name, on random edits', () => {
  let done = 0;
  fc.assert(
    fc.property(fc.gen(), (gen) => {
      const draw = drawFrom(gen);
      const { snapshot, date } = randomCase(draw);
      const rows = scheduleOf(snapshot);
      let made = 0;
      const edits = [randomEdit(draw, rows, date), randomEdit(draw, rows, date)];
      const store = new ClinicStore(snapshot);
      const resolved = resolveEdits(edits, { store, rows, today: date, newId: () => `new-${made++}` });
      if (resolved.faults.length) {
        expect(resolved.rows).toBe(rows);
        return;
      }
      done++;
      const sorted = (of: typeof rows) =>
        Object.fromEntries(
          Object.entries(of).map(([kind, list]) => [kind, [...list].sort((a, b) => (a.id < b.id ? -1 : 1))]),
        );
      const back = applyChanges(resolved.rows, inverseOf(rows, resolved.changes));
      expect(sorted(back)).toEqual(sorted(rows));
      expect(sorted(applyChanges(rows, resolved.changes))).toEqual(sorted(resolved.rows));
      // Nothing before today is ever rewritten. A room without any hours is always there, though: whoever gets the
      // first ones or loses the last (which may all lie ahead) is judged anew on every day.
      const after = store.withSchedule(resolved.rows);
      const { resourceIds, siteIds } = touchedBy(store, rows, resolved.changes);
      const hasHours = (id: string, { plan }: ClinicStore) =>
        plan.workingHours.some(
          ({ subject }) =>
            subject.id === id || plan.pools.some((pool) => pool.id === subject.id && pool.memberIds.includes(id)),
        );
      const kept = resourceIds.filter((id) => hasHours(id, store) === hasHours(id, after));
      const touched = { resourceIds: kept, siteIds };
      const past = changedDays(store, after, touched, addDays(date, -40), addDays(date, -3));
      expect(past).toEqual([]);
    }),
    { numRuns: 200, endOnFailure: true },
  );
  expect(done).toBeGreaterThan(60);
});
