import { useAddress } from '../../../shell/useAddress.ts';
import { LANE_KINDS } from '../../daybook/index.ts';
import type { Panel } from '../panel.ts';
import { fromAddress, isOfDay, toAddress } from '../panelAddress.ts';

/** What the page's address says: the week, whose lanes, which draft, and the panel that is open. */
export function useAvailabilityAddress() {
  const { asked, set } = useAddress();
  const panel = fromAddress(asked);
  return {
    week: asked.get('week'),
    lanes: LANE_KINDS.find((each) => each === asked.get('lanes')) ?? 'people',
    draftId: asked.get('draft') ?? undefined,
    /** Brought into sight. */
    lane: asked.get('lane'),
    panel,
    /** A panel about a day is closed: in another week it would be about another one. What was typed in it is kept. */
    goTo: (date: string) => set({ week: date, ...(panel && isOfDay(panel) && toAddress(null)) }, true),
    show: (lanes: string) => set({ lanes }),
    /** With the week, so that a day of it stays the day that was meant. */
    open: (next: Panel | null, week: string) => set({ week, ...toAddress(next) }),
    work: (draft: string | null) => set({ draft, ...toAddress(null) }),
    /** The guide leads here with a person, and often a site, whose hours are missing. */
    person: asked.get('person'),
    site: asked.get('site'),
    /** What the guide asked for becomes an ordinary panel. */
    arrive: (panel: Panel, week: string) => set({ week, person: null, site: null, ...toAddress(panel) }),
  };
}

export type AvailabilityAddress = ReturnType<typeof useAvailabilityAddress>;
