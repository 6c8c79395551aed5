import { smsLength } from '../messages/index.ts';

/** What is filled in for each patient. */
export const PLACEHOLDERS = ['clinic', 'name', 'link', 'phone'] as const;
export type Placeholder = (typeof PLACEHOLDERS)[number];

const ANY_PLACEHOLDER = /\{([^{}]*)\}/g;

export type WordsFault =
  | { readonly code: 'no-link' }
  /** Something in braces that nothing is filled in for. */
  | { readonly code: 'unknown-placeholder'; readonly name: string };

/** What is wrong with the words of an invitation; `null`: nothing. Whoever gets it without a link could do nothing with it. */
export function faultOfWords(text: string): WordsFault | null {
  for (const [, name] of text.matchAll(ANY_PLACEHOLDER))
    if (!(PLACEHOLDERS as readonly string[]).includes(name)) return { code: 'unknown-placeholder', name };
  return text.includes('{link}') ? null : { code: 'no-link' };
}

/** Fills in what is given and leaves the rest: the link comes last, when the message is handed over. */
export function fillWords(text: string, facts: Readonly<Partial<Record<Placeholder, string>>>): string {
  return text.replace(ANY_PLACEHOLDER, (whole, name: Placeholder) => facts[name] ?? whole);
}

/**
 * The end of every invitation by text message: how to get no more of them. Required of health care messages by
 * 47 CFR 64.1200(a)(9)(iv)(E)–(G), sections from memory. Letters of the GSM alphabet.
 */
export const TEXT_ENDING = { en: 'STOP to opt out.', es: 'ALTO para no recibir textos.' } as const;

/** The whole text message; the opt-out is there once, whoever wrote it. */
export function textOf(words: string, language: 'en' | 'es'): string {
  const stop = language === 'en' ? /\bSTOP\b/ : /\bALTO\b/;
  return stop.test(words) ? words : `${words.trimEnd()} ${TEXT_ENDING[language]}`;
}

/** How many parts a text message takes with its link filled in (TS 23.038). */
export function partsOf(text: string, linkLength: number): number {
  return smsLength(text.replace('{link}', 'x'.repeat(linkLength))).parts;
}
