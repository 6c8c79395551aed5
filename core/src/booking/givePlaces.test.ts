import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { givePlaces } from './givePlaces.ts';

interface Row {
  readonly id: number;
  readonly start: number;
  readonly end: number;
  readonly place: number;
}

const span = fc.record({ from: fc.nat(60), length: fc.integer({ min: 1, max: 20 }) });

/** How many of these lie over a moment. */
const over = (rows: readonly { start: number; end: number }[], at: number) =>
  rows.filter(({ start, end }) => start <= at && at < end).length;

describe('places of a resource that takes several at once', () => {
  it('are swapped where a stretch would find no place of its own (place 0 until 9:30, place 1 from 9:30)', () => {
    const placed = [
      { id: 1, start: 540, end: 570, place: 0 },
      { id: 2, start: 570, end: 600, place: 1 },
    ];
    const { places, changed } = givePlaces(placed, [{ start: 555, end: 585, places: 2 }]);
    expect(places).toEqual([1]);
    expect(changed).toEqual([{ row: placed[1], place: 0 }]);
  });

  it('stay as they are where a place is free throughout', () => {
    const placed = [{ id: 1, start: 540, end: 570, place: 1 }];
    expect(givePlaces(placed, [{ start: 545, end: 600, places: 2 }])).toEqual({ places: [0], changed: [] });
  });

  it('never serve two at once, and are as many as there are at once, on random days filled one by one', () => {
    let changes = 0;
    fc.assert(
      fc.property(
        fc.array(span, { minLength: 20, maxLength: 40 }),
        fc.integer({ min: 2, max: 4 }),
        fc.gen(),
        (spans, most, gen) => {
          let rows: Row[] = [];
          for (const [id, { from, length }] of spans.entries()) {
            const wanted = { start: from, end: from + length, places: most };
            const minutes = Array.from({ length }, (_, i) => from + i);
            // By count alone.
            if (minutes.some((at) => over(rows, at) >= most)) {
              // Somebody cancels, which leaves gaps in places.
              rows = rows.filter((_, i) => i !== gen(fc.nat, Math.max(0, rows.length - 1)));
              continue;
            }
            const { places, changed } = givePlaces(rows, [wanted]);
            changes += changed.length;
            rows = rows.map((row) => ({ ...row, place: changed.find((each) => each.row === row)?.place ?? row.place }));
            rows.push({ id, start: wanted.start, end: wanted.end, place: places[0] });
            for (const a of rows) {
              expect(a.place).toBeLessThan(most);
              for (const b of rows)
                if (a !== b && a.start < b.end && b.start < a.end) expect(a.place).not.toBe(b.place);
            }
          }
        },
      ),
      { numRuns: 300 },
    );
    expect(changes).toBeGreaterThan(5);
  });

  it('count by the stretch: where its hours give two, a third place elsewhere is not borrowed', () => {
    const placed = [
      { id: 1, start: 0, end: 30, place: 0 },
      { id: 2, start: 10, end: 20, place: 1 },
      { id: 3, start: 20, end: 60, place: 1 },
    ];
    const { places } = givePlaces(placed, [{ start: 25, end: 40, places: 3 }]);
    expect(places).toEqual([2]);
    const two = givePlaces(
      placed.filter(({ id }) => id !== 1),
      [{ start: 5, end: 25, places: 2 }],
    );
    expect(two.places).toEqual([0]);
  });
});
