import { settleCoverage, visitExtras } from '@zaguan/contracts/coverage';
import { claimWork, countWork, handleWork, assignFlag, seeOpening, todaysWork } from '@zaguan/contracts/today';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    today: queryOf(build, todaysWork, ['Today', 'IdentityReview', 'Intake']),
    count: queryOf(build, countWork, ['WorkCount']),
    claim: mutationOf(build, claimWork, ['Today']),
    assignFlag: mutationOf(build, assignFlag, ['Today', 'WorkCount']),
    finish: mutationOf(build, handleWork, ['Today', 'WorkCount']),
    seeOpening: mutationOf(build, seeOpening, ['Today', 'WorkCount']),
    settleCoverage: mutationOf(build, settleCoverage, ['Today', 'WorkCount']),
    visitExtras: queryOf(build, visitExtras, ['Today', 'Day']),
  }),
});
