/** Weight of a shared beginning and its longest counted length (Winkler 1990). */
const PREFIX_WEIGHT = 0.1;
const PREFIX_MOST = 4;
/** Only strings that are alike already are raised (as in the Census Bureau's `strcmp95`, from memory). */
const RAISED_FROM = 0.7;

/**
 * Likeness of two strings from 0 to 1: Jaro's measure (1989), raised for a shared beginning of up to four letters
 * (Winkler, "String Comparator Metrics and Enhanced Decision Rules in the Fellegi-Sunter Model", 1990).
 * @example jaroWinkler('MARTHA', 'MARHTA') is 0.961
 */
export function jaroWinkler(a: string, b: string): number {
  const one = [...a];
  const two = [...b];
  const jaro = jaroOf(one, two);
  if (jaro <= RAISED_FROM) return jaro;
  let prefix = 0;
  while (prefix < Math.min(PREFIX_MOST, one.length, two.length) && one[prefix] === two[prefix]) prefix++;
  return jaro + prefix * PREFIX_WEIGHT * (1 - jaro);
}

function jaroOf(a: readonly string[], b: readonly string[]): number {
  if (!a.length && !b.length) return 1;
  if (!a.length || !b.length) return 0;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const usedB = b.map(() => false);
  const matchedA: string[] = [];
  a.forEach((letter, i) => {
    for (let j = Math.max(0, i - reach); j <= Math.min(b.length - 1, i + reach); j++) {
      if (usedB[j] || b[j] !== letter) continue;
      usedB[j] = true;
      matchedA.push(letter);
      return;
    }
  });
  if (!matchedA.length) return 0;
  const matchedB = b.filter((_, j) => usedB[j]);
  // Half of the letters out of order, rounded down as the original program does.
  const transposed = Math.floor(matchedA.filter((letter, i) => letter !== matchedB[i]).length / 2);
  const m = matchedA.length;
  return (m / a.length + m / b.length + (m - transposed) / m) / 3;
}
