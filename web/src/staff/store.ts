import { configureStore } from '@reduxjs/toolkit';
import { type TypedUseSelectorHook, useDispatch, useSelector } from 'react-redux';
import { connection } from '../shared/api/connection.ts';
import { api, reporter } from './api.ts';
import { drag } from './features/daybook/drag/drag.slice.ts';
import { litTimes } from './features/booking/lit.slice.ts';
import { prefs } from './prefs.slice.ts';

export const store = configureStore({
  reducer: {
    api: api.reducer,
    prefs: prefs.reducer,
    litTimes: litTimes.reducer,
    drag: drag.reducer,
    connection: connection.reducer,
  },
  middleware: (defaults) => defaults().concat(api.middleware),
});
reporter.attach(store.dispatch);

export type State = ReturnType<typeof store.getState>;
export type Dispatch = typeof store.dispatch;
export const useAppDispatch = () => useDispatch<Dispatch>();
export const useAppSelector: TypedUseSelectorHook<State> = useSelector;
