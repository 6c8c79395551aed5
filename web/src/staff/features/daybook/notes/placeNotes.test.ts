import { describe, expect, it } from 'vitest';
import { placeNotes } from './placeNotes.ts';

const note = (id: string, text: string, fromMinute: number | null = null, toMinute: number | null = null) => ({
  ...{ id, text, fromMinute, toMinute, by: 'Someone', version: 1 },
});
/** Two pixels a minute from 8 o'clock on, to 17; seven pixels a letter. */
const place = (notes: Parameters<typeof placeNotes>[0]) =>
  placeNotes(
    notes,
    (minute) => (minute - 480) * 2,
    1080,
    (words) => words.length * 7,
  );

describe('notes on a lane', () => {
  it('begin where their stretch does, and are as long at least', () => {
    const { placed, rows } = place([note('a', 'Short', 540, 720)]);
    expect(placed[0]).toMatchObject({ left: 120, width: 360, row: 0 });
    expect(rows).toBe(1);
  });

  it('of the whole lane begin at the left, as wide as their words', () => {
    expect(place([note('a', 'Fire drill at noon')]).placed[0]).toMatchObject({ left: 0, width: 18 * 7 + 34 });
  });

  it('never lie on each other', () => {
    const { placed, rows } = place([
      note('a', 'One', 540, 600),
      note('b', 'Two', 570, 630),
      note('c', 'Three', 720, 780),
      note('d', 'Four'),
    ]);
    expect(rows).toBe(2);
    for (const one of placed)
      for (const other of placed)
        if (one !== other && one.row === other.row)
          expect(one.left + one.width <= other.left || other.left + other.width <= one.left).toBe(true);
  });

  it('stay within the hours at the day’s end, and before its beginning', () => {
    const { placed } = place([
      note('a', 'Close the shutters before you leave', 1015, 1020),
      note('b', 'Early', 420, 470),
    ]);
    const of = (id: string) => placed.find(({ note }) => note.id === id);
    expect((of('a')?.left ?? 0) + (of('a')?.width ?? 0)).toBeLessThanOrEqual(1080);
    expect(of('b')?.left).toBe(0);
  });

  it('are no rows where there are none', () => {
    expect(place([])).toEqual({ placed: [], rows: 0 });
  });
});
