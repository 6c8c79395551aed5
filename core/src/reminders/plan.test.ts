import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { epochToWall, wallToEpoch } from '../time/index.ts';
import {
  isQuiet,
  planReminders,
  REMINDER_CODES,
  type ReminderFacts,
  DEFAULT_QUIET_HOURS,
  DEFAULT_REMINDER_STEPS,
} from './index.ts';

const ZONE = 'America/Chicago';
const at = (date: string, minute: number, zone = ZONE) => wallToEpoch(zone, date, minute);
const facts = (change: Partial<ReminderFacts> = {}): ReminderFacts => ({
  now: at('2026-06-01', 600),
  start: at('2026-06-20', 840),
  siteZone: ZONE,
  zones: [ZONE],
  quiet: DEFAULT_QUIET_HOURS,
  status: 'booked',
  reachable: true,
  optedOut: false,
  laneLeftOut: false,
  others: [],
  ...change,
});
const plan = (change: Partial<ReminderFacts> = {}) => planReminders(DEFAULT_REMINDER_STEPS, facts(change));
const sent = (change: Partial<ReminderFacts> = {}) =>
  plan(change).map((each) => (each.outcome === 'planned' ? epochToWall(ZONE, each.sendAt) : each.code));

describe('reminders at 7 days, 2 days and 3 hours', () => {
  it('go out at the visit’s wall-clock time on the days before, and elapsed hours before', () => {
    expect(sent()).toEqual([
      { date: '2026-06-13', minute: 840 },
      { date: '2026-06-18', minute: 840 },
      { date: '2026-06-20', minute: 660 },
    ]);
  });
  it('keep the wall-clock time over a clock change: 7 days before a visit after November 1, 2026', () => {
    expect(sent({ now: at('2026-10-01', 0), start: at('2026-11-04', 840) })[0]).toEqual({
      date: '2026-10-28',
      minute: 840,
    });
  });
  it('move earlier out of quiet time: 3 hours before 9:00 is 6:00, so 20:55 the evening before', () => {
    const [, , last] = plan({ start: at('2026-06-20', 540) });
    expect(last).toEqual({
      step: '3-hours',
      outcome: 'planned',
      sendAt: at('2026-06-19', 1255),
      movedFrom: at('2026-06-20', 360),
    });
  });
  it('send at 8:00 exactly, and not at 21:00', () => {
    expect(sent({ start: at('2026-06-20', 660) })[2]).toEqual({ date: '2026-06-20', minute: 480 });
    expect(isQuiet(at('2026-06-20', 1260), [ZONE], DEFAULT_QUIET_HOURS)).toBe(true);
    expect(isQuiet(at('2026-06-20', 1259), [ZONE], DEFAULT_QUIET_HOURS)).toBe(false);
  });
  it('obey the stricter of two zones: 8:00 in Chicago is 7:00 in Denver', () => {
    expect(sent({ start: at('2026-06-20', 660), zones: [ZONE, 'America/Denver'] })[2]).toEqual({
      date: '2026-06-19',
      minute: 1255,
    });
  });
  it('drop what is past, and what would follow another message within twelve hours', () => {
    expect(sent({ now: at('2026-06-18', 841) })).toEqual([
      'already-past',
      'already-past',
      { date: '2026-06-20', minute: 660 },
    ]);
    expect(sent({ now: at('2026-06-18', 840) })[1]).toEqual({ date: '2026-06-18', minute: 840 });
    expect(sent({ others: [at('2026-06-20', 660 - 719)] })[2]).toBe('too-close');
    expect(sent({ others: [at('2026-06-20', 660 - 720)] })[2]).toEqual({ date: '2026-06-20', minute: 660 });
  });
  it.each([
    ['visit-not-booked', { status: 'cancelled' as const }],
    ['visit-over', { now: at('2026-06-20', 840) }],
    ['lane-left-out', { laneLeftOut: true }],
    ['no-contact', { reachable: false }],
    ['opted-out', { optedOut: true }],
  ])('say %s for every step', (code, change) => {
    expect(sent(change)).toEqual([code, code, code]);
    expect(REMINDER_CODES).toContain(code);
  });

  it('never land in quiet time, in the past, after the visit, or within twelve hours of another', () => {
    const zones = fc.constantFrom<string[]>([ZONE], [ZONE, 'America/Denver'], ['America/Phoenix', 'America/Denver']);
    fc.assert(
      fc.property(
        zones,
        fc.integer({ min: 0, max: 40_000 }),
        fc.integer({ min: 0, max: 30_000 }),
        (all, ahead, since) => {
          const now = at('2026-02-25', 0) + since;
          const others = [now];
          const planned = planReminders(DEFAULT_REMINDER_STEPS, facts({ now, start: now + ahead, zones: all, others }));
          expect(planned).toHaveLength(3);
          const times = planned.flatMap((each) => (each.outcome === 'planned' ? [each.sendAt] : []));
          for (const time of times) {
            expect(isQuiet(time, all, DEFAULT_QUIET_HOURS)).toBe(false);
            expect(time).toBeGreaterThanOrEqual(now);
            expect(time).toBeLessThan(now + ahead);
          }
          const every = [...times, ...others].sort((a, b) => a - b);
          for (const [i, time] of every.slice(1).entries()) expect(time - every[i]).toBeGreaterThanOrEqual(720);
        },
      ),
      { numRuns: 1000 },
    );
  });
});
