import type { Lane, SiteDay, ViewSettings } from '@zaguan/contracts/daybook';
import { useCallback, useMemo, useState } from 'react';
import { type LaneSection, lanesOf } from '../layout.ts';
import { keyOf, type LoadedDay, type SiteDate, useSiteDays } from './useSiteDays.ts';

/** A site's day on the board, drawn or to be loaded when it comes into sight. */
export interface BoardPart extends SiteDate {
  readonly key: string;
  readonly title: string;
  /** `null`: not there yet. */
  readonly section: LaneSection | null;
  readonly query: LoadedDay['query'] | null;
}

/** What is loaded at once; the others follow as they come into sight. */
const FIRST = 2;
const NOTHING: readonly SiteDate[] = [];

interface Wanted extends SiteDate {
  readonly title: string;
  readonly titleLink?: string;
  readonly linkOf: (lane: Lane) => string;
}

/**
 * Sites' days for the board, each loaded by itself once it comes into sight.
 *
 * @param wanted the same list as long as it says the same
 * @param must what is loaded wherever it stands, or not on the board at all: what a panel shows
 */
export function useBoardParts(wanted: readonly Wanted[], view: ViewSettings, must: readonly SiteDate[] = NOTHING) {
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const see = useCallback(
    (key: string) => setSeen((before) => (before.has(key) ? before : new Set([...before, key]))),
    [],
  );
  const mustKeys = new Set(must.map(keyOf));
  const inSight = wanted.filter((of, i) => i < FIRST || seen.has(keyOf(of)) || mustKeys.has(keyOf(of)));
  const asked = [...inSight, ...must.filter((of) => !wanted.some((each) => keyOf(each) === keyOf(of)))];
  const loaded = useSiteDays(asked);
  const sectionOf = useSectionOf(view);
  const parts: readonly BoardPart[] = useMemo(() => {
    const byKey = new Map(loaded.map((day) => [keyOf(day), day]));
    return wanted.map((of) => {
      const { siteId, date, title } = of;
      const key = keyOf(of);
      const day = byKey.get(key);
      return {
        siteId,
        date,
        key,
        title,
        section: day?.site ? sectionOf(of, day.site) : null,
        query: day?.query ?? null,
      };
    });
  }, [wanted, loaded, sectionOf]);
  const sites = useMemo(() => loaded.flatMap(({ site }) => site ?? []), [loaded]);
  /** Whether something that was asked for is still to come. */
  const isPending = loaded.some(({ site, query }) => !site && query.isFetching);
  return { parts, see, sites, isPending };
}

/** A site's lanes by the Lens; the same object as long as neither changes, so that news of one site draws no other again. */
function useSectionOf(view: ViewSettings): (of: Wanted, site: SiteDay) => LaneSection {
  return useMemo(() => {
    const made = new WeakMap<SiteDay, LaneSection>();
    return (of, site) => {
      const known = made.get(site);
      if (known?.linkOf === of.linkOf) return known;
      const { title, titleLink, linkOf } = of;
      const section = { key: keyOf(of), site: { ...site, lanes: [...lanesOf(site, view)] }, title, titleLink, linkOf };
      made.set(site, section);
      return section;
    };
  }, [view]);
}
