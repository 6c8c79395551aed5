import type { Frame, SeatedNeed, Seat } from './frame.ts';

function covers(need: SeatedNeed, cell: number): boolean {
  return need.fromCell <= cell && cell < need.fromCell + need.lengthCells;
}

function agree(a: SeatedNeed, b: SeatedNeed, same: boolean): boolean {
  if (a.need.sameAs === b.need.key && !same) return false;
  return !(a.need.differentFrom === b.need.key && same);
}

/**
 * Picks one seat for each need so that bound parts agree and needs at the same time find places enough, or `null`.
 * Needs with the fewest seats are settled first; among seats the order given is the order of preference.
 *
 * @param needs all or some of the frame's
 * @param cell the start
 * @param left for each of the needs, the seats that are free, best first
 */
export function chooseSeats(
  frame: Frame,
  needs: readonly SeatedNeed[],
  cell: number,
  left: readonly (readonly Seat[])[],
): Seat[] | null {
  const order = needs.map((_, i) => i).sort((a, b) => left[a].length - left[b].length);
  const chosen: (Seat | undefined)[] = needs.map(() => undefined);
  const fits = (at: number, seat: Seat): boolean => {
    const mine = needs[at];
    const beside: SeatedNeed[] = [];
    for (const [i, other] of needs.entries()) {
      const taken = chosen[i];
      if (i === at || !taken) continue;
      const same = taken.resourceId === seat.resourceId;
      if (!agree(mine, other, same) || !agree(other, mine, same)) return false;
      if (same) beside.push(other);
    }
    for (let c = mine.fromCell; beside.length && c < mine.fromCell + mine.lengthCells; c++) {
      const others = beside.filter((need) => covers(need, c)).length;
      if (others > 0 && frame.placesLeft(seat)[cell + c] <= others) return false;
    }
    return true;
  };
  const settle = (step: number): boolean => {
    if (step === order.length) return true;
    const at = order[step];
    for (const seat of left[at]) {
      if (!fits(at, seat)) continue;
      chosen[at] = seat;
      if (settle(step + 1)) return true;
      chosen[at] = undefined;
    }
    return false;
  };
  return settle(0) ? (chosen as Seat[]) : null;
}
