import type { VisitTypeDoc } from '@zaguan/contracts/setup';

export type Parts = VisitTypeDoc['parts'];

/** Lengths go in steps of this, from the least to the longest, in minutes. */
export const STEP_MIN = 5;
export const MAX_PART_MIN = 720;
export const LABEL_PX = 150;
export const TRACK_PX = 440;
/** A part stays wide enough to be taken hold of. */
const MIN_PX = 46;

/** A length that can be kept, nearest to what was asked for. */
export const lengthNear = (minutes: number): number =>
  Math.min(MAX_PART_MIN, Math.max(STEP_MIN, Math.round(minutes / STEP_MIN) * STEP_MIN));

/** Widths in proportion, none too small to be taken hold of. */
export function widthsOf(parts: Parts): number[] {
  const total = parts.reduce((sum, { lengthMin }) => sum + (lengthMin || 0), 0) || 1;
  const raw = parts.map(({ lengthMin }) => Math.max(MIN_PX, ((lengthMin || 0) / total) * TRACK_PX));
  const sum = raw.reduce((a, b) => a + b, 0);
  return raw.map((width) => (width / sum) * Math.max(TRACK_PX, parts.length * MIN_PX));
}
