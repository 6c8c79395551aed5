import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { LaneSet } from './layout.ts';

/** What the panel at the right shows: a visit, or a question about a time. */
export type Panel =
  | { kind: 'visit'; visitId: string; laneId: string }
  | { kind: 'why-not'; siteId: string; resourceId: string; start: string }
  | null;

/** Interface state of the Daybook only; what is booked lives in the API's cache. */
export const desk = createSlice({
  name: 'desk',
  initialState: { panel: null as Panel, siteId: 'all', lanes: 'people' as LaneSet, onlyWorking: true },
  reducers: {
    opened: (state, { payload }: PayloadAction<Panel>) => {
      state.panel = payload;
    },
    closed: (state) => {
      state.panel = null;
    },
    choseLanes: (state, { payload }: PayloadAction<LaneSet>) => {
      state.lanes = payload;
    },
    choseOnlyWorking: (state, { payload }: PayloadAction<boolean>) => {
      state.onlyWorking = payload;
    },
    choseSite: (state, { payload }: PayloadAction<string>) => {
      state.siteId = payload;
    },
  },
});
