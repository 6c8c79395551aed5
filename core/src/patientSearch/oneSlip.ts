/** Words shorter than this are not forgiven a slip: too much would be alike. */
export const SLIP_FROM_LETTERS = 4;

/**
 * Whether one slip of the finger leads from one word to the other: a letter too many, too few, another one, or two
 * neighbors in each other's place (Damerau, "A technique for computer detection and correction of spelling errors",
 * CACM 1964). Equal words are no slip.
 */
export function isOneSlip(typed: string, word: string): boolean {
  const a = [...typed];
  const b = [...word];
  if (a.length < SLIP_FROM_LETTERS || Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && start < b.length && a[start] === b[start]) start++;
  let endA = a.length;
  let endB = b.length;
  while (endA > start && endB > start && a[endA - 1] === b[endB - 1]) {
    endA--;
    endB--;
  }
  const [onlyA, onlyB] = [endA - start, endB - start];
  if (onlyA + onlyB === 0) return false;
  if (onlyA <= 1 && onlyB <= 1) return true;
  return onlyA === 2 && onlyB === 2 && a[start] === b[start + 1] && a[start + 1] === b[start];
}

/**
 * A word whole and with each of its letters left out in turn: two words that are one slip apart have one of these in
 * common, so that such words can be looked up (the symmetric deletions of a deletion neighborhood; common practice).
 */
export function gapsOf(word: string): string[] {
  const letters = [...word];
  return [...new Set([word, ...letters.map((_, i) => letters.toSpliced(i, 1).join(''))])];
}
