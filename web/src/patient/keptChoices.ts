import type { ChoicesState } from './features/booking/choices.slice.ts';

const KEY = 'zaguan.booking';
/** A time is held for less; whoever comes back later begins anew. */
const MAX_AGE_MS = 30 * 60_000;

/**
 * What was chosen and typed before a phone reloaded the tab; `like` where there is nothing, or nothing of use. It is kept
 * in this tab alone and goes with it.
 */
export function keptChoices(like: ChoicesState): ChoicesState {
  try {
    const found = JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as { at: number; choices: ChoicesState } | null;
    if (!found || Date.now() - found.at > MAX_AGE_MS || typeof found.choices?.typed !== 'object') return like;
    // An older page may have kept other things: what this one does not know is left out, what it lacks is as at first.
    const known = Object.keys(like).filter((key) => key in found.choices) as (keyof ChoicesState)[];
    return { ...like, ...Object.fromEntries(known.map((key) => [key, found.choices[key]])) };
  } catch {
    return like;
  }
}

/** Keeps them, or forgets them where nothing is chosen. */
export function keepChoices(choices: ChoicesState, isEmpty: boolean): void {
  try {
    if (isEmpty) sessionStorage.removeItem(KEY);
    else sessionStorage.setItem(KEY, JSON.stringify({ at: Date.now(), choices }));
  } catch {
    // A browser that keeps nothing still has the page itself.
  }
}
