import { and, andNot, emptyMask, fullMask, hasCell, type Mask, or, orInto } from '../time/index.ts';
import type { Code } from './codes.ts';
import { type Frame, type SeatedNeed, type Seat, startsInside } from './frame.ts';
import type { MemberRule } from './rule.ts';
import { MEMBER_RULES } from './rules/index.ts';

/** What the member rules left of one need. */
export interface EvaluatedNeed {
  readonly need: SeatedNeed;
  /** Starts at which each member rule hides this need. */
  readonly hiddenBy: ReadonlyMap<Code, Mask>;
  /** Starts at which each seat is left; where a rule removed them all, those that stood before it. */
  readonly left: readonly { readonly seat: Seat; readonly starts: Mask }[];
}

/** Starts at which a seat passes a rule for a need. */
export function passes(rule: MemberRule, frame: Frame, need: SeatedNeed, seat: Seat): Mask {
  if (rule.judges === 'starts') return rule.passes(frame, need, seat);
  const { index, site, day, criteria } = frame;
  const plan = index.resourceDay(seat.resourceId, site.id, day.date);
  const full = () => index.fullCells(plan, day, criteria.ignoreVisitId ?? null);
  return startsInside(need, rule.cells({ plan, full }));
}

/** Rules that somebody with the right to it sets aside for one visit. */
export type Waived = readonly Code[];
export const NOTHING_WAIVED: Waived = [];

/** Whether a rule counts for this asker. */
export function binds(rule: { readonly binds: 'everyone' | 'online' }, frame: Frame): boolean {
  return rule.binds === 'everyone' || frame.criteria.channel !== 'desk';
}

/**
 * Runs the member rules over a need's seats in order, for all starts at once. A rule that would leave no seat is named
 * as a reason and then set aside, so that the next rule is asked about the same seats.
 *
 * For a fixed start this names exactly the rules that must all be lifted to free it. Suppose one named rule is not
 * lifted: the seats that reach it are the same as here, so it leaves none. (`search.test.ts` checks this on random
 * clinics.)
 */
export function evaluateNeed(frame: Frame, need: SeatedNeed, waived: Waived = NOTHING_WAIVED): EvaluatedNeed {
  const everyStart = fullMask(frame.day.cells);
  const hiddenBy = new Map<Code, Mask>();
  let left = need.seats.map((seat) => ({ seat, starts: everyStart }));
  if (!left.length) return { need, hiddenBy, left };
  for (const rule of MEMBER_RULES) {
    if (!binds(rule, frame) || waived.includes(rule.code)) continue;
    const after = left.map(({ seat, starts }) => and(starts, passes(rule, frame, need, seat)));
    const some = emptyMask();
    for (const starts of after) orInto(some, starts);
    const hidden = andNot(everyStart, some);
    hiddenBy.set(rule.code, hidden);
    left = left.map(({ seat, starts }, i) => ({ seat, starts: or(after[i], and(starts, hidden)) }));
  }
  return { need, hiddenBy, left };
}

/** The seats left for each need at one start. */
export function seatsLeft(judged: readonly EvaluatedNeed[], cell: number): Seat[][] {
  return judged.map(({ left }) => left.filter(({ starts }) => hasCell(starts, cell)).map(({ seat }) => seat));
}
