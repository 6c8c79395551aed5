import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ChosenTime, Wanted } from './flow.ts';

/** A booking whose panel is open. */
interface OpenBooking {
  readonly flowId: string;
  /** What lights up in the Daybook; `null`: nothing yet, or times of several visits are looked for. */
  readonly wanted: Wanted | null;
}

interface LitTimes {
  readonly open: OpenBooking | null;
  /** A time that was pressed in the Daybook and is not taken up yet. */
  readonly picked: ChosenTime | null;
}

const NOTHING: LitTimes = { open: null, picked: null };

/** What the booking panel and the Daybook beside it tell each other. */
export const litTimes = createSlice({
  name: 'litTimes',
  initialState: NOTHING,
  reducers: {
    opened: (_, { payload }: PayloadAction<OpenBooking>): LitTimes => ({ open: payload, picked: null }),
    closed: (): LitTimes => NOTHING,
    picked: (state, { payload }: PayloadAction<ChosenTime>): LitTimes => ({ ...(state as LitTimes), picked: payload }),
    takenUp: (state): LitTimes => ({ ...(state as LitTimes), picked: null }),
  },
});
