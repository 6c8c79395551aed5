import { expect, it } from 'vitest';
import { shortDate } from './format.ts';

it('names the year of a date only where it is another one', () => {
  expect(shortDate('2026-11-25')).toBe('Wed, Nov 25');
  expect(shortDate('2026-11-25', 'en', '2026-01-02')).toBe('Wed, Nov 25');
  expect(shortDate('2025-11-25', 'en', '2026-01-02')).toBe('Tue, Nov 25, 2025');
  expect(shortDate('2025-11-25', 'es', '2026-01-02')).toContain('2025');
});
