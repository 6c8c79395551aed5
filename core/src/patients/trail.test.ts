import { expect, it } from 'vitest';
import { trailChanges } from './trail.ts';

it('tells a change field by field, before and after', () => {
  expect(
    trailChanges(
      { siteId: 's', startsAt: '2026-12-01T15:00:00Z', providerId: 'a' },
      { siteId: 's', startsAt: '2026-12-02T15:00:00Z', providerId: 'b' },
    ),
  ).toEqual([
    { field: 'start', before: '2026-12-01T15:00:00Z', after: '2026-12-02T15:00:00Z' },
    { field: 'provider', before: 'a', after: 'b' },
  ]);
  expect(trailChanges(null, { status: 'booked', origin: 'self' })).toEqual([
    { field: 'status', before: null, after: 'booked' },
  ]);
});

it('names the clinic’s own fields that were changed, and no others', () => {
  expect(trailChanges({ fields: { f: 'old', g: 1 } }, { fields: { f: 'new', g: 1, h: true } })).toEqual([
    { field: 'own-field', ownFieldId: 'f', before: 'old', after: 'new' },
    { field: 'own-field', ownFieldId: 'h', before: null, after: true },
  ]);
});

it('leaves out what nobody can read, and what stayed', () => {
  expect(trailChanges({ edits: [1], status: 'booked' }, { edits: [2], status: 'booked', feed: 'x' })).toEqual([]);
  expect(trailChanges(null, null)).toEqual([]);
  expect(trailChanges('text', 3)).toEqual([]);
});
