import type { Accepts, ResourceDay, Stretch } from '../availability/index.ts';
import {
  addRangeInto,
  allBut,
  and,
  andNot,
  CELL_MIN,
  emptyMask,
  EVERY_CELL,
  type Mask,
  NO_CELLS,
  or,
  rangeMask,
} from '../time/index.ts';
import { dayOfSeat, type Frame, type TimedNeed, type Seat, startsInside } from './frame.ts';

/** What a stretch stands for at a given notice: its own terms, or the wider ones once released. */
export interface Terms {
  readonly accepts: Accepts;
  readonly online: boolean;
}

function termsOf(stretch: Stretch, released: boolean): Terms {
  return released && stretch.release ? stretch.release : stretch;
}

/** Whether any stretch of the day has such terms, now or once released. */
export function someTerms(plan: ResourceDay, test: (terms: Terms) => boolean): boolean {
  return plan.stretches.some((stretch) => test(stretch) || (stretch.release !== null && test(stretch.release)));
}

/** Cells whose stretch refuses; cells without a stretch refuse nothing (that is for `no-hours` to say). */
function refusing(
  plan: ResourceDay,
  refuses: (terms: Terms) => boolean,
  isReleased: (stretch: Stretch) => boolean,
): Mask {
  const refusesOne = (stretch: Stretch) => refuses(termsOf(stretch, isReleased(stretch)));
  if (!plan.stretches.some(refusesOne)) return NO_CELLS;
  const refused = plan.stretches.map(refusesOne);
  const mask = emptyMask();
  plan.stretchOfCell.forEach((stretch, cell) => {
    if (stretch >= 0 && refused[stretch]) addRangeInto(mask, cell, cell + 1);
  });
  return mask;
}

/**
 * Starts at which a seat's hours do not refuse on the given terms. Release is judged by the visit's start: from
 * `beforeMin` before it, inclusive, the wider terms hold for the whole visit. Each distinct `beforeMin` of the day
 * therefore splits the starts into a near and a far part, judged apart.
 *
 * @param lift cells that pass whatever the hours say (the brush), and cells that never pass
 */
export function startsAccepted(
  frame: Frame,
  need: TimedNeed,
  seat: Seat,
  refuses: (terms: Terms) => boolean,
  lift?: { pass: Mask; block: Mask },
): Mask {
  const plan = dayOfSeat(frame, seat);
  if (!plan.stretches.length && !lift) return EVERY_CELL;
  const judge = (isReleased: (stretch: Stretch) => boolean): Mask => {
    let blocked = refusing(plan, refuses, isReleased);
    if (lift && (lift.block !== NO_CELLS || blocked !== NO_CELLS)) blocked = or(andNot(blocked, lift.pass), lift.block);
    return startsInside(need, allBut(blocked));
  };
  if (!plan.releases) return judge(() => false);
  const limits = [
    ...new Set(plan.stretches.flatMap((stretch) => (stretch.release ? [stretch.release.beforeMin] : []))),
  ].sort((a, b) => a - b);
  let out = emptyMask();
  let from = 0;
  for (const limit of limits) {
    // Starts at most `limit` minutes from now: cells up to and including now + limit.
    const to = Math.max(from, Math.floor((frame.index.now + limit - frame.day.start) / CELL_MIN) + 1);
    out = or(
      out,
      and(
        rangeMask(from, to),
        judge((stretch) => (stretch.release?.beforeMin ?? -1) >= limit),
      ),
    );
    from = to;
  }
  return or(
    out,
    and(
      rangeMask(from, 320),
      judge(() => false),
    ),
  );
}

/** The terms in force at one cell for a start at another, for explaining. */
export function termsAt(
  frame: Frame,
  seat: Seat,
  cell: number,
  startCell: number,
): (Terms & { sourceId: string }) | null {
  const plan = dayOfSeat(frame, seat);
  const stretch = plan.stretches[plan.stretchOfCell[cell]];
  if (!stretch) return null;
  const notice = frame.day.start + startCell * CELL_MIN - frame.index.now;
  const terms = termsOf(stretch, stretch.release !== null && notice <= stretch.release.beforeMin);
  return { accepts: terms.accepts, online: terms.online, sourceId: stretch.sourceId };
}
