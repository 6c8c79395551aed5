import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

/** Longer ones are judged by their beginning: judging takes longer with every character. */
const MAX_JUDGED = 64;
/** Of 0 to 4; below it a password falls within ten billion guesses (the estimate of Wheeler, USENIX Security 2016, from memory). */
const MIN_SCORE = 3;

let judge: ZxcvbnFactory | null = null;

/**
 * Whether a password is one that guessers try first: from the list of common ones that ships, a repetition, a row of
 * keys, or made of what is known of its owner. NIST SP 800-63B revision 4 asks for such a list (from memory).
 *
 * @param known words that say who it is: name, e-mail, clinic
 */
export function isCommonPassword(password: string, known: readonly string[]): boolean {
  judge ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const words = known
    .map((text) => text.toLowerCase())
    .flatMap((text) => [text, text.replace(/[^\p{L}\p{N}]+/gu, ''), ...text.split(/[^\p{L}\p{N}]+/u)])
    .filter((word) => word.length > 2);
  return judge.check(password.slice(0, MAX_JUDGED), words).score < MIN_SCORE;
}
