import { type Fit, type Findable, foldWord, nameWords } from '../src/patientSearch/index.ts';

/** Edit distance with neighbors changed (optimal string alignment), by its full table. */
function distance(a: string, b: string): number {
  const [one, two] = [[...a], [...b]];
  const d = Array.from({ length: one.length + 1 }, (_, i) =>
    Array.from({ length: two.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  for (let i = 1; i <= one.length; i++)
    for (let j = 1; j <= two.length; j++) {
      const same = one[i - 1] === two[j - 1] ? 0 : 1;
      d[i][j] = Math.min(d[i - 1][j] + 1, d[i][j - 1] + 1, d[i - 1][j - 1] + same);
      if (i > 1 && j > 1 && one[i - 1] === two[j - 2] && one[i - 2] === two[j - 1])
        d[i][j] = Math.min(d[i][j], d[i - 2][j - 2] + 1);
    }
  return d[one.length][two.length];
}

/** Every way to put each of some things on another place. */
function* placings(count: number, places: number, taken: readonly number[] = []): Generator<readonly number[]> {
  if (taken.length === count) {
    yield taken;
    return;
  }
  for (let place = 0; place < places; place++)
    if (!taken.includes(place)) yield* placings(count, places, [...taken, place]);
}

/**
 * How well words alone find a patient, by trying everything: each way to put the words on the patient's is judged as the
 * specification says it, and the best one counts.
 */
export function fitByTrying(typed: readonly string[], patient: Findable): Fit | null {
  const words = nameWords(patient);
  const order: Fit[] = ['exact', 'prefix', 'swapped', 'slip'];
  let best: Fit | null = null;
  for (const places of placings(typed.length, words.length)) {
    const fits = typed.map((each, i): Fit | null => {
      const { word } = words[places[i]];
      const folded = foldWord(each);
      if (folded === word) return 'exact';
      if (word.startsWith(folded)) return 'prefix';
      return [...folded].length >= 4 && distance(folded, word) === 1 ? 'slip' : null;
    });
    if (fits.includes(null)) continue;
    const fields = places.map((place) => words[place].field);
    const swapped = fields.some((field, i) => field === 'family' && fields.slice(i + 1).includes('given'));
    const all = [...(fits as Fit[]), ...(swapped ? (['swapped'] as const) : [])];
    const worst = order[Math.max(...all.map((fit) => order.indexOf(fit)))];
    if (best === null || order.indexOf(worst) < order.indexOf(best)) best = worst;
  }
  return best;
}
