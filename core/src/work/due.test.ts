import { expect, it } from 'vitest';
import { wallToEpoch } from '../time/index.ts';
import { dueOf, isWithClinician, mayAssign } from './index.ts';

const zone = 'America/Chicago';
const at = (date: string, minute: number) => wallToEpoch(zone, date, minute);

it.each([
  ['red-flag', at('2026-12-01', 600), null, at('2026-12-01', 610)],
  ['red-flag', at('2026-12-01', 600), at('2026-12-01', 605), at('2026-12-01', 610)],
  ['inbox', at('2026-12-01', 600), null, at('2026-12-01', 720)],
  ['inbox', at('2026-12-01', 600), at('2026-12-01', 660), at('2026-12-01', 660)],
  ['failed', at('2026-12-01', 600), at('2026-12-09', 660), at('2026-12-01', 840)],
  ['identity-review', at('2026-12-01', 600), at('2026-12-09', 660), at('2026-12-02', 600)],
  ['identity-review', at('2026-12-01', 600), at('2026-11-30', 660), at('2026-12-01', 600)],
  ['coverage', at('2026-11-01', 600), at('2026-12-02', 540), at('2026-12-01', 960)],
  ['not-ready', at('2026-11-01', 600), at('2026-12-02', 540), at('2026-12-01', 960)],
  // The day before daylight saving begins is judged on its own clock.
  ['not-ready', at('2026-03-01', 600), at('2026-03-08', 540), at('2026-03-07', 960)],
] as const)('%s is due by its rule (%#)', (kind, since, start, due) => {
  expect(dueOf(kind, { since, visit: start === null ? null : { start, zone } })).toBe(due);
});

it('brings a red flag back to the desk when a clinician has had it for half an hour (policy of ours)', () => {
  const assignedAt = 1_000_000;
  expect([0, 29, 30, 31].map((minutes) => isWithClinician(assignedAt, assignedAt + minutes))).toEqual([
    true,
    true,
    false,
    false,
  ]);
  expect(isWithClinician(null, assignedAt)).toBe(false);
});

it('lets the desk give a red flag while it is nobody’s or its own, and again when a clinician has had it too long', () => {
  const now = 1_000_000;
  expect(mayAssign(null, now)).toBe(true);
  expect(mayAssign({ mine: true, assignedAt: null }, now)).toBe(true);
  // A clinician who took it by themselves is never passed over.
  expect(mayAssign({ mine: false, assignedAt: null }, now)).toBe(false);
  expect(mayAssign({ mine: false, assignedAt: now - 29 }, now)).toBe(false);
  expect(mayAssign({ mine: false, assignedAt: now - 30 }, now)).toBe(true);
});
