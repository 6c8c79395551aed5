import { chooseSeats } from '../chooseSeats.ts';
import type { Frame } from '../frame.ts';
import type { JointRule } from '../rule.ts';

function overlapInTime(a: Frame['needs'][number], b: Frame['needs'][number]): boolean {
  return a.fromCell < b.fromCell + b.lengthCells && b.fromCell < a.fromCell + a.lengthCells;
}

/** Each need could be met alone, but no choice of resources meets all: bound parts, or one resource wanted twice at once. */
export const neverTogether: JointRule = {
  code: 'never-together',
  scope: 'joint',
  binds: 'everyone',
  concerns: ({ needs }) =>
    needs.some((need) => need.need.sameAs || need.need.differentFrom) ||
    needs.some((a, i) =>
      needs
        .slice(i + 1)
        .some((b) => overlapInTime(a, b) && a.seats.some((x) => b.seats.some((y) => x.resourceId === y.resourceId))),
    ),
  // A need without any seat is for `not-performed` to name; the others are still judged together.
  served: (frame, cell, left) => {
    const { needs } = frame;
    const seated = needs.map((_, i) => i).filter((i) => needs[i].seats.length > 0);
    const [some, seats] = [seated.map((i) => needs[i]), seated.map((i) => left[i])];
    return chooseSeats(frame, some, cell, seats) !== null;
  },
  facts: ({ needs }) => [{ needs: needs.map((need) => need.need.key) }],
};
