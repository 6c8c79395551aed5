import { settleCoverage, visitExtras } from '@zaguan/contracts/coverage';
import { claimWork, handleWork, todaysWork } from '@zaguan/contracts/today';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    today: queryOf(build, todaysWork, ['Today', 'IdentityReview', 'Intake']),
    claim: mutationOf(build, claimWork, ['Today']),
    finish: mutationOf(build, handleWork, ['Today']),
    settleCoverage: mutationOf(build, settleCoverage, ['Today']),
    visitExtras: queryOf(build, visitExtras, ['Today', 'Day']),
  }),
});
