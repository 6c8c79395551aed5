import { expect, it } from 'vitest';
import { shortDate, shiftDate, weekOf } from './format.ts';

it('names the year of a date only where it is another one', () => {
  expect(shortDate('2026-11-25')).toBe('Wed, Nov 25');
  expect(shortDate('2026-11-25', 'en', '2026-01-02')).toBe('Wed, Nov 25');
  expect(shortDate('2025-11-25', 'en', '2026-01-02')).toBe('Tue, Nov 25, 2025');
  expect(shortDate('2025-11-25', 'es', '2026-01-02')).toContain('2025');
});

it.each([
  ['2026-12-01', '2026-11-30'],
  ['2026-11-30', '2026-11-30'],
  ['2026-12-06', '2026-11-30'],
  ['2027-01-01', '2026-12-28'],
  ['2028-03-01', '2028-02-28'],
])('puts %s into the week of Monday, %s', (date, monday) => {
  expect(weekOf(date)).toBe(monday);
});

it('counts days over months, years, leap days and clock changes', () => {
  expect(shiftDate('2026-12-31', 1)).toBe('2027-01-01');
  expect(shiftDate('2028-02-28', 1)).toBe('2028-02-29');
  expect(shiftDate('2026-03-09', -1)).toBe('2026-03-08');
  expect(shiftDate('2026-11-02', -1)).toBe('2026-11-01');
});
