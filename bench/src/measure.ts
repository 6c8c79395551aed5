/** The median of some figures. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** The p-th part of some figures, 0 to 1, e.g. 0.95. */
export function percentile(values: readonly number[], p: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.ceil(p * sorted.length) - 1)];
}

/**
 * Milliseconds of several pieces of work, taken in turn so that a busy moment of the machine meets all of them:
 * the median of `rounds`, after as many rounds unmeasured as let the compiler settle.
 */
export function inTurn<K extends string>(
  work: Record<K, () => unknown>,
  { rounds, warm = 3 }: { rounds: number; warm?: number },
): Record<K, number> {
  const names = Object.keys(work) as K[];
  const times = new Map<K, number[]>(names.map((name) => [name, []]));
  for (let round = -warm; round < rounds; round++) {
    for (const name of names) {
      const start = performance.now();
      work[name]();
      if (round >= 0) times.get(name)?.push(performance.now() - start);
    }
  }
  return Object.fromEntries(names.map((name) => [name, median(times.get(name) ?? [])])) as Record<K, number>;
}

/** Rounds to what a ratio can honestly say. */
export function rounded(value: number): number {
  return Number(value.toPrecision(3));
}

/** What a benchmark prints: figures by name, in the unit of the ratio, against whom, over how much. */
export interface Result {
  readonly [figure: string]: number | string;
  readonly peer: string;
}
