import { searchPatients } from '@zaguan/contracts/patients';
import { queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const finderApi = api.injectEndpoints({
  endpoints: (build) => ({
    patients: queryOf(build, searchPatients, ['Patient', 'Day', 'IdentityReview']),
  }),
});
