import type { DayNote } from '@zaguan/contracts/daybook';

/** Height of a row of notes: one can be hit (WCAG 2.5.8). */
export const NOTE_PX = 25;
/** Between the visits and the first row. */
export const ABOVE_PX = 4;
/** Padding and the mark before the words. */
const AROUND_PX = 34;
const WIDEST_PX = 420;
const NARROWEST_PX = 48;
const BETWEEN_PX = 4;

export interface PlacedNote {
  readonly note: DayNote;
  /** From the left of the hours, in pixels. */
  readonly left: number;
  readonly width: number;
  readonly row: number;
}

/**
 * Places the notes of a lane: one of a stretch begins where the stretch does and is at least as long, one of the whole
 * lane begins at the left; in as few rows as leave each of them room.
 *
 * @param x where a minute of the site's clock is drawn, in pixels
 * @param widthPx of all hours that are drawn
 * @param widthOf the width of words in pixels
 */
export function placeNotes(
  notes: readonly DayNote[],
  x: (minute: number) => number,
  widthPx: number,
  widthOf: (words: string) => number,
): { placed: PlacedNote[]; rows: number } {
  const ends: number[] = [];
  const across = notes.map((note) => {
    const { fromMinute, toMinute } = note;
    const from = fromMinute === null ? 0 : Math.max(0, x(fromMinute));
    const stretch = fromMinute === null || toMinute === null ? 0 : x(toMinute) - from;
    const width = Math.max(NARROWEST_PX, stretch, Math.min(WIDEST_PX, widthOf(note.text) + AROUND_PX));
    // At the day's end it stands before its stretch rather than outside of the hours.
    return { note, width, left: Math.max(0, Math.min(from, widthPx - width)) };
  });
  const placed = across
    .toSorted((a, b) => a.left - b.left)
    .map(({ note, width, left }) => {
      let row = ends.findIndex((end) => end + BETWEEN_PX <= left);
      if (row < 0) row = ends.length;
      ends[row] = left + width;
      return { note, left, width, row };
    });
  return { placed, rows: ends.length };
}
