import type { Dispatch, State } from '../../store.ts';
import { daybookApi, pageOfDay, siteDayOf } from './daybook.api.ts';

/** Fetches under way, and whether there was news meanwhile: what is being fetched may be older than it. */
const underWay = new Map<string, { again: boolean }>();

/** Fetches one site of a day again and puts it into the Daybook's page of that day, if there is one. */
export const refreshSiteDay =
  (siteId: string, date: string) =>
  async (dispatch: Dispatch, getState: () => State): Promise<void> => {
    const key = siteDayOf(siteId, date).id;
    const other = underWay.get(key);
    if (other) {
      other.again = true;
      return;
    }
    const mine = { again: false };
    underWay.set(key, mine);
    try {
      do {
        mine.again = false;
        await fetchInto(siteId, date, dispatch, getState);
      } while (mine.again);
    } finally {
      underWay.delete(key);
    }
  };

async function fetchInto(siteId: string, date: string, dispatch: Dispatch, getState: () => State): Promise<void> {
  const pages = daybookApi.util.selectCachedArgsForQuery(getState(), 'day').filter((asked) => asked.date === date);
  if (!pages.length) return;
  const { data } = await dispatch(
    daybookApi.endpoints.siteDay.initiate({ date, siteId }, { subscribe: false, forceRefetch: true }),
  );
  // The whole page has words for what is wrong.
  if (!data) return void dispatch(daybookApi.util.invalidateTags([pageOfDay(date)]));
  for (const asked of pages) {
    // A page that is being fetched comes with what was there when it was asked for, and would cover the news.
    await dispatch(daybookApi.util.getRunningQueryThunk('day', asked));
    dispatch(
      daybookApi.util.updateQueryData('day', asked, (page) => {
        // A page that was read later knows more.
        if (page.now > data.now) return;
        page.now = data.now;
        page.sites = page.sites.map((site) => data.sites.find(({ id }) => id === site.id) ?? site);
      }),
    );
  }
}
