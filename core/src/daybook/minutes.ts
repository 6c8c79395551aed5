/** A stretch of time in minutes on whatever clock; `to` is not part of it. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** The same minutes as stretches that neither overlap nor touch, in order. */
function joined(stretches: readonly Stretch[]): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = [];
  for (const { from, to } of stretches.filter((each) => each.to > each.from).sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else out.push({ from, to });
  }
  return out;
}

/** How many minutes the stretches cover; one that several cover counts once. */
export function minutesOf(stretches: readonly Stretch[]): number {
  return joined(stretches).reduce((sum, { from, to }) => sum + to - from, 0);
}

/** How many of their minutes none of the others covers. */
export function minutesWithout(stretches: readonly Stretch[], others: readonly Stretch[]): number {
  // What both cover together, less what the others cover alone.
  return minutesOf([...stretches, ...others]) - minutesOf(others);
}
