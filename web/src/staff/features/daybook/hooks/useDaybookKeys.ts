import type { Axis, ViewSettings } from '@zaguan/contracts/daybook';
import { type KeyboardEvent as ReactKeyboardEvent, useEffect } from 'react';
import { prefs } from '../../../prefs.slice.ts';
import { useAppDispatch, useAppSelector } from '../../../store.ts';

/** Where one types, a letter is a letter. */
const TYPES = 'input, select, textarea, [contenteditable], [role="menu"], [role="dialog"]';

/** The keys of the Daybook, as the Lens lists them. */
export const KEYS = { back: ',', on: '.', today: 't', book: 'b', wider: '+', narrower: '-', names: 'h' } as const;

export const KEY_LIST = Object.entries(KEYS) as [keyof typeof KEYS, string][];

/** Opens the list of keys. */
export const KEYS_HELP = '?';

/** Whether a key that was pressed belongs to where one types, or to the browser. */
export function isTyped({ ctrlKey, metaKey, altKey, target }: KeyboardEvent): boolean {
  return ctrlKey || metaKey || altKey || (target instanceof Element && target.closest(TYPES) !== null);
}

/**
 * Days, width, hidden names and Lenses by single keys; none while one types, none with a modifier, none where they are
 * turned off.
 *
 * @param view as it is drawn now
 * @param viewKeys what the number keys do
 */
export function useDaybookKeys(
  { back, on, today, book }: Record<'back' | 'on' | 'today' | 'book', () => void>,
  { zoom, namesHidden }: Pick<ViewSettings, 'zoom' | 'namesHidden'>,
  viewKeys: Readonly<Record<string, () => void>>,
): void {
  const dispatch = useAppDispatch();
  const { letterKeys } = useAppSelector((state) => state.prefs);
  useEffect(() => {
    if (!letterKeys) return;
    const acts: Record<string, () => void> = {
      ...viewKeys,
      [KEYS.back]: back,
      [KEYS.on]: on,
      [KEYS.today]: today,
      [KEYS.book]: book,
      [KEYS.wider]: () => dispatch(prefs.actions.zoomed({ from: zoom, by: 1 })),
      '=': () => dispatch(prefs.actions.zoomed({ from: zoom, by: 1 })),
      [KEYS.narrower]: () => dispatch(prefs.actions.zoomed({ from: zoom, by: -1 })),
      [KEYS.names]: () => dispatch(prefs.actions.hidNames(!namesHidden)),
    };
    const pressed = (event: KeyboardEvent) => {
      const act = isTyped(event) ? undefined : acts[event.key];
      if (!act) return;
      // What it opens takes the focus: the key itself is not typed there.
      event.preventDefault();
      act();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  });
}

const STEPS: Record<string, { along: 'x' | 'y'; sign: 1 | -1 }> = {
  ArrowLeft: { along: 'x', sign: -1 },
  ArrowRight: { along: 'x', sign: 1 },
  ArrowUp: { along: 'y', sign: -1 },
  ArrowDown: { along: 'y', sign: 1 },
};

/** An arrow key on a plate goes to the nearest plate in that direction: along the lane, or over to another one. */
export function movesAmongPlates(event: ReactKeyboardEvent<HTMLElement>, axis: Axis): void {
  const step = STEPS[event.key];
  const from = event.target instanceof Element && event.target.closest<HTMLElement>('[data-plate]');
  if (!step || !from) return;
  event.preventDefault();
  const here = from.getBoundingClientRect();
  let best: HTMLElement | null = null;
  let min = Number.POSITIVE_INFINITY;
  for (const plate of event.currentTarget.querySelectorAll<HTMLElement>('[data-plate]:not(:disabled)')) {
    if (plate === from) continue;
    const there = plate.getBoundingClientRect();
    const dx = there.left - here.left;
    const dy = there.top - here.top;
    const [ahead, aside] = step.along === 'x' ? [dx * step.sign, Math.abs(dy)] : [dy * step.sign, Math.abs(dx)];
    if (ahead <= 0) continue;
    // Along the lane first: who is aside by a lane is further than anyone on it.
    const isAlong = (step.along === 'x') === (axis === 'across');
    const far = isAlong ? ahead + aside * 1000 : ahead * 4 + aside;
    if (far < min) {
      min = far;
      best = plate;
    }
  }
  best?.focus();
}
