import { useCallback, useMemo } from 'react';
import { prefs } from '../../../prefs.slice.ts';
import { useAddress } from '../../../shell/useAddress.ts';
import { useAppDispatch } from '../../../store.ts';
import { type PlaceAndTime, placeAndTimeOf, textOfPlaceAndTime } from '../../openings/index.ts';
import { LANE_SETS, type LaneSet } from '../layout.ts';

/** What the panel at the right shows: a visit, or a question about a time. */
export type Panel =
  | { readonly kind: 'visit'; readonly visitId: string }
  | ({ readonly kind: 'why-not' } & PlaceAndTime);

/** The parts of the address that a panel takes. */
const NO_PANEL = { visit: null, why: null, do: null };

function panelOf(visit: string | null, why: string | null): Panel | null {
  if (visit) return { kind: 'visit', visitId: visit };
  const asked = placeAndTimeOf(why);
  return asked && { kind: 'why-not', ...asked };
}

/** Whose lanes the Daybook draws and what stands beside them, as its address says. */
export function useDaybookAddress() {
  const { asked, set } = useAddress();
  const dispatch = useAppDispatch();
  const [visit, why] = [asked.get('visit'), asked.get('why')];
  const panel = useMemo(() => panelOf(visit, why), [visit, why]);
  const open = useCallback(
    (to: Panel) => {
      // Back closes a panel; from one to the next is no step of its own.
      const step = !/[?&](visit|why)=/.test(window.location.search);
      if (to.kind === 'visit') set({ ...NO_PANEL, visit: to.visitId }, step);
      else set({ ...NO_PANEL, why: textOfPlaceAndTime(to) }, step);
    },
    [set],
  );
  const close = useCallback(() => set(NO_PANEL), [set]);
  return {
    panel,
    open,
    close,
    /** `null` where the address names none. */
    siteId: asked.get('site'),
    lanes: LANE_SETS.find((each) => each === asked.get('lanes')) ?? ('people' as LaneSet),
    onlyWorking: asked.get('idle') !== 'shown',
    choose: {
      site: (siteId: string) => {
        // Kept for the next time: the desk stands where it stands.
        dispatch(prefs.actions.choseSite(siteId));
        set({ site: siteId });
      },
      lanes: (lanes: LaneSet) => set({ lanes: lanes === 'people' ? null : lanes }),
      onlyWorking: (only: boolean) => set({ idle: only ? null : 'shown' }),
    },
    /** The address's filters, for a link to another day: what was open belongs to this one. */
    filters: filtersOf(asked),
  };
}

function filtersOf(asked: URLSearchParams): string {
  const kept = new URLSearchParams(asked);
  for (const name of Object.keys(NO_PANEL)) kept.delete(name);
  const text = kept.toString();
  return text && `?${text}`;
}
