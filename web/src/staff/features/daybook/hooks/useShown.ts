import type { SiteDay, ViewSettings } from '@zaguan/contracts/daybook';
import { useMemo } from 'react';
import { type Shown, shownOf } from '../layout.ts';

/**
 * The hours that a Lens shows of these sites, missing until one is there. The same object as long as they are the same:
 * every lane is drawn by it.
 */
export function useShown(sites: readonly SiteDay[], view: ViewSettings): Shown | undefined {
  const { fromMin, toMin } = useMemo(
    () => (sites.length ? shownOf([...sites], view) : { fromMin: null, toMin: null }),
    [sites, view],
  );
  return useMemo(() => (fromMin === null || toMin === null ? undefined : { fromMin, toMin }), [fromMin, toMin]);
}
