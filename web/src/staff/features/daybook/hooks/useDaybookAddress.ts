import { LANE_SETS, type LaneSet } from '@zaguan/contracts/daybook';
import { useCallback, useMemo } from 'react';
import { prefs } from '../../../prefs.slice.ts';
import { useAddress } from '../../../shell/useAddress.ts';
import { useAppDispatch } from '../../../store.ts';
import { type PlaceAndTime, placeAndTimeOf, textOfPlaceAndTime } from '../../openings/index.ts';

/** What the panel at the right shows: a visit, a booking under way, or a question about a time. */
export type Panel =
  | { readonly kind: 'visit'; readonly visitId: string }
  | {
      readonly kind: 'book';
      readonly patientId: string | null;
      readonly at: PlaceAndTime | null;
      readonly use: string | null;
      /** What they come for, where that is known. */
      readonly visitTypeId: string | null;
      /** Found times of several visits, as `findText` writes them. */
      readonly found: string | null;
    }
  | ({ readonly kind: 'note' } & NoteAsked)
  | ({ readonly kind: 'why-not' } & PlaceAndTime);

/** A note of the day, or one to be written for a site or a lane. */
export type NoteAsked =
  | { readonly noteId: string }
  | { readonly noteId: null; readonly date: string; readonly siteId: string; readonly resourceId: string | null };

/** The parts of the address that a panel takes. */
const NO_PANEL = {
  ...{ visit: null, why: null, book: null, for: null, use: null, type: null, found: null, do: null },
  note: null,
};
/** A booking that no time or patient is chosen for yet. */
const NEW = 'new';
/** A booking that nothing is known of yet. */
export const NEW_BOOKING = {
  ...{ kind: 'book', patientId: null, at: null, use: null, visitTypeId: null, found: null },
} as const satisfies Panel;

type Asked = Readonly<Record<'visit' | 'why' | 'book' | 'patient' | 'use' | 'type' | 'found' | 'note', string | null>>;

/** `new/date/site` or `new/date/site/lane`; else the note's id. */
function noteAskedOf(note: string): NoteAsked {
  const [first, date, siteId, resourceId = null] = note.split('/');
  return first === NEW && date && siteId ? { noteId: null, date, siteId, resourceId } : { noteId: note };
}

function textOfNote(asked: NoteAsked): string {
  return asked.noteId ?? [NEW, asked.date, asked.siteId, asked.resourceId].filter(Boolean).join('/');
}

function panelOf({ visit, why, book, patient, use, type, found, note }: Asked): Panel | null {
  if (visit) return { kind: 'visit', visitId: visit };
  if (note) return { kind: 'note', ...noteAskedOf(note) };
  if (book) return { kind: 'book', patientId: patient, at: placeAndTimeOf(book), use, visitTypeId: type, found };
  const place = placeAndTimeOf(why);
  return place && { kind: 'why-not', ...place };
}

/** Whose lanes the Daybook draws and what stands beside them, as its address says. */
export function useDaybookAddress() {
  const { asked, set } = useAddress();
  const dispatch = useAppDispatch();
  const [visit, why, book, patient, use, type, found, note] = [
    ...['visit', 'why', 'book', 'for', 'use', 'type', 'found', 'note'],
  ].map((name) => asked.get(name));
  const panel = useMemo(
    () => panelOf({ visit, why, book, patient, use, type, found, note }),
    [visit, why, book, patient, use, type, found, note],
  );
  const open = useCallback(
    (to: Panel) => {
      // Back closes a panel; from one to the next is no step of its own.
      const step = !/[?&](visit|why|book|note)=/.test(window.location.search);
      if (to.kind === 'visit') set({ ...NO_PANEL, visit: to.visitId }, step);
      else if (to.kind === 'book')
        set(
          {
            ...{ ...NO_PANEL, book: to.at ? textOfPlaceAndTime(to.at) : NEW, for: to.patientId, use: to.use },
            ...{ type: to.visitTypeId, found: to.found },
          },
          step,
        );
      else if (to.kind === 'note') set({ ...NO_PANEL, note: textOfNote(to) }, step);
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
    /** `null` where the Lens decides. */
    lanes: LANE_SETS.find((each) => each === asked.get('lanes')) ?? null,
    onlyWorking: asked.has('idle') ? asked.get('idle') !== 'shown' : null,
    allHours: asked.get('hours') === 'all',
    choose: {
      site: (siteId: string) => {
        // Kept for the next time: the desk stands where it stands.
        dispatch(prefs.actions.choseSite(siteId));
        set({ site: siteId });
      },
      lanes: (lanes: LaneSet) => set({ lanes }),
      onlyWorking: (only: boolean) => set({ idle: only ? 'hidden' : 'shown' }),
      allHours: () => set({ hours: 'all' }),
      /** As the Lens has it. */
      asLens: () => set({ lanes: null, idle: null, hours: null }),
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
