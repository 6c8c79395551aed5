import { configureStore } from '@reduxjs/toolkit';
import { type TypedUseSelectorHook, useDispatch, useSelector } from 'react-redux';
import { connection } from '../shared/api/connection.ts';
import { api, reporter } from './api.ts';
import { choices } from './features/booking/choices.slice.ts';
import { keepChoices, keptChoices } from './keptChoices.ts';

export const store = configureStore({
  reducer: { api: api.reducer, choices: choices.reducer, connection: connection.reducer },
  preloadedState: { choices: keptChoices(choices.getInitialState()) },
  middleware: (defaults) => defaults().concat(api.middleware),
});
reporter.attach(store.dispatch);

let kept = store.getState().choices;
store.subscribe(() => {
  const now = store.getState().choices;
  if (now === kept) return;
  kept = now;
  keepChoices(now, now === choices.getInitialState());
});

export type State = ReturnType<typeof store.getState>;
export const useAppDispatch = () => useDispatch<typeof store.dispatch>();
export const useAppSelector: TypedUseSelectorHook<State> = useSelector;
