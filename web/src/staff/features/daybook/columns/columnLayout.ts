import type { Plate, SiteDay } from '@zaguan/contracts/daybook';
import { minuteOf, type Shown } from '../layout.ts';
import { GAP_PX, MARK_PX, MIN_PLATE_PX, type PlateFace, type Sign, steady } from '../plateLayout.ts';

/** As narrow as a column gets. */
export const MIN_COLUMN_PX = 124;
/** Between plates that stand side by side, or one below the other. */
const BETWEEN_PX = 2;
/** The mark's and name's line, and each line below it. */
const FIRST_LINE_PX = 22;
const LINE_PX = 16;

export interface PlateInColumn {
  readonly plate: Plate;
  /** From the top and the left of the hours, in pixels. */
  readonly top: number;
  readonly height: number;
  readonly left: number;
  readonly width: number;
  readonly name: string;
  readonly signs: readonly Sign[];
  /** What stands below the name; `null`: no room for a line. */
  readonly detail: string | null;
  /** How many lines it may take. */
  readonly lines: number;
  readonly words: string;
}

interface Standing {
  readonly plate: Plate;
  readonly face: PlateFace;
  readonly top: number;
  readonly height: number;
  /** What the name, the mark and the signs take. */
  readonly needed: number;
  /** Which of the places side by side. */
  place: number;
}

/**
 * Places the plates of a column: as high as their minutes, never lower than can be hit, those at once side by side, each
 * as wide as its name and signs need. So every name can be read, however many stand beside each other.
 *
 * @param plates with what is written on them, by their start
 * @param widthOf the width of words in pixels, as they are drawn
 * @param insetPx what is kept free at the left, for the strip of hours, and at the right
 * @returns how wide the column must be, and where its plates stand in it
 */
export function placeColumn(
  site: SiteDay,
  plates: readonly { readonly plate: Plate; readonly face: PlateFace }[],
  shown: Shown,
  pxPerMin: number,
  widthOf: (words: string) => number,
  insetPx: { readonly left: number; readonly right: number },
): { placed: PlateInColumn[]; width: number } {
  const groups = groupsOf(
    plates.map(({ plate, face }) => {
      // Of a visit that reaches out of the hours that are shown, what lies within.
      const top = Math.max(0, (minuteOf(site, plate.drawn.start) - shown.fromMin) * pxPerMin);
      const until = Math.min(shown.toMin, minuteOf(site, plate.drawn.end)) - shown.fromMin;
      const height = Math.max(MIN_PLATE_PX, until * pxPerMin - top - BETWEEN_PX);
      const signsPx = face.signs.reduce((sum, sign) => sum + widthOf(steady(sign)) + 2 * GAP_PX, 0);
      return { plate, face, top, height, needed: MARK_PX + signsPx + widthOf(face.name) + 2 * GAP_PX, place: 0 };
    }),
  );
  const widths = groups.map(widthsOf);
  const inside = Math.max(MIN_COLUMN_PX - insetPx.left - insetPx.right, ...widths.map(sum));
  const placed = groups.flatMap((group, g) => {
    // What a group leaves free is shared among its places.
    const more = (inside - sum(widths[g])) / widths[g].length;
    return group.map((each): PlateInColumn => {
      const width = widths[g][each.place] + more - BETWEEN_PX;
      const left = insetPx.left + sum(widths[g].slice(0, each.place)) + each.place * more;
      const lines = Math.max(0, Math.floor((each.height - FIRST_LINE_PX) / LINE_PX));
      const room = width - each.needed;
      const { longName, name, signs, words, details } = each.face;
      return {
        ...{ plate: each.plate, top: each.top, height: each.height, left, width, signs, words, lines },
        name: widthOf(longName) - widthOf(name) <= room ? longName : name,
        detail: (lines > 0 && details[0]) || null,
      };
    });
  });
  return { placed, width: inside + insetPx.left + insetPx.right };
}

const sum = (list: readonly number[]) => list.reduce((total, each) => total + each, 0);

/** Plates that lie over each other, directly or through others; each with its place side by side. */
function groupsOf(standing: Standing[]): Standing[][] {
  const groups: Standing[][] = [];
  let bottom = Number.NEGATIVE_INFINITY;
  let ends: number[] = [];
  for (const each of standing.toSorted((a, b) => a.top - b.top)) {
    if (each.top >= bottom) {
      groups.push([]);
      ends = [];
    }
    const free = ends.findIndex((end) => end <= each.top);
    each.place = free < 0 ? ends.length : free;
    ends[each.place] = each.top + each.height;
    bottom = Math.max(bottom, each.top + each.height);
    groups[groups.length - 1].push(each);
  }
  return groups;
}

/** How wide each of a group's places must be. */
function widthsOf(group: readonly Standing[]): number[] {
  const widths: number[] = [];
  for (const { place, needed } of group) widths[place] = Math.max(widths[place] ?? 0, needed + BETWEEN_PX);
  return widths;
}
