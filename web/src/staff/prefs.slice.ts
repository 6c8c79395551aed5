import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';

export const THEMES = ['light', 'dark', 'device'] as const;
export type Theme = (typeof THEMES)[number];

/** How much wider than "the whole day fits" an hour is drawn. */
export const ZOOMS = [1, 1.5, 2, 3, 4] as const;

const kept = z.object({
  theme: z.enum(THEMES),
  namesHidden: z.boolean(),
  zoom: z.literal([...ZOOMS]),
  /** The site chosen last at this desk, or "all"; `null` before any choice. */
  siteId: z.string().nullable().default(null),
  /** Columns of the Patients page that are not shown. */
  hiddenColumns: z.array(z.string()).default([]),
  /** Whether single letters do something (WCAG 2.2, 2.1.4: they can be turned off). */
  letterKeys: z.boolean().default(true),
});
type Prefs = z.output<typeof kept>;

const KEY = 'zaguan.prefs';
const DEFAULT_PREFS: Prefs = {
  ...{ theme: 'light', namesHidden: false, zoom: 1, siteId: null, hiddenColumns: [] },
  letterKeys: true,
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
      state.namesHidden = payload;
    },
    setLetterKeys: (state, { payload }: PayloadAction<boolean>) => {
      state.letterKeys = payload;
    },
    zoomed: (state, { payload }: PayloadAction<1 | -1>) => {
      const at = ZOOMS.indexOf(state.zoom) + payload;
      if (at >= 0 && at < ZOOMS.length) state.zoom = ZOOMS[at];
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
