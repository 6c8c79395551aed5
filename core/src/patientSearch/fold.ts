/**
 * Letters that no Unicode decomposition takes apart, as people type them who don't have the key (as in the Latin-ASCII
 * transform of Unicode CLDR, from memory).
 */
const PLAIN: Readonly<Record<string, string>> = {
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ħ: 'h',
  ŧ: 't',
  ı: 'i',
  ŋ: 'n',
  // The last letter of a Greek word (CaseFolding.txt).
  ς: 'σ',
};
const UNLIKE = new RegExp(`[${Object.keys(PLAIN).join('')}]`, 'gu');

/**
 * Accents and points above and below letters. Signs that are letters of their own stay: vowels of Indic scripts, and the
 * two marks that turn one Japanese syllable into another.
 */
const ACCENTS = /(?![\u3099\u309a])(?=\p{Mn})[\p{Script=Inherited}\p{Script=Hebrew}]/gu;

// biome-ignore lint/suspicious/noControlCharactersInRegex: all of ASCII, whatever it is.
const ASCII = /^[\x00-\x7f]*$/;

/**
 * A word as it is compared: without case (Unicode full case folding) and accents, compatibility forms made plain.
 *
 * @example foldWord('Müller') and foldWord('MULLER') are 'muller'; foldWord('Łukasz') is 'lukasz'
 */
export function foldWord(text: string): string {
  // Most names: nothing of what follows changes plain letters.
  if (ASCII.test(text)) return text.toLowerCase();
  return (
    text
      .normalize('NFKD')
      // Up and down again: ß becomes ss, letters that differ only in form become one.
      .toLowerCase()
      .toUpperCase()
      .toLowerCase()
      .normalize('NFKD')
      .replace(ACCENTS, '')
      .replace(UNLIKE, (letter) => PLAIN[letter])
      .normalize('NFC')
  );
}

/** Letters and figures, in runs. Whatever else stands in a name only joins or parts them. */
const RUNS = /[\p{L}\p{N}\p{M}]+/gu;

/**
 * The words of a piece of text, folded; one that is written with a hyphen or an apostrophe is there in its parts and whole.
 *
 * @example wordsOf("Anne-Marie O'Brien") is anne, marie, annemarie, o, brien, obrien
 */
export function wordsOf(text: string): string[] {
  return text.split(/\s+/u).flatMap((chunk) => {
    const parts = (chunk.match(RUNS) ?? []).map(foldWord).filter(Boolean);
    return parts.length > 1 ? [...parts, parts.join('')] : parts;
  });
}

/** Scripts that are written without spaces between words. */
export function isUnspaced(word: string): boolean {
  return /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}ー]+$/u.test(word);
}
