import { createSlice, type UnknownAction } from '@reduxjs/toolkit';
import type { ConnectionWatch } from './contractApi.ts';

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

/** Turns "this call was lost" and "this one was answered" into an action each time the state changes, and only then. */
export function connectionReporter(): {
  watch: ConnectionWatch;
  attach(dispatch: (action: UnknownAction) => void): void;
} {
  let dispatch: (action: UnknownAction) => void = () => undefined;
  let away = false;
  const set = (next: boolean) => {
    if (next !== away) dispatch(next ? connection.actions.wentAway() : connection.actions.cameBack());
    away = next;
  };
  return {
    watch: { away: () => set(true), back: () => set(false) },
    attach: (to) => {
      dispatch = to;
    },
  };
}
