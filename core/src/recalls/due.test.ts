import { describe, expect, it } from 'vitest';
import { addDays } from '../time/index.ts';
import {
  addInterval,
  dueOf,
  intervalAfter,
  type RecallPerson,
  type RecallPlan,
  seasonAround,
  type When,
} from './index.ts';
import { aPerson, aPlan } from './samples.ts';

const due = (when: When, dates: readonly string[], today: string, more: Partial<RecallPerson> = {}) =>
  dueOf(aPlan({ when }), aPerson({ completed: dates.map((date) => ({ typeId: 'injection', date })), ...more }), today);
const dueOn = (...of: Parameters<typeof due>) => {
  const found = due(...of);
  return found.kind === 'on' ? found.dueOn : found.kind;
};
const typeIds = ['injection'];

describe('an interval', () => {
  it.each([
    // A month on, or the last day of the month where there is no such day (java.time and Temporal alike; from memory).
    ['2026-01-31', { n: 1, unit: 'months' }, '2026-02-28'],
    ['2028-01-31', { n: 1, unit: 'months' }, '2028-02-29'],
    ['2026-08-31', { n: 6, unit: 'months' }, '2027-02-28'],
    ['2028-02-29', { n: 1, unit: 'years' }, '2029-02-28'],
    ['2028-02-29', { n: 4, unit: 'years' }, '2032-02-29'],
    ['2026-12-31', { n: 2, unit: 'months' }, '2027-02-28'],
    ['2026-02-26', { n: 4, unit: 'weeks' }, '2026-03-26'],
    ['2028-02-26', { n: 4, unit: 'weeks' }, '2028-03-25'],
    ['2026-12-30', { n: 3, unit: 'days' }, '2027-01-02'],
  ] as const)('after %s of %o ends on %s', (from, interval, to) => expect(addInterval(from, interval)).toBe(to));
});

/**
 * Subcutaneous immunotherapy: build-up injections once or twice a week for months, maintenance every four weeks
 * (Cox et al., J Allergy Clin Immunol 2011, intervals from memory). Worked by hand.
 */
const COURSE: Extract<When, { kind: 'build-up' }> = {
  ...{ kind: 'build-up', typeIds },
  steps: [
    { visits: 4, every: { n: 1, unit: 'weeks' } },
    { visits: 2, every: { n: 2, unit: 'weeks' } },
  ],
  afterwards: { n: 4, unit: 'weeks' },
  restartAfter: { n: 12, unit: 'weeks' },
};

describe('a built-up schedule', () => {
  it.each([
    // Visits so far, and the date of the next one if each is kept to the day; the first is on Monday, February 2, 2026.
    [1, '2026-02-09'],
    [2, '2026-02-16'],
    [3, '2026-02-23'],
    [4, '2026-03-09'],
    [5, '2026-03-23'],
    [6, '2026-04-20'],
    [7, '2026-05-18'],
    [8, '2026-06-15'],
  ])('after %i visits is due on %s', (visits, expected) => {
    const kept = [
      '2026-02-02',
      '2026-02-09',
      '2026-02-16',
      '2026-02-23',
      '2026-03-09',
      '2026-03-23',
      '2026-04-20',
      '2026-05-18',
    ];
    expect(dueOn(COURSE, kept.slice(0, visits), '2026-06-01')).toBe(expected);
  });

  it('counts from the visit that was, however late it came', () => {
    expect(dueOn(COURSE, ['2026-02-02', '2026-02-12'], '2026-02-12')).toBe('2026-02-19');
  });

  it('starts over after a gap longer than it allows, not after one exactly as long', () => {
    const five = ['2026-02-02', '2026-02-09', '2026-02-16', '2026-02-23', '2026-03-09'];
    const twelveWeeks = addDays('2026-03-09', 84);
    expect(due(COURSE, [...five, twelveWeeks], twelveWeeks)).toMatchObject({ count: 6 });
    expect(due(COURSE, [...five, addDays(twelveWeeks, 1)], addDays(twelveWeeks, 1))).toMatchObject({
      count: 1,
      dueOn: addDays(twelveWeeks, 8),
    });
  });

  it('has its intervals by the visits that were', () => {
    expect([0, 3, 4, 5, 6, 99].map((count) => intervalAfter(COURSE, count))).toEqual([
      ...[1, 1, 2, 2, 4, 4].map((n) => ({ n, unit: 'weeks' })),
    ]);
  });

  it('is not due for who never began', () => expect(dueOn(COURSE, [], '2026-02-02')).toBe('nothing'));
});

describe('a visit that is to come', () => {
  const yearly: When = { kind: 'after-visit', typeIds, every: { n: 1, unit: 'years' } };
  it('does not count, nor one of another type', () => {
    expect(dueOn(yearly, ['2025-03-01', '2026-09-01'], '2026-08-31')).toBe('2026-03-01');
    expect(dueOn(yearly, ['2025-03-01', '2026-09-01'], '2026-09-01')).toBe('2027-09-01');
    expect(dueOn({ ...yearly, typeIds: ['review'] }, ['2025-03-01'], '2026-08-31')).toBe('nothing');
  });
  it('counts when it was done elsewhere, for this plan alone', () => {
    const choices = [{ planId: 'p', kind: 'done-elsewhere', on: '2026-05-01', date: '2026-04-30' }] as const;
    expect(dueOn(yearly, ['2025-03-01'], '2026-08-31', { choices })).toBe('2027-04-30');
    expect(dueOn(yearly, ['2025-03-01'], '2026-08-31', { choices: [{ ...choices[0], planId: 'q' }] })).toBe(
      '2026-03-01',
    );
  });
});

describe('a season', () => {
  const fall: When = { kind: 'season', typeIds, from: '10-01', until: '01-31' };
  it.each([
    ['2026-09-30', '2026-10-01', '2027-01-31'],
    ['2026-10-01', '2026-10-01', '2027-01-31'],
    ['2027-01-31', '2026-10-01', '2027-01-31'],
    ['2027-02-01', '2027-10-01', '2028-01-31'],
  ])('around %s runs from %s to %s', (date, from, until) => expect(seasonAround(fall, date)).toEqual({ from, until }));

  it('is asked for once: after a visit in it the next one is due', () => {
    expect(dueOn(fall, ['2026-09-30'], '2026-12-01')).toBe('2026-10-01');
    expect(dueOn(fall, ['2026-10-01'], '2026-12-01')).toBe('2027-10-01');
    expect(dueOn(fall, ['2027-01-31'], '2027-01-31')).toBe('2027-10-01');
    expect(dueOn(fall, ['2026-11-05'], '2027-02-01')).toBe('2027-10-01');
  });
});

describe('a register', () => {
  const when: When = {
    kind: 'on-register',
    registerId: 'venom',
    typeIds,
    after: { n: 1, unit: 'months' },
    every: null,
  };
  const on = (from: string, until: string | null = null) => ({ registers: [{ registerId: 'venom', from, until }] });
  it('counts from the day they were put on it, while they are on it', () => {
    expect(dueOn(when, [], '2026-03-10', on('2026-01-31'))).toBe('2026-02-28');
    expect(dueOn(when, [], '2026-01-30', on('2026-01-31'))).toBe('nothing');
    expect(dueOn(when, [], '2026-03-10', on('2026-01-31', '2026-03-10'))).toBe('2026-02-28');
    expect(dueOn(when, [], '2026-03-11', on('2026-01-31', '2026-03-10'))).toBe('nothing');
  });
  it('asks once, or again at an interval, by visits since they were put on it', () => {
    expect(dueOn(when, ['2026-01-30'], '2026-03-10', on('2026-01-31'))).toBe('2026-02-28');
    expect(dueOn(when, ['2026-01-31'], '2026-03-10', on('2026-01-31'))).toBe('done');
    const yearly: RecallPlan['when'] = { ...when, every: { n: 1, unit: 'years' } };
    expect(dueOn(yearly, ['2026-02-15'], '2026-03-10', on('2026-01-31'))).toBe('2027-02-15');
  });
});

it('who was never seen is due by the day the record was made, and by no plan once they were', () => {
  const when: When = { kind: 'never-seen', after: { n: 30, unit: 'days' } };
  expect(dueOn(when, [], '2026-03-10', { registeredOn: '2026-02-01' })).toBe('2026-03-03');
  expect(dueOn(when, ['2026-03-10'], '2026-03-10')).toBe('seen');
  expect(dueOn(when, ['2026-03-11'], '2026-03-10', { registeredOn: '2026-02-01' })).toBe('2026-03-03');
});
