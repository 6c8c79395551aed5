import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { ZOOMS } from '@zaguan/contracts/daybook';
import { z } from 'zod';

export const THEMES = ['light', 'dark', 'device'] as const;
export type Theme = (typeof THEMES)[number];

/** The Lens that is always there. */
export const STANDARD = 'standard';

const kept = z.object({
  theme: z.enum(THEMES),
  /** The site chosen last at this desk, or "all"; `null` before any choice. */
  siteId: z.string().nullable().default(null),
  /** Columns of the Patients page that are not shown. */
  hiddenColumns: z.array(z.string()).default([]),
  /** The Lens chosen at this desk (`null`: none yet), and what was changed of it here for the moment (`null`: nothing). */
  view: z
    .object({ id: z.string().nullable(), zoom: z.literal([...ZOOMS]).nullable(), namesHidden: z.boolean().nullable() })
    .default({ id: null, zoom: null, namesHidden: null }),
  /** Whether the Bench is open below the lanes. */
  benchOpen: z.boolean().default(false),
  /** Whether single letters do something (WCAG 2.2, 2.1.4: they can be turned off). */
  letterKeys: z.boolean().default(true),
});
type Prefs = z.output<typeof kept>;

const KEY = 'zaguan.prefs';
const DEFAULT_PREFS: Prefs = {
  ...{ theme: 'light', siteId: null, hiddenColumns: [], view: { id: null, zoom: null, namesHidden: null } },
  ...{ letterKeys: true, benchOpen: false },
};

/** What this browser kept; the usual where it kept nothing, or nothing readable. */
function readKept(): Prefs {
  try {
    const found = kept.safeParse(JSON.parse(localStorage.getItem(KEY) ?? 'null'));
    return found.success ? found.data : DEFAULT_PREFS;
  } catch {
    return DEFAULT_PREFS;
  }
}

/** How this browser shows things; never what is shown. */
export const prefs = createSlice({
  name: 'prefs',
  initialState: readKept,
  reducers: {
    choseTheme: (state, { payload }: PayloadAction<Theme>) => {
      state.theme = payload;
    },
    choseSite: (state, { payload }: PayloadAction<string>) => {
      state.siteId = payload;
    },
    toggledColumn: (state, { payload }: PayloadAction<string>) => {
      state.hiddenColumns = state.hiddenColumns.includes(payload)
        ? state.hiddenColumns.filter((id) => id !== payload)
        : [...state.hiddenColumns, payload];
    },
    hidNames: (state, { payload }: PayloadAction<boolean>) => {
      state.view.namesHidden = payload;
    },
    openedBench: (state, { payload }: PayloadAction<boolean>) => {
      state.benchOpen = payload;
    },
    setLetterKeys: (state, { payload }: PayloadAction<boolean>) => {
      state.letterKeys = payload;
    },
    /** @param payload from which width, and one step wider or narrower */
    zoomed: (state, { payload }: PayloadAction<{ from: (typeof ZOOMS)[number]; by: 1 | -1 }>) => {
      const at = ZOOMS.indexOf(payload.from) + payload.by;
      if (at >= 0 && at < ZOOMS.length) state.view.zoom = ZOOMS[at];
    },
    /** A Lens is drawn as it was made: what was changed for the moment was of the one before. */
    choseView: (state, { payload }: PayloadAction<string>) => {
      state.view = { id: payload, zoom: null, namesHidden: null };
    },
  },
});

/** Puts the theme on the page and keeps the choices, now and whenever they change. */
export function applyPrefs(store: { getState(): { prefs: Prefs }; subscribe(listener: () => void): void }): void {
  const evening = matchMedia('(prefers-color-scheme: dark)');
  let last: Prefs | null = null;
  const apply = () => {
    const now = store.getState().prefs;
    document.documentElement.dataset.theme = now.theme === 'device' ? (evening.matches ? 'dark' : 'light') : now.theme;
    if (now === last) return;
    if (last)
      try {
        localStorage.setItem(KEY, JSON.stringify(now));
      } catch {
        // A browser that keeps nothing still shows what was chosen.
      }
    last = now;
  };
  apply();
  store.subscribe(apply);
  evening.addEventListener('change', apply);
}
