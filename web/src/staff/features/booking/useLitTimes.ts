import { useCallback, useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import { type State, useAppDispatch, useAppSelector } from '../../store.ts';
import { bookingApi } from './booking.api.ts';
import type { ChosenTime, Wanted } from './flow.ts';
import { litTimes } from './lit.slice.ts';

/**
 * Lights up, in the Daybook beside it, where a visit could be while its booking is open. A time pressed there is chosen
 * for the booking, whatever of it is known: a press never begins another one over it.
 *
 * @param wanted `null`: nothing lights up
 */
export function useLitTimes(flowId: string, wanted: Wanted | null, onPick: (time: ChosenTime) => void): void {
  const dispatch = useAppDispatch();
  const picked = useAppSelector((state) => state.litTimes.picked);
  const what = JSON.stringify(wanted);
  useEffect(() => {
    dispatch(litTimes.actions.opened({ flowId, wanted: JSON.parse(what) }));
  }, [dispatch, flowId, what]);
  useEffect(() => () => void dispatch(litTimes.actions.closed()), [dispatch]);
  const pick = useRef(onPick);
  pick.current = onPick;
  useEffect(() => {
    if (!picked) return;
    dispatch(litTimes.actions.takenUp());
    pick.current(picked);
  }, [dispatch, picked]);
}

const DARK: readonly never[] = [];

/** Times of a site's day at which the visit that is being booked could be; empty while none is. */
export function useLitStarts(siteId: string, date: string): readonly { providerId: string | null; start: string }[] {
  const open = useAppSelector((state) => state.litTimes.open);
  const { currentData } = bookingApi.useTimesOfDayQuery(
    { ...open?.wanted, flowId: open?.flowId ?? null, siteId, date } as never,
    { skip: !open?.wanted },
  );
  return (open?.wanted && currentData?.times) || DARK;
}

/**
 * Chooses a time for the booking that is open, or answers `false` where none is. The same function all along: lanes are
 * not drawn again when a booking opens.
 */
export function usePickTime(): (time: ChosenTime) => boolean {
  const store = useStore<State>();
  return useCallback(
    (time) => {
      if (!store.getState().litTimes.open) return false;
      store.dispatch(litTimes.actions.picked(time));
      return true;
    },
    [store],
  );
}
