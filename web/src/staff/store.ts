import { configureStore } from '@reduxjs/toolkit';
import { type TypedUseSelectorHook, useDispatch, useSelector } from 'react-redux';
import { connection } from '../shared/api/connection.ts';
import { api, reportConnectionTo } from './api.ts';
import { desk } from './features/daybook/desk.slice.ts';

export const store = configureStore({
  reducer: { api: api.reducer, desk: desk.reducer, connection: connection.reducer },
  middleware: (defaults) => defaults().concat(api.middleware),
});
let away = false;
reportConnectionTo((action) => {
  const next = action.type === connection.actions.wentAway.type;
  if (next !== away) store.dispatch(action);
  away = next;
});

export type State = ReturnType<typeof store.getState>;
export const useAppDispatch = () => useDispatch<typeof store.dispatch>();
export const useAppSelector: TypedUseSelectorHook<State> = useSelector;
