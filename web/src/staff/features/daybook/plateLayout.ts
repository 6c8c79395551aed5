import type { Lane, Plate, SiteDay } from '@zaguan/contracts/daybook';
import { minuteOf, type Shown } from './layout.ts';

/** A plate is at least this wide, so that it can be hit (WCAG 2.5.8). */
export const MIN_PLATE_PX = 24;
/** The arch mark, with the space around it. */
export const MARK_PX = 23;
/** Space behind a name and around a sign. */
export const GAP_PX = 5;
/** Between one plate's words and the next plate of the row. */
const BETWEEN_PX = 2;

/** What the eye should find on a plate before its name is read, the gravest first. */
export interface Sign {
  readonly kind: 'held' | 'too-late' | 'late' | 'waits-long' | 'waits' | 'open';
  readonly short: string;
  readonly words: string;
}

/** What is written on a plate: always the name and the signs, and what fits into the bar besides. */
export interface PlateFace {
  /** Family name and first initial, or the whole name where two would read alike. */
  readonly name: string;
  /** The whole name, where the bar has room for it. */
  readonly longName: string;
  readonly signs: readonly Sign[];
  /** What the Lens shows behind the name, longest first; the first that fits the bar is shown. */
  readonly details: readonly string[];
  /** Everything it says, for who hears it. */
  readonly words: string;
}

export interface PlacedPlate {
  readonly plate: Plate;
  /** From the left of the hours, in pixels: all of the plate, its words included. */
  readonly left: number;
  readonly width: number;
  readonly row: number;
  /** The part that is as long as the minutes; `left` is from the plate's own left. */
  readonly bar: { readonly left: number; readonly width: number };
  /** At the day's end the words stand before the bar. */
  readonly isMirrored: boolean;
  readonly name: string;
  readonly detail: string | null;
  readonly signs: readonly Sign[];
  readonly words: string;
}

/**
 * Places the plates of a lane: a bar as long as the minutes, the name beginning on it and running on over free time,
 * each plate in the first row where bars and words leave room. So every name can be read whatever a visit's length.
 *
 * @param plates with what is written on them, by their start
 * @param widthOf the width of words in pixels, as they are drawn
 */
export function placePlates(
  site: SiteDay,
  plates: readonly { readonly plate: Plate; readonly face: PlateFace }[],
  shown: Shown,
  pxPerMin: number,
  widthOf: (words: string) => number,
): { placed: PlacedPlate[]; rows: number } {
  const end = (shown.toMin - shown.fromMin) * pxPerMin;
  const ends: number[] = [];
  const placed = plates.map(({ plate, face }) => {
    // Of a visit that reaches out of the hours that are shown, what lies within.
    const start = Math.max(0, (minuteOf(site, plate.drawn.start) - shown.fromMin) * pxPerMin);
    const until = Math.min(end, (minuteOf(site, plate.drawn.end) - shown.fromMin) * pxPerMin);
    const barWidth = Math.max(MIN_PLATE_PX, until - start - BETWEEN_PX);
    const signsPx = face.signs.reduce((sum, sign) => sum + widthOf(steady(sign)) + 2 * GAP_PX, 0);
    const wordsPx = (name: string) => MARK_PX + signsPx + widthOf(name) + GAP_PX;
    const name = wordsPx(face.longName) <= barWidth ? face.longName : face.name;
    const needed = wordsPx(name);
    const detail = face.details.find((words) => needed + widthOf(words) + GAP_PX <= barWidth) ?? null;
    const isMirrored = start + Math.max(barWidth, needed) > end && start + barWidth - MIN_PLATE_PX <= end;
    const width = isMirrored ? barWidth + needed - MARK_PX : Math.max(barWidth, needed);
    const left = Math.max(0, isMirrored ? start + barWidth - width : start);
    let row = ends.findIndex((taken) => taken + BETWEEN_PX <= left + 0.5);
    if (row < 0) row = ends.length;
    ends[row] = left + width;
    return {
      ...{ plate, left, width, row, isMirrored, name, detail, signs: face.signs, words: face.words },
      bar: { left: start - left, width: barWidth },
    };
  });
  return { placed, rows: Math.max(1, ends.length) };
}

/** As wide as a sign gets while its minutes grow: a lane is not packed anew each time a minute has gone by. */
export function steady({ kind, short }: Sign): string {
  return kind === 'open' || kind === 'held'
    ? short
    : short.replace(/\d+/, (minutes) => minutes.replace(/./g, '0').padStart(2, '0'));
}

/** The short names that more than one person of these lanes has: they are written out. */
export function alikeNames(lanes: readonly Lane[]): ReadonlySet<string> {
  const people = new Map<string, string>();
  const alike = new Set<string>();
  for (const { plates } of lanes)
    for (const { kind, shortName, familyFirst, patientId } of plates) {
      if (kind === 'hold') continue;
      const person = patientId ?? familyFirst;
      if ((people.get(shortName) ?? person) !== person) alike.add(shortName);
      people.set(shortName, person);
    }
  return alike;
}
