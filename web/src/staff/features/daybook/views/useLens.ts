import type { DaybookView, ViewSettings } from '@zaguan/contracts/daybook';
import { useMemo } from 'react';
import type { useDaybookAddress } from '../hooks/useDaybookAddress.ts';
import { useDaybookView } from './useDaybookView.ts';

/** The key that draws the standard Lens. */
export const STANDARD_KEY = '0';

/** The Lens of a page of the Daybook, with what its address asks for besides. */
export function useLens({ lanes, onlyWorking, allHours, choose: set }: ReturnType<typeof useDaybookAddress>) {
  const { settings, choose: chooseView, ...lens } = useDaybookView();
  const view: ViewSettings = useMemo(
    () => ({
      ...settings,
      // Whoever asks for rooms asks for all of them, whatever the Lens lists by name.
      ...(lanes !== null && { lanes, only: null }),
      ...(onlyWorking !== null && { inUseOnly: onlyWorking }),
      ...(allHours && { hours: 'usual' as const }),
    }),
    [settings, lanes, onlyWorking, allHours],
  );
  const choose = (to: Pick<DaybookView, 'id'> | null) => {
    chooseView(to);
    set.asLens();
  };
  // One's own come first: what a key does for oneself is stronger than what it does for everyone.
  const keys: Record<string, () => void> = { [STANDARD_KEY]: () => choose(null) };
  for (const each of lens.views.toReversed()) if (each.hotkey !== null) keys[each.hotkey] = () => choose(each);
  return { ...lens, view, choose, keys };
}
