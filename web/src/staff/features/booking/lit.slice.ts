import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ChosenTime, Wanted } from './flow.ts';

interface LitTimes {
  /** The booking whose times are lit in the Daybook, while its panel is open. */
  readonly asked: { readonly flowId: string; readonly wanted: Wanted } | null;
  /** A time that was pressed in the Daybook and is not taken up yet. */
  readonly picked: ChosenTime | null;
}

const NOTHING: LitTimes = { asked: null, picked: null };

/** What the booking panel and the Daybook beside it tell each other. */
export const litTimes = createSlice({
  name: 'litTimes',
  initialState: NOTHING,
  reducers: {
    lit: (_, { payload }: PayloadAction<NonNullable<LitTimes['asked']>>): LitTimes => ({
      asked: payload,
      picked: null,
    }),
    dark: (): LitTimes => NOTHING,
    picked: (state, { payload }: PayloadAction<ChosenTime>): LitTimes => ({
      asked: state.asked as LitTimes['asked'],
      picked: payload,
    }),
    takenUp: (state): LitTimes => ({ asked: state.asked as LitTimes['asked'], picked: null }),
  },
});
