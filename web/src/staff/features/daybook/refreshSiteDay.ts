import type { Dispatch, State } from '../../store.ts';
import { daybookApi } from './daybook.api.ts';
import { askAgain, keyOf, type SiteDate } from './hooks/useSiteDays.ts';

/** Fetches under way, and whether there was news meanwhile: what is being fetched may be older than it. */
const underWay = new Map<string, { again: boolean }>();

/** Fetches one site's day again, if it is kept here. */
export const refreshSiteDay =
  (of: SiteDate) =>
  async (dispatch: Dispatch, getState: () => State): Promise<void> => {
    const key = keyOf(of);
    const other = underWay.get(key);
    if (other) {
      other.again = true;
      return;
    }
    const kept = daybookApi.util
      .selectCachedArgsForQuery(getState(), 'day')
      .some(({ siteId, date }) => siteId === of.siteId && date === of.date);
    if (!kept) return;
    const mine = { again: false };
    underWay.set(key, mine);
    try {
      // One that was asked for before the news comes with what was there then.
      await dispatch(daybookApi.util.getRunningQueryThunk('day', of));
      do {
        mine.again = false;
        await dispatch(askAgain(of));
      } while (mine.again);
    } finally {
      underWay.delete(key);
    }
  };
