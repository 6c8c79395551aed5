/** Control characters but for tab and line ends: no text of ours has them, and PostgreSQL keeps no NUL. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/;
/** Half of a character: with the flag `u`, a pair is one character and not found. */
const BROKEN = /\p{Surrogate}/u;
const MAX_DEPTH = 40;

/**
 * Texts of an input that can't be kept or shown: control characters, and halves of a character (lone surrogates). Asked
 * once for every text of every endpoint, keys included.
 *
 * @returns where they are, and of which kind
 */
export function unusableTexts(value: unknown, path: readonly PropertyKey[] = []): { path: string; code: string }[] {
  if (typeof value === 'string') {
    const code = CONTROL.test(value) ? 'control-character' : BROKEN.test(value) ? 'broken-character' : null;
    return code ? [{ path: path.join('.'), code }] : [];
  }
  if (typeof value !== 'object' || value === null) return [];
  if (path.length > MAX_DEPTH) return [{ path: path.slice(0, 3).join('.'), code: 'too-deep' }];
  return Object.entries(value).flatMap(([key, inner]) => [
    ...unusableTexts(key, path).map(({ code }) => ({ path: path.join('.'), code })),
    ...unusableTexts(inner, [...path, key]),
  ]);
}
