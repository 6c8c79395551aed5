/** What a patient's answer to a text message means. */
export type Reply = 'confirm' | 'stop' | 'other';

/** Yes in a word or a figure, as the messages ask for it. */
const CONFIRM = new Set(['y', 'yes', '1', 'ok', 'c', 'confirm', 's', 'si', 'confirmar', 'confirmo']);

/**
 * Words that revoke consent. English as 47 CFR 64.1200(a)(10) lists them (from memory); Spanish is common practice.
 * "Cancel" is among them: it stops the messages, and the answer says how to cancel the visit instead.
 */
const STOP = new Set([
  'stop',
  'quit',
  'end',
  'revoke',
  'opt out',
  'optout',
  'cancel',
  'unsubscribe',
  'stopall',
  'stop all',
  'alto',
  'parar',
  'para',
  'basta',
  'detener',
  'cancelar',
  'salir',
  'baja',
  'no mas',
]);

/** Reads a reply by itself: case, accents, quotes, hyphens and closing marks do not matter. More words are for a person to read. */
export function readReply(text: string): Reply {
  const clean = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/["'“”‘’.!¡?¿,]/g, '')
    .replace(/[-‐‑–—_]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  if (STOP.has(clean)) return 'stop';
  return CONFIRM.has(clean) ? 'confirm' : 'other';
}
