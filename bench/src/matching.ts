import { jaroWinkler } from '@zaguan/core/matching';
import { FAMILY, GIVEN } from '@zaguan/demo/names';
import { makeRandom } from '@zaguan/demo/random';
// @ts-expect-error talisman ships no types
import theirs from 'talisman/metrics/jaro-winkler.js';
import { inTurn, type Result, rounded } from './measure.ts';

const PAIRS = 200_000;

/** Likeness of two names: nanoseconds a pair, against `talisman`. */
export async function match(): Promise<Result> {
  const random = makeRandom(7);
  const names = [...GIVEN, ...FAMILY].map((name) => name.toUpperCase());
  const pairs = Array.from({ length: PAIRS }, () => [random.pick(names), random.pick(names)] as const);
  const peer = theirs as (a: string, b: string) => number;
  const worst = pairs
    .slice(0, 5000)
    .reduce((max, [a, b]) => Math.max(max, Math.abs(jaroWinkler(a, b) - peer(a, b))), 0);
  if (worst > 1e-9) throw new Error(`The likenesses differ by up to ${worst}.`);
  let sum = 0;
  const all = (likeness: (a: string, b: string) => number) => () => {
    for (const [a, b] of pairs) sum += likeness(a, b);
  };
  const ms = inTurn({ ours: all(jaroWinkler), theirs: all(peer) }, { rounds: 11 });
  if (!(sum > 0)) throw new Error('Nothing was compared.');
  return {
    ratio: rounded(ms.theirs / ms.ours),
    nsAPair: rounded((ms.ours * 1e6) / PAIRS),
    unit: 'times as fast',
    peer: 'talisman, Jaro-Winkler',
    n: PAIRS,
  };
}
