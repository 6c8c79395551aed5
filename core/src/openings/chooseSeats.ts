import type { Frame, SeatedNeed, Seat } from './frame.ts';

function sameSeat(a: Seat, b: Seat): boolean {
  return a.resourceId === b.resourceId && a.place === b.place;
}

function fits(needs: readonly SeatedNeed[], chosen: readonly (Seat | undefined)[], at: number, seat: Seat): boolean {
  const mine = needs[at];
  return needs.every((other, i) => {
    const taken = chosen[i];
    if (i === at || !taken) return true;
    const bound = (a: SeatedNeed, b: SeatedNeed) => ({
      same: a.need.sameAs === b.need.key,
      different: a.need.differentFrom === b.need.key,
    });
    const one = bound(mine, other);
    const two = bound(other, mine);
    if ((one.same || two.same) && taken.resourceId !== seat.resourceId) return false;
    if ((one.different || two.different) && taken.resourceId === seat.resourceId) return false;
    const overlap =
      mine.fromCell < other.fromCell + other.lengthCells && other.fromCell < mine.fromCell + mine.lengthCells;
    return !(overlap && sameSeat(taken, seat));
  });
}

/**
 * Picks one seat for each need so that bound parts agree and no seat serves two needs at once, or `null`. Needs with
 * the fewest seats are settled first; among seats the order given is the order of preference.
 *
 * @param left for each of the frame's needs, the seats that are free, best first
 */
export function chooseSeats(frame: Pick<Frame, 'needs'>, left: readonly (readonly Seat[])[]): Seat[] | null {
  const { needs } = frame;
  const order = needs.map((_, i) => i).sort((a, b) => left[a].length - left[b].length);
  const chosen: (Seat | undefined)[] = needs.map(() => undefined);
  const settle = (step: number): boolean => {
    if (step === order.length) return true;
    const at = order[step];
    for (const seat of left[at]) {
      if (!fits(needs, chosen, at, seat)) continue;
      chosen[at] = seat;
      if (settle(step + 1)) return true;
      chosen[at] = undefined;
    }
    return false;
  };
  return settle(0) ? (chosen as Seat[]) : null;
}
