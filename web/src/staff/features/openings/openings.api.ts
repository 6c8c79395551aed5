import { findOpenings, findTimes, whyNot } from '@zaguan/contracts/openings';
import { queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const openingsApi = api.injectEndpoints({
  endpoints: (build) => ({
    whyNot: queryOf(build, whyNot, ['Openings']),
    find: queryOf(build, findOpenings, ['Openings']),
    times: queryOf(build, findTimes, ['Openings', 'Day', 'Hours']),
  }),
});
