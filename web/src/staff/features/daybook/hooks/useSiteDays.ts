import type { SiteDay } from '@zaguan/contracts/daybook';
import { useEffect, useMemo } from 'react';
import { shallowEqual } from 'react-redux';
import { type Dispatch, useAppDispatch, useAppSelector } from '../../../store.ts';
import { daybookApi } from '../daybook.api.ts';

/** One site's day. */
export interface SiteDate {
  readonly siteId: string;
  readonly date: string;
}

/** What is known of it. */
export interface LoadedDay extends SiteDate {
  /** Missing while it is loaded, and where the reader may not see it. */
  readonly site: SiteDay | undefined;
  readonly query: { readonly error?: unknown; readonly isFetching: boolean; refetch(): unknown };
}

const { initiate, select } = daybookApi.endpoints.day;

export const keyOf = ({ siteId, date }: SiteDate): string => `${date} ${siteId}`;

const asked = ({ siteId, date }: SiteDate) => ({ date, siteId });

/** Asks again, whatever is kept. */
export const askAgain = (of: SiteDate) => (dispatch: Dispatch) =>
  dispatch(initiate(asked(of), { subscribe: false, forceRefetch: true }));

/**
 * The days of sites, each asked for by itself: one that changes is fetched alone, and those that are out of sight not at
 * all. The list may grow and shrink from one drawing to the next.
 */
export function useSiteDays(wanted: readonly SiteDate[]): readonly LoadedDay[] {
  const dispatch = useAppDispatch();
  const keys = wanted.map(keyOf).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys are what the list says
  const list = useMemo(() => [...wanted], [keys]);
  useEffect(() => {
    const subscriptions = list.map((of) => dispatch(initiate(asked(of))));
    return () => {
      for (const { unsubscribe } of subscriptions) unsubscribe();
    };
  }, [list, dispatch]);
  const selectors = useMemo(() => list.map((of) => select(asked(of))), [list]);
  const states = useAppSelector((state) => selectors.map((selector) => selector(state)), shallowEqual);
  return useMemo(
    () =>
      states.map(({ data, error, isLoading, isUninitialized }, i) => ({
        ...list[i],
        site: data?.sites[0],
        query: {
          error,
          isFetching: isLoading || isUninitialized,
          refetch: () => void dispatch(askAgain(list[i])),
        },
      })),
    [states, list, dispatch],
  );
}
