import { createSlice } from '@reduxjs/toolkit';

/** Whether the server can be reached; interface state only. */
export const connection = createSlice({
  name: 'connection',
  initialState: { away: false },
  reducers: {
    wentAway: (state) => {
      state.away = true;
    },
    cameBack: (state) => {
      state.away = false;
    },
  },
});
