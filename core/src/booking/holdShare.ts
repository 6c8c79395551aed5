/** A hold of somebody whose number or address is not proved yet. */
export interface UnprovedHold {
  readonly id: string;
  /** Whoever may be one source: a household's or company's connection. */
  readonly caller: string;
  /** Minutes of a provider (or of the visit, where none is needed) that it keeps. */
  readonly minutes: number;
  /** When it was made, in milliseconds. */
  readonly since: number;
}

/** Unproved holds keep at most this share of what is still open on a site's day before they shorten and give way. */
export const MAX_UNPROVED_SHARE = 0.1;
/** A small site has short days: two may be at it at once anywhere. */
const MIN_UNPROVED_HOLDS = 2;
/** Minutes that a hold lives, and that it lives while the share is used up. */
export const HOLD_MINUTES = 10;
export const SHORT_HOLD_MINUTES = 3;

export interface HoldDecision {
  readonly minutes: number;
  /** Holds that end so that this one can be. */
  readonly giveWay: readonly string[];
}

/**
 * Judges a new unproved hold on a site's day. Within the share it lives ten minutes. Beyond it, it lives three, and the
 * oldest hold of whoever keeps most there gives way: however many holds are made from however many addresses, nine
 * tenths of what is open stay free for everybody else, and nobody is kept from holding a time at all.
 *
 * @param live unproved holds on that site's day now
 * @param openMinutes minutes of providers there on that day that no visit takes
 */
export function decideUnprovedHold(
  live: readonly UnprovedHold[],
  wanted: { readonly caller: string; readonly minutes: number },
  openMinutes: number,
): HoldDecision {
  const limit = openMinutes * MAX_UNPROVED_SHARE;
  let left = [...live].sort((a, b) => a.since - b.since || (a.id < b.id ? -1 : 1));
  const isOver = () =>
    left.length >= MIN_UNPROVED_HOLDS && left.reduce((sum, { minutes }) => sum + minutes, wanted.minutes) > limit;
  const over = isOver();
  const giveWay: string[] = [];
  while (isOver()) {
    const holdsOf = new Map<string, number>([[wanted.caller, 1]]);
    for (const { caller } of left) holdsOf.set(caller, (holdsOf.get(caller) ?? 0) + 1);
    const max = Math.max(...left.map(({ caller }) => holdsOf.get(caller) ?? 0));
    const greediest = left.find(({ caller }) => holdsOf.get(caller) === max);
    if (!greediest) break;
    giveWay.push(greediest.id);
    left = left.filter((hold) => hold !== greediest);
  }
  return { minutes: over ? SHORT_HOLD_MINUTES : HOLD_MINUTES, giveWay };
}
