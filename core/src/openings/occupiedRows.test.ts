import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Occupied } from '../availability/index.ts';
import { zoneDay } from '../time/index.ts';
import { OccupiedRows } from './occupiedRows.ts';

const DAY = zoneDay('America/Chicago', '2026-12-02');

const row = fc
  .record({
    resourceId: fc.constantFrom('a', 'b'),
    from: fc.integer({ min: -4000, max: 4000 }),
    // From a cell to several days, as an imported busy time may be.
    length: fc.oneof(fc.integer({ min: 5, max: 120 }), fc.integer({ min: 1440, max: 6000 })),
    visitId: fc.constantFrom('v1', 'v2', 'v3', 'v4'),
  })
  .map(({ from, length, ...rest }): Occupied => ({ ...rest, start: DAY.start + from, end: DAY.start + from + length }));

function on(rows: OccupiedRows, resourceId: string): string[] {
  const found: string[] = [];
  rows.forEachOn(resourceId, DAY, (...each) => found.push(each.join(' ')));
  return found.sort();
}

function expected(list: readonly Occupied[], resourceId: string): string[] {
  return list
    .filter((each) => each.resourceId === resourceId && each.start < DAY.end && each.end > DAY.start)
    .map(({ start, end, visitId }) => `${start} ${end} ${visitId}`)
    .sort();
}

describe('rows of what is taken', () => {
  it('give what touches a day, each once, as a plain list would, while visits come and go', () => {
    let touched = 0;
    fc.assert(
      fc.property(fc.array(row, { maxLength: 40 }), fc.array(row, { maxLength: 40 }), (loaded, added) => {
        const rows = new OccupiedRows(loaded);
        let list = [...loaded];
        for (const [i, each] of added.entries()) {
          if (i % 3 === 0) {
            const removed = rows.removeOf(each.visitId);
            expect(removed).toHaveLength(list.filter(({ visitId }) => visitId === each.visitId).length);
            list = list.filter(({ visitId }) => visitId !== each.visitId);
          }
          rows.add(each);
          list.push(each);
        }
        for (const id of ['a', 'b']) {
          expect(on(rows, id)).toEqual(expected(list, id));
          touched += expected(list, id).length;
        }
      }),
      { numRuns: 500 },
    );
    expect(touched).toBeGreaterThan(500);
  });

  it('grow beyond the room they began with, and use again what became free', () => {
    const rows = new OccupiedRows([]);
    const many = Array.from({ length: 1000 }, (_, i) => ({
      resourceId: 'a',
      start: DAY.start + i,
      end: DAY.start + i + 1,
      visitId: `v${i}`,
    }));
    for (const each of many) rows.add(each);
    expect(on(rows, 'a')).toHaveLength(1000);
    for (const each of many) expect(rows.removeOf(each.visitId)).toEqual([each]);
    expect(on(rows, 'a')).toEqual([]);
    for (const each of many) rows.add(each);
    expect(on(rows, 'a')).toEqual(expected(many, 'a'));
  });

  it('know nothing of a resource or a visit they never saw', () => {
    const rows = new OccupiedRows([]);
    expect(on(rows, 'nobody')).toEqual([]);
    expect(rows.removeOf('none')).toEqual([]);
  });
});
