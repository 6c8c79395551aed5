/** Longest part of a name kept; longer is a slip (a paste), and is refused rather than cut. */
export const MAX_NAME_LENGTH = 100;

export type NameProblem = 'empty' | 'too-long' | 'no-letters';

/**
 * Tidies one part of a name as typed: outer and double spaces go, nothing else changes (no capitals are invented).
 * Any script is welcome; a name of one word is a given name with the family name left empty.
 */
export function readNamePart(
  text: string,
): { readonly ok: true; readonly name: string } | { readonly ok: false; readonly problem: NameProblem } {
  const name = withoutUnseen(text.normalize('NFC')).replace(/\s+/gu, ' ').trim();
  if (!name) return { ok: false, problem: 'empty' };
  if ([...name].length > MAX_NAME_LENGTH) return { ok: false, problem: 'too-long' };
  if (!/\p{L}/u.test(name)) return { ok: false, problem: 'no-letters' };
  return { ok: true, name };
}

/** Given and family name as shown; either may be missing. */
export function fullName(given: string | null, family: string | null): string {
  return [given, family].filter(Boolean).join(' ');
}

/** "Yamamoto W.": the family name and the first letter of the given one, as a crowded list shows a person. */
export function shortName(given: string | null, family: string | null): string {
  if (!given || !family) return fullName(given, family);
  return `${family} ${([...given][0] ?? '').toLocaleUpperCase('en-US')}.`;
}

/** "Yamamoto, Wren": the whole name, family name first, where a list is read by family names. */
export function familyFirst(given: string | null, family: string | null): string {
  return [family, given].filter(Boolean).join(', ');
}

/** Marks that turn the direction of what follows (Unicode Bidi_Control), and spaces without width. */
const UNSEEN = /[\u061c\u200b\u200e\u200f\u2028-\u202e\u2060-\u206f\ufeff]/gu;
/** Joiners change letters in these scripts; elsewhere they only make two names look like one. */
const LONE_JOINER =
  /(?<![\p{Script=Arabic}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Gujarati}\p{Script=Gurmukhi}\p{Script=Kannada}\p{Script=Malayalam}\p{Script=Oriya}\p{Script=Sinhala}\p{Script=Tamil}\p{Script=Telugu}\p{M}])[\u200c\u200d]/gu;

/** Control characters (Unicode Cc) but for white space, which becomes a space. */
const CONTROL = /[^\P{Cc}\t\n\r]/gu;

/** Without what nobody can see: it would show one name and keep another. */
function withoutUnseen(text: string): string {
  return text.replace(CONTROL, '').replace(UNSEEN, '').replace(LONE_JOINER, '');
}

/** What stands in the place of a name that the reader may not see. */
export function restrictedName(given: string | null, family: string | null): string {
  return `Restricted ${initialsOf(given, family)}`.trim();
}

/** First letters of a name, e.g. "MG". */
export function initialsOf(given: string | null, family: string | null): string {
  return [given, family]
    .map((part) => (part ? ([...part][0] ?? '') : ''))
    .join('')
    .toLocaleUpperCase('en-US');
}
