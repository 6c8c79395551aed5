import { useEffect, useMemo, useRef } from 'react';
import { useAppDispatch, useAppSelector } from '../../store.ts';
import { bookingApi } from './booking.api.ts';
import type { ChosenTime, Wanted } from './flow.ts';
import { litTimes } from './lit.slice.ts';

/**
 * Lights up, in the Daybook beside it, where a visit could be while its booking is open; a time pressed there is chosen.
 *
 * @param onPick `null`: no single time is being looked for
 */
export function useLitTimes(flowId: string, wanted: Wanted | null, onPick: ((time: ChosenTime) => void) | null): void {
  const dispatch = useAppDispatch();
  const picked = useAppSelector((state) => state.litTimes.picked);
  const what = wanted && onPick ? JSON.stringify(wanted) : null;
  useEffect(() => {
    if (what === null) return;
    dispatch(litTimes.actions.lit({ flowId, wanted: JSON.parse(what) }));
    return () => void dispatch(litTimes.actions.dark());
  }, [dispatch, flowId, what]);
  const pick = useRef(onPick);
  pick.current = onPick;
  useEffect(() => {
    if (!picked) return;
    dispatch(litTimes.actions.takenUp());
    pick.current?.(picked);
  }, [dispatch, picked]);
}

const DARK: readonly never[] = [];

/** Times of a site's day at which the visit that is being booked could be; empty while none is. */
export function useLitStarts(siteId: string, date: string): readonly { providerId: string | null; start: string }[] {
  const asked = useAppSelector((state) => state.litTimes.asked);
  const { currentData } = bookingApi.useTimesOfDayQuery(
    { ...asked?.wanted, flowId: asked?.flowId ?? null, siteId, date } as never,
    { skip: !asked },
  );
  return (asked && currentData?.times) || DARK;
}

/** Chooses a time for the booking that is open; `null` while none is that looks for one. */
export function usePickTime(): ((time: ChosenTime) => void) | null {
  const dispatch = useAppDispatch();
  const isOpen = useAppSelector((state) => state.litTimes.asked !== null);
  // The same function every time: lanes are not drawn again for it.
  return useMemo(
    () => (isOpen ? (time: ChosenTime) => void dispatch(litTimes.actions.picked(time)) : null),
    [isOpen, dispatch],
  );
}
