import { isGsm } from './smsParts.ts';

/** What makes a text message cost double, and how the same can be written without it. */
export interface NonGsmLetters {
  /** Each once, in the order of their coming. */
  readonly letters: readonly string[];
  /** The same text in the alphabet of text messages; `null` where nobody can say how. */
  readonly instead: string | null;
}

/** Signs that programs put in by themselves, as they were typed. */
const PLAIN: Record<string, string> = {
  '‘': "'",
  '’': "'",
  '‚': "'",
  '`': "'",
  '´': "'",
  '“': '"',
  '”': '"',
  '„': '"',
  '«': '"',
  '»': '"',
  '–': '-',
  '—': '-',
  '‐': '-',
  '‑': '-',
  '−': '-',
  '…': '...',
  '·': '-',
  '•': '-',
  '®': '(R)',
  '™': '(TM)',
  '\u00a0': ' ',
  '\u202f': ' ',
};

/**
 * Letters of a text that are not in the alphabet of text messages (3GPP TS 23.038): one of them makes a message take 70
 * letters instead of 160. Accents that are not in it are left away; é, ñ and ü are.
 *
 * @returns `null` if there are none
 */
export function nonGsmLetters(text: string): NonGsmLetters | null {
  const letters = [...new Set([...text.normalize('NFC')].filter((letter) => !isGsm(letter)))];
  if (!letters.length) return null;
  const plain = [...text.normalize('NFC')].map(plainLetter).join('');
  return { letters, instead: isGsm(plain) ? plain : null };
}

function plainLetter(letter: string): string {
  if (isGsm(letter)) return letter;
  return PLAIN[letter] ?? letter.normalize('NFD').replace(/\p{M}/gu, '');
}
