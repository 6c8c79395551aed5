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
  const one = lettersOf(a);
  const two = lettersOf(b);
  const jaro = jaroOf(one, two);
  if (jaro <= RAISED_FROM) return jaro;
  let prefix = 0;
  while (prefix < Math.min(PREFIX_MOST, one.length, two.length) && one[prefix] === two[prefix]) prefix++;
  return jaro + prefix * PREFIX_WEIGHT * (1 - jaro);
}

function jaroOf(a: readonly number[], b: readonly number[]): number {
  if (!a.length && !b.length) return 1;
  if (!a.length || !b.length) return 0;
  const reach = Math.max(0, Math.floor(Math.max(a.length, b.length) / 2) - 1);
  const usedB: boolean[] = [];
  const matchedA: number[] = [];
  for (let i = 0; i < a.length; i++) {
    const last = Math.min(b.length - 1, i + reach);
    for (let j = Math.max(0, i - reach); j <= last; j++) {
      if (usedB[j] || b[j] !== a[i]) continue;
      usedB[j] = true;
      matchedA.push(a[i]);
      break;
    }
  }
  const m = matchedA.length;
  if (!m) return 0;
  let outOfOrder = 0;
  for (let j = 0, at = 0; j < b.length; j++) if (usedB[j] && b[j] !== matchedA[at++]) outOfOrder++;
  // Half of the letters out of order, rounded down as the original program does.
  const transposed = Math.floor(outOfOrder / 2);
  return (m / a.length + m / b.length + (m - transposed) / m) / 3;
}

/** The letters as code points, so that a letter outside the first plane counts once. */
function lettersOf(text: string): number[] {
  const letters: number[] = [];
  for (let i = 0; i < text.length; i++) {
    const letter = text.codePointAt(i) ?? 0;
    if (letter > 0xffff) i++;
    letters.push(letter);
  }
  return letters;
}
