import { configureStore } from '@reduxjs/toolkit';
import { type TypedUseSelectorHook, useDispatch, useSelector } from 'react-redux';
import { connection } from '../shared/api/connection.ts';
import { api, reporter } from './api.ts';
import { choices } from './features/booking/choices.slice.ts';

export const store = configureStore({
  reducer: { api: api.reducer, choices: choices.reducer, connection: connection.reducer },
  middleware: (defaults) => defaults().concat(api.middleware),
});
reporter.attach(store.dispatch);

export type State = ReturnType<typeof store.getState>;
export const useAppDispatch = () => useDispatch<typeof store.dispatch>();
export const useAppSelector: TypedUseSelectorHook<State> = useSelector;
