/** A stretch on any one scale of time. */
interface Stretch {
  readonly start: number;
  readonly end: number;
}

/** What already has a place. */
interface Placed extends Stretch {
  readonly place: number;
}

/** What wants one, out of so many. */
interface Wanted extends Stretch {
  readonly places: number;
}

/** A place for each new stretch, and the old ones that must change theirs to make that possible. */
export interface GivenPlaces<T> {
  readonly places: readonly number[];
  readonly changed: readonly { readonly row: T; readonly place: number }[];
}

/**
 * Gives each new stretch a place of a resource that takes several at once. Nothing changes its place if it can be
 * helped; else places are given out anew, which takes as many as there are stretches at once and no more: from the
 * earliest start on, each gets the lowest place that is free (interval partitioning; Kleinberg and Tardos, *Algorithm
 * Design*, section 4.1, from memory). So none gets a higher one than there are at its start.
 *
 * @param placed all that lie over a new one, or over one that does, and so on
 * @param tooMany where there is no room, the new one gets a place beyond those there are, and nothing changes its place
 */
export function givePlaces<T extends Placed>(
  placed: readonly T[],
  wanted: readonly Wanted[],
  tooMany = false,
): GivenPlaces<T> {
  const given: Placed[] = [...placed];
  const places = wanted.map((stretch) => {
    const place = lowestFree(given, stretch);
    given.push({ ...spanOf(stretch), place });
    return place;
  });
  if (tooMany || places.every((place, i) => place < wanted[i].places)) return { places, changed: [] };
  return anew(placed, wanted);
}

function anew<T extends Placed>(placed: readonly T[], wanted: readonly Wanted[]): GivenPlaces<T> {
  const all = [
    ...placed.map((row) => ({ row, at: -1, ...spanOf(row) })),
    ...wanted.map((row, at) => ({ row: null, at, ...spanOf(row) })),
  ];
  all.sort((a, b) => a.start - b.start);
  const given: Placed[] = [];
  const places: number[] = wanted.map(() => 0);
  const changed: { row: T; place: number }[] = [];
  for (const { row, at, start, end } of all) {
    const place = lowestFree(given, { start, end });
    given.push({ start, end, place });
    if (!row) places[at] = place;
    else if (row.place !== place) changed.push({ row, place });
  }
  return { places, changed };
}

const spanOf = ({ start, end }: Stretch) => ({ start, end });

function lowestFree(given: readonly Placed[], { start, end }: Stretch): number {
  const taken = new Set(given.filter((row) => row.start < end && row.end > start).map(({ place }) => place));
  let place = 0;
  while (taken.has(place)) place++;
  return place;
}
