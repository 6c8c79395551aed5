import { createFeed, listFeeds, readBusyTimes, revokeFeed } from '@zaguan/contracts/feeds';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const feedsApi = api.injectEndpoints({
  endpoints: (build) => ({
    feeds: queryOf(build, listFeeds, ['Hours']),
    createFeed: mutationOf(build, createFeed, ['Hours']),
    revokeFeed: mutationOf(build, revokeFeed, ['Hours']),
    readBusy: mutationOf(build, readBusyTimes, []),
  }),
});
